import { Link } from 'react-router';
import { commandOf, type Letter, type Step } from '@mistpeak/core/mailbox-visit/visit';
import type { VisitView } from '@mistpeak/contract/terminal';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { Choice } from '../../pieces/choice';
import { SelectField, TextField } from '../../pieces/field';
import { FromField } from '../../pieces/from-field';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { LockOf } from '../../pieces/transmit-lock';
import { useFirstCall, type Called } from './called';

interface Planned {
  readonly call: Called;
  readonly reads: boolean;
  readonly killsRead: boolean;
  readonly bye: boolean;
  readonly leave: readonly Letter[];
  readonly endOfText: string;
}

/** Written off the air, then one short visit that runs by itself and proves each step. */
export function VisitsView() {
  const visits = useLive((state) => state.visits);
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <Planner />
      <section aria-label="Visits" className="flex min-w-0 flex-col gap-5 border-t-[1.5px] border-ink pt-2">
        <h2>Visits</h2>
        {visits.length === 0 && (
          <p className="text-[14px] text-ink2">None yet. What a visit does is told here, step by step.</p>
        )}
        {[...visits].reverse().map((visit) => (
          <VisitCard key={visit.id} visit={visit} />
        ))}
      </section>
    </div>
  );
}

function Planner() {
  const first = useFirstCall();
  const nodes = useLive((state) => state.terminal.nodes).filter(({ kind }) => kind === 'mailbox');
  const { values, set, drop } = useDraft<Planned>('visit', {
    call: first,
    reads: true,
    killsRead: false,
    bye: true,
    leave: [],
    endOfText: '/EX',
  });
  const { problem, isBusy, attempt } = useAttempt();
  const links = useLive((state) => state.links);
  const link = links.find(({ id }) => id === values.call.linkId);
  const lock = useLive((state) => state.locks.get(values.call.linkId));
  const fields = problem?.fields ?? {};
  const change = (more: Partial<Planned>): void => set({ ...values, ...more });
  const changeCall = (more: Partial<Called>): void => change({ call: { ...values.call, ...more } });
  const changeLetter = (at: number, more: Partial<Letter>): void =>
    change({ leave: values.leave.map((letter, i) => (i === at ? { ...letter, ...more } : letter)) });
  const choose = (name: string): void => {
    const node = nodes.find((one) => one.name === name);
    if (!node) return;
    const { call: to, via, endOfText, frequencyMHz } = node;
    change({
      call: { ...values.call, to, via, ...(frequencyMHz === undefined ? {} : { frequencyMHz }) },
      endOfText,
    });
  };
  return (
    <OperatorOnly>
      <form
        noValidate
        aria-label="Plan a visit"
        className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          void attempt(async () => {
            await command('POST', '/terminal/visits', values);
            drop();
          });
        }}
      >
        <h2>Plan a visit</h2>
        {nodes.length > 0 && (
          <SelectField label="A saved mailbox" value="" onChange={({ target }) => choose(target.value)}>
            <option value="">choose …</option>
            {nodes.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </SelectField>
        )}
        <div className="grid gap-3 md:grid-cols-2">
          <TextField
            label="Mailbox"
            mono
            value={values.call.to}
            error={fields.call ?? fields.to}
            onChange={({ target }) => changeCall({ to: target.value.toUpperCase() })}
          />
          <TextField
            label="Via"
            mono
            value={values.call.via}
            error={fields.via}
            onChange={({ target }) => changeCall({ via: target.value.toUpperCase() })}
          />
          <FromField
            label="As"
            hint="the transmitter must be armed for it"
            value={values.call.from}
            error={fields.from}
            set={(from) => changeCall({ from })}
          />
          <LinkField
            label="Link"
            value={values.call.linkId}
            error={fields.linkId}
            set={(linkId) => changeCall({ linkId })}
          />
        </div>
        <p className="text-[14px] text-ink2">It lists first, then:</p>
        <Choice label="reads what is for me" isOn={values.reads} set={(reads) => change({ reads })} />
        {values.leave.map((letter, i) => (
          <fieldset key={i} className="flex flex-col gap-2 border-l-2 border-edge pl-3">
            <legend className="text-[13.5px] font-[620]">Message to leave</legend>
            <div className="grid gap-3 md:grid-cols-[9rem_minmax(0,1fr)]">
              <TextField
                label="To"
                mono
                value={letter.to}
                error={fields.leave}
                onChange={({ target }) => changeLetter(i, { to: target.value.toUpperCase() })}
              />
              <TextField
                label="Subject"
                value={letter.subject}
                onChange={({ target }) => changeLetter(i, { subject: target.value })}
              />
            </div>
            <label className="flex flex-col gap-1 text-[13.5px] font-[620]">
              Text
              <textarea
                rows={3}
                value={letter.text}
                onChange={({ target }) => changeLetter(i, { text: target.value })}
                className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono font-[400]"
              />
            </label>
            <div>
              <Button onClick={() => change({ leave: values.leave.filter((_, at) => at !== i) })}>
                Leave it out
              </Button>
            </div>
          </fieldset>
        ))}
        <div>
          <Button onClick={() => change({ leave: [...values.leave, { to: '', subject: '', text: '' }] })}>
            Add a message to leave
          </Button>
        </div>
        <Choice
          label="deletes there what it has read"
          isOn={values.killsRead}
          set={(killsRead) => change({ killsRead })}
        />
        <Choice label="says good-bye at the end" isOn={values.bye} set={(bye) => change({ bye })} />
        <p className="text-[13.5px] text-ink2">
          What was left or deleted is proved by a second listing. It stops at the first surprise and says
          which; the connection stays open for you then.
        </p>
        {problem && !problem.fields && <ProblemNote problem={problem} />}
        <div className="flex flex-wrap items-center gap-3">
          <Button type="submit" kind="main" disabled={isBusy || values.call.to === ''}>
            {values.call.to === '' ? 'Begin the visit' : `Visit ${values.call.to} now`}
          </Button>
          {link && !lock?.armed && (
            <>
              <span className="text-[13.5px] text-ink2">The transmitter is locked:</span>
              <LockOf link={link} />
            </>
          )}
        </div>
      </form>
    </OperatorOnly>
  );
}

