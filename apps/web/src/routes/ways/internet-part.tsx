import { shortestEveryMs } from '@mistpeak/core/beacon/plan';
import { likelyWay } from '@mistpeak/core/internet/way';
import { formatFilter, parseFilter } from '@mistpeak/core/internet/filter';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { passcode } from '@mistpeak/core/callsign/passcode';
import type { InternetSettings, InternetView } from '@mistpeak/contract/internet';
import type { OperatorView } from '@mistpeak/contract/operator';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { DraftNote } from '../../pieces/draft-note';
import { NumberField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { Table } from '../../pieces/table';
import { internetInWords } from './internet-words';

/** The connection to the internet service, and what came by it of ours. */
export function InternetPart({ operator }: { operator: OperatorView }) {
  const view = useLive((state) => state.internet);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="flex min-w-0 flex-col gap-4">
        <p role="status" className="max-w-[46rem] text-[19px] leading-snug font-[620]">
          {internetInWords(view)}
        </p>
        {view.detail !== undefined && (
          <p className="font-mono text-[13.5px] break-words text-ink2">{view.detail}</p>
        )}
        <Switches view={view} />
        <OwnWays view={view} />
        <Counts view={view} />
        <p className="max-w-[46rem] text-[13.5px] text-ink2">
          What comes by the internet proves no radio: it lights no rung of the climb but “at a gateway”, and
          that only where a gate that is not yours heard your frame on radio. The passcode is a public hash of
          the call, no secret. What is sent there is public and stays public.
        </p>
      </div>
      <OperatorOnly>
        <Settings operator={operator} view={view} />
      </OperatorOnly>
    </div>
  );
}

function Switches({ view: { settings } }: { view: InternetView }) {
  const { problem, isBusy, attempt } = useAttempt();
  if (!settings) return null;
  const change = (more: Partial<InternetSettings>): void =>
    void attempt(() => command('PUT', '/internet/settings', { ...settings, ...more }));
  return (
    <OperatorOnly>
      <div className="flex flex-wrap items-center gap-2">
        <Button
          kind={settings.isOn ? 'stop' : 'main'}
          disabled={isBusy}
          onClick={() => change({ isOn: !settings.isOn })}
        >
          {settings.isOn ? 'Leave the internet side' : 'Connect to the internet side'}
        </Button>
        <Button disabled={isBusy} onClick={() => change({ sends: !settings.sends })}>
          {settings.sends ? 'Let nothing of mine leave by it' : 'Let my messages leave by it'}
        </Button>
      </div>
      {problem && <ProblemNote problem={problem} />}
    </OperatorOnly>
  );
}

