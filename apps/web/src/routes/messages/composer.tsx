import { meantPerhaps, readAddressee, wantsAnswer } from '@mistpeak/core/messages/addressee';
import { LONGEST_MESSAGE, encodeMessage } from '@mistpeak/core/aprs/message';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { OWN_DESTINATION } from '@mistpeak/core/beacon/beacon';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1, octetText } from '@mistpeak/core/bits/octets';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { USUAL_PATHS } from '@mistpeak/core/digipeating/usual-paths';
import { mostTries } from '@mistpeak/core/messages/rules';
import { octetsOf, troubleWithText } from '@mistpeak/core/messages/text';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import type { Station } from '@mistpeak/core/stations/station';
import { useNavigate } from 'react-router';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useMainLink } from '../../live/main-link';
import { useNow } from '../../live/now';
import { useOwnCost } from '../../live/own-cost';
import { useLive } from '../../live/store';
import { formatAge, formatSeconds } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { NumberField, TextField } from '../../pieces/field';
import { FromField } from '../../pieces/from-field';
import { LinkField } from '../../pieces/link-field';
import { ProblemNote } from '../../pieces/problem-note';
import { rulesOf, useMayLeave, waitsFor } from './standing';

interface Written {
  readonly to: string;
  readonly text: string;
  readonly from: string;
  readonly linkId: string;
  readonly path: string;
  readonly goodForMin?: number;
}

/** A new message, with what it costs and whether its recipient can be reached, before it is sent. */
export function Composer({ to }: { to: string }) {
  const first = useFirst(to);
  const { values, set, drop } = useDraft<Written>(`message to ${to}`, first);
  const { problem, isBusy, attempt } = useAttempt();
  const links = useLive((state) => state.links);
  const hasInternet = useLive((state) => state.internet.settings !== undefined);
  const groups = useLive((state) => state.messages.settings.groups);
  const navigate = useNavigate();
  const fields = problem?.fields ?? {};
  const addressee = readAddressee(values.to, groups);
  const textTrouble = values.text === '' ? undefined : troubleWithText('X', values.text);
  const octets = octetsOf(values.text);
  const change = (more: Partial<Written>): void => set({ ...values, ...more });
  const send = async (): Promise<void> => {
    await command('POST', '/messages', values);
    drop();
    set({ ...first, to, from: values.from, linkId: values.linkId, path: values.path });
    if (addressee.ok && addressee.to !== to && wantsAnswer(addressee.kind))
      void navigate(`/messages/talks/${encodeURIComponent(addressee.to)}`);
  };
  return (
    <form
      noValidate
      aria-label="New message"
      className="flex flex-col gap-3 border-t-2 border-edge pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(send);
      }}
    >
      <div className="grid gap-3 md:grid-cols-[11rem_minmax(0,1fr)]">
        <TextField
          label="To"
          mono
          list="heard-stations"
          value={values.to}
          error={fields.to ?? (values.to !== '' && !addressee.ok ? addressee.trouble : undefined)}
          onChange={({ target }) => change({ to: target.value.toUpperCase() })}
        />
        <HeardStations />
        <TextField
          label="Message"
          value={values.text}
          error={fields.text ?? textTrouble}
          hint={
            <span className={octets > LONGEST_MESSAGE - 7 ? 'text-look' : ''}>
              {octets} of {LONGEST_MESSAGE} octets
            </span>
          }
          onChange={({ target }) => change({ text: target.value })}
        />
      </div>
      {addressee.ok && (
        <Reach to={addressee.to} kind={addressee.kind} take={(call) => change({ to: call })} />
      )}
      <div className="grid gap-3 md:grid-cols-4">
        <FromField label="From" value={values.from} error={fields.from} set={(from) => change({ from })} />
        <LinkField
          label="Way out"
          value={values.linkId}
          error={fields.linkId}
          set={(linkId) => change({ linkId })}
        >
          {hasInternet && <option value={INTERNET_SIDE}>the internet side</option>}
        </LinkField>
        <TextField
          label="Path"
          mono
          list="usual-paths"
          value={values.path}
          error={fields.path}
          hint="digipeaters; empty: direct"
          onChange={({ target }) => change({ path: target.value.toUpperCase() })}
        />
        <datalist id="usual-paths">
          {USUAL_PATHS.map(({ id, path, name }) => (
            <option key={id} value={path}>
              {name}
            </option>
          ))}
        </datalist>
        <NumberField
          label="Good for, min"
          value={values.goodForMin}
          error={fields.goodForMin}
          hint="empty: to its last try"
          set={(goodForMin) => {
            const { goodForMin: _, ...rest } = values;
            set(goodForMin === undefined ? rest : { ...rest, goodForMin });
          }}
        />
      </div>
      {problem && !problem.fields && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button type="submit" kind="main" disabled={isBusy || links.length === 0}>
          Send the message
        </Button>
        <Costs values={values} />
      </div>
      <p className="text-[13px] text-ink3">
        Everybody can read what is sent. No encryption, no business traffic; not a substitute for emergency
        calls. Not to be handled while driving.
      </p>
    </form>
  );
}