const OUTCOMES: Readonly<Record<VisitView['outcome'], string>> = {
  runs: 'runs by itself; this page may be closed',
  done: 'done: every step is proved',
  stopped: 'stopped at a surprise',
};
const MARKS: Readonly<Record<Step['state'], string>> = { waits: '◦', runs: '…', done: '✓', stopped: '✕' };

function VisitCard({ visit }: { visit: VisitView }) {
  const { problem, attempt } = useAttempt();
  const nowMs = useNow(5000);
  return (
    <article aria-label={`Visit to ${visit.to}`} data-outcome={visit.outcome}>
      <p className="flex flex-wrap items-baseline gap-x-3 text-[14.5px]">
        <Link
          to={`/terminal/session/${visit.sessionId}`}
          className="font-mono underline decoration-line underline-offset-4"
        >
          {visit.to}
        </Link>
        <span className="text-ink2">{formatAge(nowMs - visit.atMs)} ago</span>
        <span
          role="status"
          className={
            visit.outcome === 'stopped' ? 'text-stop' : visit.outcome === 'done' ? 'text-proved' : ''
          }
        >
          {OUTCOMES[visit.outcome]}
        </span>
      </p>
      <ol className="pt-1">
        {visit.steps.map((step, i) => (
          <li
            key={i}
            className="grid grid-cols-[1.4rem_minmax(0,1fr)] gap-x-1 border-t border-line py-1 text-[14px] first:border-t-0"
          >
            <span
              aria-hidden
              className={
                step.state === 'done' ? 'text-proved' : step.state === 'stopped' ? 'text-stop' : 'text-ink3'
              }
            >
              {MARKS[step.state]}
            </span>
            <span>
              {taskWords(step)}
              {commandOf(step.task) && (
                <span className="font-mono text-[13px] text-ink3"> {commandOf(step.task)}</span>
              )}
              {step.words && (
                <span className={`block ${step.state === 'stopped' ? 'text-stop' : 'text-ink2'}`}>
                  {step.words}
                </span>
              )}
              {step.text && (
                <details>
                  <summary className="cursor-pointer text-ink2">read it</summary>
                  <pre className="font-mono text-[13px] whitespace-pre-wrap">
                    {step.text.replace(/\r\n?/g, '\n').trim()}
                  </pre>
                </details>
              )}
            </span>
          </li>
        ))}
      </ol>
      {visit.outcome === 'runs' && (
        <OperatorOnly>
          <Button
            kind="stop"
            onClick={() => void attempt(() => command('POST', `/terminal/visits/${visit.id}/stop`))}
          >
            Stop the visit
          </Button>
        </OperatorOnly>
      )}
      {problem && <ProblemNote problem={problem} />}
    </article>
  );
}

function taskWords({ task }: Step): string {
  switch (task.kind) {
    case 'prompt':
      return 'wait for its prompt';
    case 'list':
      return 'list';
    case 'read':
      return `read “${task.row.subject}” from ${task.row.from}`;
    case 'leave':
      return `leave “${task.letter.subject}” for ${task.letter.to}`;
    case 'kill':
      return `delete “${task.row.subject}” from ${task.row.from}`;
    case 'list again':
      return 'list again, as proof';
    case 'bye':
      return 'say good-bye';
  }
}