/** RF or internet? Of each station of ours. */
function OwnWays({ view: { ways } }: { view: InternetView }) {
  return (
    <section aria-label="My stations there" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>My stations there: radio or internet?</h2>
      {ways.length === 0 ? (
        <p className="pt-1 text-[14px] text-ink2">
          Nothing of yours came by yet. Send a beacon: if a gate hears it, its copy comes back here.
        </p>
      ) : (
        <ul className="pt-1 text-[14.5px]">
          {ways.map(({ call, words, byRadio, all, atMs }) => (
            <li key={call} className="flex flex-wrap items-center gap-x-3 border-t border-line py-1.5">
              <b className="font-mono">{call}</b>
              <Share part={byRadio} of={all} />
              <span>{words}</span>
              <Likely call={call} atMs={atMs} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** The spacing of its dots, compared with what leaves by a plan: a hint, never a proof. */
function Likely({ call, atMs }: { call: string; atMs: readonly number[] }) {
  const { beaconWays, links } = useLive();
  const plans = beaconWays
    .filter(({ source, isOn }) => isOn && source === call)
    .map(({ linkId, plan }) => ({
      name: links.find(({ id }) => id === linkId)?.settings.name ?? 'a link',
      everyMs: shortestEveryMs(plan),
    }));
  const likely = likelyWay(atMs, plans);
  if (likely === undefined) return null;
  return (
    <span className="text-[13.5px] text-ink2">spaced like what leaves by {likely}: likely, no proof</span>
  );
}

/** The part by radio filled, the rest hollow. */
function Share({ part, of }: { part: number; of: number }) {
  const width = of === 0 ? 0 : (part / of) * 60;
  return (
    <svg width="62" height="10" aria-hidden>
      <rect x="0.5" y="0.5" width="60" height="9" fill="none" stroke="var(--edge)" strokeDasharray="2 2" />
      <rect x="0.5" y="0.5" width={width} height="9" fill="var(--provedfill)" />
    </svg>
  );
}

function Counts({ view: { counts, lastAtMs, phase } }: { view: InternetView }) {
  const nowMs = useNow(1000);
  if (phase === 'off' && counts.lines === 0) return null;
  return (
    <Table columns={['Since the start', 'Count']} className="max-w-[26rem] text-[14px]">
      {(
        [
          ['lines', counts.lines],
          ['packets', counts.packets],
          ['duplicates within half a minute', counts.duplicates],
          ['lines that are no packet', counts.unreadable],
          ['lines too long, dropped', counts.tooLong],
          ['sent by us', counts.sent],
        ] as const
      ).map(([name, count]) => (
        <tr key={name} className="border-t border-line">
          <th scope="row" className="py-1 font-[450]">
            {name}
          </th>
          <td className="py-1 font-mono">{count}</td>
        </tr>
      ))}
      <tr className="border-t border-line">
        <th scope="row" className="py-1 font-[450]">
          last line
        </th>
        <td className="py-1">{lastAtMs === undefined ? 'none' : `${formatAge(nowMs - lastAtMs)} ago`}</td>
      </tr>
    </Table>
  );
}

function Settings({ operator, view }: { operator: OperatorView; view: InternetView }) {
  const saved: InternetSettings = view.settings ?? firstSettings(operator);
  const { values, set, wasBegun, drop } = useDraft<InternetSettings>('internet side', saved);
  const { problem, isBusy, attempt } = useAttempt();
  const fields = problem?.fields ?? {};
  const change = (more: Partial<InternetSettings>): void => set({ ...values, ...more });
  return (
    <form
      noValidate
      aria-label="Connection"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(async () => {
          const version = view.settings?.version;
          await command('PUT', '/internet/settings', {
            ...values,
            ...(version === undefined ? {} : { version }),
          });
          drop();
        });
      }}
    >
      <h2>Connection</h2>
      {wasBegun && <DraftNote drop={drop} />}
      <TextField
        label="Server"
        mono
        value={values.host}
        error={fields.host}
        hint="the address of a server of the internet service; none is built in"
        onChange={({ target }) => change({ host: target.value })}
      />
      <NumberField
        label="Port"
        value={values.port}
        error={fields.port}
        hint="14580 is usual for filtered connections"
        set={(port = NaN) => change({ port })}
      />
      <TextField
        label="Call with SSID"
        mono
        value={values.call}
        error={fields.call}
        hint="one that none of your radios uses"
        onChange={({ target }) => change({ call: target.value.toUpperCase() })}
      />
      <label className="flex min-h-8 items-center gap-2.5 text-[14.5px] max-md:min-h-11">
        <input
          type="checkbox"
          className="size-4.5"
          checked={values.isVerified}
          onChange={({ target }) => change({ isVerified: target.checked })}
        />
        Log in verified, with the passcode {passcode(values.call)}
      </label>
      <FilterField
        value={values.filter}
        error={fields.filter}
        set={(filter) => change({ filter })}
        operator={operator}
      />
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <div>
        <Button type="submit" kind="main" disabled={isBusy}>
          Save the connection
        </Button>
      </div>
    </form>
  );
}

/** What the server is asked to send: built by buttons, shown and changed as text. */
function FilterField({
  value,
  error,
  set,
  operator,
}: {
  value: string;
  error: string | undefined;
  set: (filter: string) => void;
  operator: OperatorView;
}) {
  const parts = parseFilter(value);
  const add = (more: Parameters<typeof formatFilter>[0]): void =>
    set(formatFilter([...(isMalformed(parts) ? [] : parts), ...more]));
  return (
    <div className="flex flex-col gap-2">
      <TextField
        label="Asks for"
        mono
        value={value}
        error={error ?? (isMalformed(parts) ? parts.malformed : undefined)}
        hint={isMalformed(parts) ? '' : filterInWords(parts)}
        onChange={({ target }) => set(target.value)}
      />
      <span className="flex flex-wrap gap-1.5">
        {operator.position && (
          <Button
            onClick={() =>
              add([
                {
                  kind: 'range',
                  ...(operator.position as { latitudeDeg: number; longitudeDeg: number }),
                  km: 50,
                },
              ])
            }
          >
            + 50 km round me
          </Button>
        )}
        <Button onClick={() => add([{ kind: 'calls', texts: [`${operator.call}*`] }])}>+ my stations</Button>
        <Button onClick={() => add([{ kind: 'kinds', letters: 'm' }])}>+ messages</Button>
      </span>
    </div>
  );
}

export function filterInWords(parts: Parameters<typeof formatFilter>[0]): string {
  if (parts.length === 0) return 'what the server sends by itself: messages for you, and no more on most';
  return parts
    .map((part) => {
      switch (part.kind) {
        case 'range':
          return `all within ${part.km} km of a place`;
        case 'around me':
          return `all within ${part.km} km of your last position`;
        case 'begins with':
          return `calls that begin with ${part.texts.join(', ')}`;
        case 'calls':
          return `the calls ${part.texts.join(', ')}`;
        case 'kinds':
          return `packets of the kinds ${part.letters}`;
        case 'area':
          return 'all within an area';
      }
    })
    .join('; ');
}

function firstSettings(operator: OperatorView): InternetSettings {
  return {
    isOn: false,
    host: '',
    port: 14_580,
    call: operator.call,
    isVerified: true,
    filter: formatFilter([
      ...(operator.position ? [{ kind: 'range', ...operator.position, km: 50 } as const] : []),
      { kind: 'calls', texts: [`${operator.call}*`] },
    ]),
    sends: false,
  };
}
