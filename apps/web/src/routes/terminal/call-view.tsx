import { useNavigate } from 'react-router';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { parseCallSign } from '@mistpeak/core/callsign/callsign';
import { meantPerhaps } from '@mistpeak/core/messages/addressee';
import { parseVia } from '@mistpeak/core/sessions/via';
import { computedParameters } from '@mistpeak/core/throughput/session-parameters';
import type { SessionView } from '@mistpeak/contract/sessions';
import type { SavedNode } from '@mistpeak/contract/terminal';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { NumberField, TextField } from '../../pieces/field';
import { FromField } from '../../pieces/from-field';
import { LinkField } from '../../pieces/link-field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { LockOf } from '../../pieces/transmit-lock';
import { ParameterFields } from './parameter-fields';
import { PastSessions } from './past-sessions';
import { useFirstCall, type Called } from './called';
import { isOpenSession, standingWords } from './words';

/** Whom to call, by which way; and what stands already. */
export function CallView() {
  return (
    <div className="grid gap-x-9 gap-y-6 lg:grid-cols-[minmax(0,1fr)_23rem]">
      <div className="flex min-w-0 flex-col gap-6">
        <OpenSessions />
        <CallForm />
        <PastSessions />
      </div>
      <QuickStations />
    </div>
  );
}

