import { useEffect, useState } from 'react';
import {
  GATINGS,
  type FillInPreview,
  type Gating,
  type GatingDecision,
  type GatingSettings,
  type GatingView,
} from '@mistpeak/contract/gating';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useMainLink } from '../../live/main-link';
import { useLive } from '../../live/store';
import { formatClock } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { DraftNote } from '../../pieces/draft-note';
import { NumberField } from '../../pieces/field';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { useGatingSettings } from './gating-settings';

const NAMES: Record<Gating, string> = {
  'to the internet': 'Receive gate: radio to internet',
  'to radio': 'Transmit gate: messages to radio',
  repeated: 'Fill-in digipeater',
};

/** What this station passes on for others, by which rules, and what it decided. */
export function GatesPart() {
  const view = useLive((state) => state.gating);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p role="status" className="max-w-[46rem] text-[19px] leading-snug font-[620]">
          {inWords(view)}
        </p>
        <Preview />
        <Counts view={view} />
        <Decisions decisions={view.decisions} />
        <details className="max-w-[46rem] text-[13.5px] text-ink2">
          <summary className="cursor-pointer max-md:min-h-11">The rules in force</summary>
          <ul className="list-disc pl-5">
            <li>
              To the internet: never what bears TCPIP, TCPXX, NOGATE or RFONLY, no query to all; third-party
              packets are unwrapped; only after a verified login.
            </li>
            <li>
              To radio: only a message whose addressee was heard on radio within 30 minutes and at most two
              hops away, was not heard by the internet, and whose sender was not heard on radio; then the
              sender’s next position.
            </li>
            <li>
              Repeated: only a first hop WIDE1-1, or this call by name; the call takes the alias’ place; each
              packet once in 30 s.
            </li>
          </ul>
        </details>
      </div>
      <OperatorOnly>
        <Settings />
      </OperatorOnly>
    </div>
  );
}

function inWords({ settings }: GatingView): string {
  const on = [
    ...(settings?.receiveGate ? ['passes what it hears to the internet'] : []),
    ...(settings?.transmitGate ? ['puts messages of the internet on the air'] : []),
    ...(settings?.fillIn ? ['repeats the first hop for stations near'] : []),
  ];
  return on.length === 0
    ? 'This station passes nothing on for others.'
    : `This station ${on.join(', and ')}.`;
}

/** Whether repeating here would gain anything. */
function Preview() {
  const link = useMainLink();
  const [preview, setPreview] = useState<FillInPreview>();
  const id = link?.id;
  useEffect(() => {
    if (id === undefined) return;
    const asking = new AbortController();
    command<FillInPreview>('GET', `/gating/fill-in/${id}`, undefined, asking.signal).then(
      setPreview,
      () => undefined,
    );
    return () => asking.abort();
  }, [id]);
  if (!preview) return null;
  return (
    <p className="max-w-[46rem] text-[14.5px]" data-testid="preview">
      This station as a fill-in: {preview.words}.
      {preview.gained.length > 0 &&
        ` Nobody else repeats ${preview.gained
          .slice(0, 4)
          .map(({ call, count }) => `${call} (${count})`)
          .join(', ')}.`}
    </p>
  );
}

function Counts({ view }: { view: GatingView }) {
  const told = GATINGS.filter(
    (gating) => view.counts[gating].passed > 0 || Object.keys(view.counts[gating].refused).length > 0,
  );
  if (told.length === 0) return null;
  return (
    <Table
      columns={['Since the start', 'Passed', 'Not passed, and why']}
      className="w-full text-[14px]"
      stacks
    >
      {told.map((gating) => (
        <tr key={gating} className="border-t border-line align-baseline">
          <th scope="row" className="py-1.5 pr-4 font-[560]">
            {NAMES[gating]}
          </th>
          <td className="py-1.5 pr-4 font-mono">{view.counts[gating].passed}</td>
          <td className="py-1.5">
            {Object.entries(view.counts[gating].refused)
              .map(([reason, count]) => `${count} ${reason}`)
              .join('; ') || 'none'}
          </td>
        </tr>
      ))}
    </Table>
  );
}

function Decisions({ decisions }: { decisions: readonly GatingDecision[] }) {
  if (decisions.length === 0) return null;
  return (
    <section aria-label="Decisions">
      <h2>Decided last</h2>
      <ol className="pt-1 text-[13.5px]">
        {decisions.slice(0, 20).map(({ id, atMs, gating, source, words, refused }) => (
          <li key={id} className="grid grid-cols-[72px_1fr] gap-x-2 border-t border-line py-1">
            <time className="font-mono text-ink3">{formatClock(atMs, 'utc')}</time>
            <span className="min-w-0 break-words">
              <b className="font-mono">{source}</b>{' '}
              {refused === undefined ? (
                <span className="font-[620] text-proved">{gating}</span>
              ) : (
                <span className="text-ink2">
                  not {gating}: {refused}
                </span>
              )}{' '}
              <span className="font-mono text-ink3">{words}</span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Settings() {
  const { saved, version } = useGatingSettings();
  const { values, set, wasBegun, drop } = useDraft<GatingSettings>('gating', saved);
  const { problem, isBusy, attempt } = useAttempt();
  const fields = problem?.fields ?? {};
  const change = (more: Partial<GatingSettings>): void => set({ ...values, ...more });
  const check = (name: keyof GatingSettings, label: string): React.ReactNode => (
    <label className="flex min-h-8 items-start gap-2.5 text-[14.5px] max-md:min-h-11">
      <input
        type="checkbox"
        className="mt-0.5 size-4.5 shrink-0"
        checked={values[name] === true}
        onChange={({ target }) => change({ [name]: target.checked })}
      />
      {label}
    </label>
  );
  return (
    <form
      noValidate
      aria-label="What is passed on"
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(async () => {
          await command('PUT', '/gating/settings', {
            ...values,
            ...(version === undefined ? {} : { version }),
          });
          drop();
        });
      }}
    >
      <h2>What is passed on</h2>
      {wasBegun && <DraftNote drop={drop} />}
      <LinkField
        label="Radio side"
        value={values.linkId}
        error={fields.linkId}
        set={(linkId) => change({ linkId })}
      />
      {check('receiveGate', 'Pass what is heard to the internet')}
      {check('transmitGate', 'Put messages of the internet on the air')}
      {check('fillIn', 'Repeat the first hop (WIDE1-1) for stations near')}
      {check('isViscous', 'Repeat only what nobody else repeats within 5 s')}
      <div className="border-l-[3px] border-look pl-3">
        {check(
          'allowsAutomatic',
          'My local rules allow this station to send while nobody is there, and I know them',
        )}
        {fields.allowsAutomatic !== undefined && (
          <p role="alert" className="text-[13.5px] text-stop">
            {fields.allowsAutomatic}
          </p>
        )}
      </div>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Messages a minute"
          value={values.mostPerMinute}
          error={fields.mostPerMinute}
          hint="to radio, at most"
          set={(mostPerMinute = NaN) => change({ mostPerMinute })}
        />
        <NumberField
          label="Share, %"
          value={values.sharePercent}
          error={fields.sharePercent}
          hint="of the channel, to repeat"
          set={(sharePercent = NaN) => change({ sharePercent })}
        />
      </div>
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <p className="text-[13px] text-ink3">
        What goes on the air also waits for the armed transmitter. Third-party traffic has rules of its own.
      </p>
      <div>
        <Button type="submit" kind="main" disabled={isBusy}>
          Save what is passed on
        </Button>
      </div>
    </form>
  );
}