/** The call in force on the main link, else the first own station. */
function useFirst(to: string): Written {
  const link = useMainLink();
  const call = useLive(
    ({ locks, ownStations, beacon, operator }) =>
      (link && locks.get(link.id)?.call) ??
      ownStations.find(({ id }) => id === link?.settings.stationId)?.call ??
      beacon?.source ??
      operator?.call ??
      '',
  );
  return { to, text: '', from: call, linkId: link?.id ?? '', path: 'WIDE1-1,WIDE2-1' };
}

function HeardStations() {
  const stations = useLive((state) => state.stations);
  const groups = useLive((state) => state.messages.settings.groups);
  const calls = [...stations.values()].filter(({ kind }) => kind === 'station').map(({ name }) => name);
  return (
    <datalist id="heard-stations">
      {[...calls.sort(), ...groups, 'BLN1'].map((call) => (
        <option key={call} value={call} />
      ))}
    </datalist>
  );
}

/** Was it heard, does it take messages, and by which way can it be reached now? Or was another meant? */
function Reach({ to, kind, take }: { to: string; kind: string; take: (call: string) => void }) {
  const stations = useLive((state) => state.stations);
  const nowMs = useNow(10_000);
  if (kind === 'group') return <p className="text-[13.5px] text-ink2">To a group: nobody acknowledges.</p>;
  if (kind !== 'station')
    return (
      <p className="text-[13.5px] text-ink2">
        To all who listen: nobody acknowledges; it is told a few times.
      </p>
    );
  const station = stations.get(to);
  if (station) return <p className="text-[13.5px] text-ink2">{reachInWords(station, nowMs)}</p>;
  const heard = [...stations.values()].filter((one) => one.kind === 'station').map(({ name }) => name);
  const meant = meantPerhaps(to, heard);
  return (
    <p className="flex flex-wrap items-center gap-2 text-[13.5px] text-look" role="status">
      {to} was never heard here{meant.length === 0 ? '.' : '; did you mean'}
      {meant.map((call) => (
        <Button key={call} onClick={() => take(call)}>
          {call}, heard {formatAge(nowMs - (stations.get(call)?.heardAtMs ?? nowMs))} ago
        </Button>
      ))}
    </p>
  );
}

/** How long after it was heard a mover is still where it was (common practice, no source). */
const FRESH_MS = 30 * 60_000;

export function reachInWords(station: Station, nowMs: number): string {
  const { name, heardAtMs, hops, repeaters, passedOn, sender, messaging } = station;
  const way = passedOn
    ? `through the gate ${sender}, not by its own radio: only a gate can bring a message there`
    : hops === 0
      ? 'direct: it needs no path'
      : `by ${repeaters.join(' and ') || 'a digipeater without a name'}: ${hops === 1 ? 'one hop' : `${hops} hops`}`;
  const takes =
    messaging === undefined
      ? 'Whether it takes messages it has not said.'
      : messaging
        ? 'It takes messages.'
        : 'It says that it takes no messages.';
  const stale = nowMs - heardAtMs > FRESH_MS ? ' It may be out of reach by now.' : '';
  return `${name} was heard ${formatAge(nowMs - heardAtMs)} ago, ${way}. ${takes}${stale}`;
}

/** Per try, and to its last. */
function Costs({ values }: { values: Written }) {
  const settings = useLive((state) => state.messages.settings);
  const groups = settings.groups;
  const cost = useOwnCost();
  const mayLeave = useMayLeave(values.from, values.linkId);
  const path = parsePath(values.path);
  const addressee = readAddressee(values.to, groups);
  if (isMalformed(path) || !addressee.ok || values.text === '') return null;
  const answered = wantsAnswer(addressee.kind);
  const info = encodeMessage(addressee.to, octetText(values.text), answered ? '00' : undefined);
  const airMs = cost.airMs(encodeFrame(uiFrame(values.from, OWN_DESTINATION, path, fromLatin1(info))));
  const tries = mostTries(answered, rulesOf(settings));
  return (
    <span className="text-[13.5px] text-ink2" data-testid="cost">
      {values.linkId === INTERNET_SIDE
        ? `No air time; at most ${tries} tries.`
        : `${formatSeconds(airMs)} on the air and ${cost.milliampHours(airMs, 1).toFixed(2)} mAh each try, at most ${formatSeconds(airMs * tries)} in ${tries}, and as much again for each digipeater.`}
      {!mayLeave && ` It waits for ${waitsFor(values)}.`}
    </span>
  );
}