function OpenSessions() {
  const sessions = useLive((state) => state.sessions).filter(
    (view) => isOpenSession(view) && view.purpose !== 'mail',
  );
  const navigate = useNavigate();
  const nowMs = useNow();
  if (sessions.length === 0) return null;
  return (
    <section aria-label="Open sessions" className="border-t-[1.5px] border-ink pt-2">
      <h2>Open</h2>
      <ul>
        {sessions.map((view) => (
          <li
            key={view.id}
            className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-2 first:border-t-0"
          >
            <span className="font-mono text-[15px]">
              {view.own} ↔ {view.peer}
            </span>
            <span className="min-w-0 flex-1 text-[14px] text-ink2">{standingWords(view, nowMs)}</span>
            <Button onClick={() => void navigate(`/terminal/session/${view.id}`)}>Open {view.peer}</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function CallForm() {
  const first = useFirstCall();
  const { values, set, drop } = useDraft<Called>('call', first);
  const { problem, isBusy, attempt } = useAttempt();
  const links = useLive((state) => state.links);
  const navigate = useNavigate();
  const link = links.find(({ id }) => id === values.linkId);
  const lock = useLive((state) => state.locks.get(values.linkId));
  const fields = problem?.fields ?? {};
  const change = (more: Partial<Called>): void => set({ ...values, ...more });
  const to = parseCallSign(values.to);
  const via = parseVia(values.via);
  const call = async (): Promise<void> => {
    const { id } = await command<SessionView>('POST', '/sessions', values);
    drop();
    void navigate(`/terminal/session/${id}`);
  };
  return (
    <OperatorOnly>
      <form
        noValidate
        aria-label="Call a station"
        className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2"
        onSubmit={(event) => {
          event.preventDefault();
          void attempt(call);
        }}
      >
        <h2>Call a station</h2>
        <div className="grid gap-3 md:grid-cols-[12rem_minmax(0,1fr)]">
          <TextField
            label="Station"
            mono
            list="callable-stations"
            autoCapitalize="characters"
            autoCorrect="off"
            value={values.to}
            error={fields.to ?? (values.to !== '' && isMalformed(to) ? to.malformed : undefined)}
            hint="call with SSID, or a node’s alias"
            onChange={({ target }) => change({ to: target.value.toUpperCase() })}
          />
          <TextField
            label="Via"
            mono
            autoCapitalize="characters"
            autoCorrect="off"
            value={values.via}
            error={fields.via ?? (isMalformed(via) ? via.malformed : undefined)}
            hint="digipeaters by name, in order from here; mostly none"
            onChange={({ target }) => change({ via: target.value.toUpperCase() })}
          />
        </div>
        <Callable />
        {!isMalformed(to) && <WasHeard to={values.to} take={(call) => change({ to: call })} />}
        <div className="grid gap-3 md:grid-cols-3">
          <FromField
            label="As"
            hint="the transmitter must be armed for it"
            value={values.from}
            error={fields.from}
            set={(from) => change({ from })}
          />
          <LinkField
            label="Link"
            value={values.linkId}
            error={fields.linkId}
            set={(linkId) => change({ linkId })}
          />
          <NumberField
            label="Frequency, MHz"
            hint="to set on the radio; empty: the channel of the link"
            value={values.frequencyMHz}
            error={fields.frequencyMHz}
            set={(frequencyMHz) => {
              const { frequencyMHz: _, ...rest } = values;
              set(frequencyMHz === undefined ? rest : { ...rest, frequencyMHz });
            }}
          />
        </div>
        {link && (
          <details className="text-[14px]">
            <summary className="cursor-pointer py-1 text-ink2">
              PACLEN, MAXFRAME, timers: {values.parameters ? 'as you set them' : 'computed for this link'}
            </summary>
            <ParameterFields
              values={
                values.parameters ?? computedParameters(link.settings, isMalformed(via) ? 0 : via.length)
              }
              errors={fields}
              set={(parameters) => change({ parameters })}
              reset={() => {
                const { parameters: _, ...rest } = values;
                set(rest);
              }}
            />
          </details>
        )}
        {problem && !problem.fields && <ProblemNote problem={problem} />}
        <div className="flex flex-wrap items-center gap-3">
          <Button type="submit" kind="main" disabled={isBusy || links.length === 0 || isMalformed(to)}>
            {isMalformed(to) ? 'Call' : `Call ${values.to}`}
          </Button>
          {link && !lock?.armed && (
            <>
              <span className="text-[13.5px] text-ink2">The transmitter is locked:</span>
              <LockOf link={link} />
            </>
          )}
        </div>
        <p className="text-[13px] text-ink3">
          Everybody can read what is sent. No encryption, no business traffic; identify as your local rules
          say: Mistpeak’s frames carry your call. Not a substitute for emergency calls.
        </p>
      </form>
    </OperatorOnly>
  );
}

/** Saved, heard, and called before. */
function Callable() {
  const calls = useLive(({ stations, terminal, sessions }) =>
    [
      ...terminal.nodes.map((node) => node.call),
      ...sessions.map(({ peer }) => peer),
      ...[...stations.values()].filter(({ kind }) => kind === 'station').map(({ name }) => name),
    ].join(' '),
  );
  return (
    <datalist id="callable-stations">
      {[...new Set(calls.split(' '))].map((call) => (
        <option key={call} value={call} />
      ))}
    </datalist>
  );
}

/** Was it ever heard, or was another meant? A node's alias may never be heard under that name. */
function WasHeard({ to, take }: { to: string; take: (call: string) => void }) {
  const stations = useLive((state) => state.stations);
  const nodes = useLive((state) => state.terminal.nodes);
  const nowMs = useNow(10_000);
  const call = to.trim().toUpperCase();
  const station = stations.get(call);
  if (station)
    return (
      <p className="text-[13.5px] text-ink2">
        {call} was heard {formatAge(nowMs - station.heardAtMs)} ago
        {station.hops === 0 ? ', direct.' : ` by ${station.repeaters.join(' and ') || 'a digipeater'}.`}
      </p>
    );
  if (nodes.some((node) => node.call === call)) return null;
  const known = [...[...stations.values()].map(({ name }) => name), ...nodes.map((node) => node.call)];
  const meant = meantPerhaps(call, known);
  return (
    <p className="flex flex-wrap items-center gap-2 text-[13.5px] text-look" role="status">
      {call} was never heard here{meant.length === 0 ? '; a node’s alias may not be.' : '; did you mean'}
      {meant.map((one) => (
        <Button key={one} onClick={() => take(one)}>
          {one}
        </Button>
      ))}
    </p>
  );
}

/** Saved ones, each a press away. */
function QuickStations() {
  const nodes = useLive((state) => state.terminal.nodes);
  const first = useFirstCall();
  const { set } = useDraft<Called>('call', first);
  const { problem, isBusy, attempt } = useAttempt();
  const navigate = useNavigate();
  const call = (node: SavedNode): Promise<boolean> =>
    attempt(async () => {
      const { call: to, via, frequencyMHz } = node;
      const called = { ...first, to, via, ...(frequencyMHz === undefined ? {} : { frequencyMHz }) };
      set(called);
      const { id } = await command<SessionView>('POST', '/sessions', called);
      void navigate(`/terminal/session/${id}`);
    });
  return (
    <section aria-label="Saved stations" className="min-w-0 border-t-[1.5px] border-ink pt-2">
      <h2>Saved stations</h2>
      {nodes.length === 0 && (
        <p className="py-1 text-[14px] text-ink2">None yet: save a mailbox or node that you call often.</p>
      )}
      <OperatorOnly>
        <ul>
          {nodes.map((node) => (
            <li key={node.name} className="border-t border-line py-2 first:border-t-0">
              <div className="flex items-baseline gap-3">
                <p className="min-w-0 flex-1 text-[14.5px] font-[640]">{node.name}</p>
                <Button disabled={isBusy} onClick={() => void call(node)}>
                  Call {node.call}
                </Button>
              </div>
              <p className="font-mono text-[13px] text-ink2">
                {node.kind}
                {node.via && ` via ${node.via}`}
                {node.frequencyMHz !== undefined && ` · set ${node.frequencyMHz.toFixed(3)} MHz`}
              </p>
              {node.note && <p className="text-[13.5px] text-ink2">{node.note}</p>}
            </li>
          ))}
        </ul>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
