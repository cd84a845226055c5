import { useState } from 'react';
import { newPorts } from '@mistpeak/core/port-voice/port-voice';
import { failureText } from '@mistpeak/contract/failures';
import type { PortListeningView, PortView } from '@mistpeak/contract/link';
import { SERIAL_SPEEDS } from '@mistpeak/contract/link';
import { command, problemOf } from '../../api';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import { Button } from '../../pieces/button';
import { SelectField, TextField } from '../../pieces/field';
import { ToneMark } from '../../pieces/tone-mark';
import type { Tone } from '../../pieces/link-words';

/** Tried one after another where a speed gives noise. */
const SPEEDS_TO_TRY = [9600, 1200, 19200, 38400, 57600, 115200, 4800];

/** Which port is the TNC? A list before, a list after plugging or pairing, and an ear at each. */
export function PortFinder({ take }: { take: (path: string, speed: number) => void }) {
  const [before, setBefore] = useState<readonly string[]>();
  const [ports, setPorts] = useState<readonly PortView[]>([]);
  const [speed, setSpeed] = useState(9600);
  const [typed, setTyped] = useState('');
  const [stop, setStop] = useState<AbortController>();
  const [trouble, setTrouble] = useState<string>();
  const list = (isFirst: boolean): void => {
    setTrouble(undefined);
    command<PortView[]>('GET', '/links/ports').then(
      (found) => {
        setPorts(found);
        if (isFirst) setBefore(found.map(({ path }) => path));
      },
      (error: unknown) => setTrouble(problemOf(error).happened),
    );
  };
  const listenTo = async (paths: readonly string[]): Promise<void> => {
    setTrouble(undefined);
    const stopping = new AbortController();
    setStop(stopping);
    for (const path of paths)
      await listenAtSpeeds(path, speed, stopping.signal).catch((error: unknown) => {
        if (!stopping.signal.aborted) setTrouble(problemOf(error).happened);
      });
    setStop(undefined);
  };
  const fresh = before
    ? newPorts(
        before,
        ports.map(({ path }) => path),
      )
    : [];
  const inOrder = [...ports].sort((a, b) => Number(fresh.includes(b.path)) - Number(fresh.includes(a.path)));
  return (
    <section aria-label="Port finder" className="flex max-w-[52rem] flex-col gap-3">
      <h2 className="text-[1.2rem]">Find the port</h2>
      <ol className="flex list-decimal flex-col gap-1.5 pl-5 text-[14px] text-ink2">
        <li>
          With the TNC unplugged and unpaired: <Button onClick={() => list(true)}>Take the first list</Button>{' '}
          {before && (
            <span className="font-mono">
              {before.length} {before.length === 1 ? 'port' : 'ports'}
            </span>
          )}
        </li>
        <li>Plug it in, or pair it with this machine, and switch it on.</li>
        <li>
          <Button disabled={!before} onClick={() => list(false)}>
            Take the list again
          </Button>{' '}
          {before && (
            <span aria-live="polite">{fresh.length === 0 ? 'nothing new yet' : `${fresh.length} new`}</span>
          )}
        </li>
      </ol>
      <p className="text-[13.5px] text-ink2">
        Listening sends nothing. A Bluetooth port may take half a minute to open; with traffic on the channel,
        or the squelch open on a sound chain, a KISS TNC shows itself in some seconds.
      </p>
      <div className="grid max-w-[36rem] gap-4 sm:grid-cols-2">
        <SelectField
          label="Speed to begin with"
          hint="Where it gives noise, the others are tried"
          value={speed}
          onChange={({ target }) => setSpeed(Number(target.value))}
        >
          {SERIAL_SPEEDS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        <TextField
          label="A port that is not listed"
          mono
          hint="Its path, as /dev/rfcomm0"
          value={typed}
          onChange={({ target }) => setTyped(target.value.trim())}
        />
      </div>
      <div className="flex flex-wrap gap-2">
        {stop && <Button onClick={() => stop.abort()}>Stop listening</Button>}
        {fresh.length > 0 && (
          <Button kind="main" disabled={stop !== undefined} onClick={() => void listenTo(fresh)}>
            Listen to what is new
          </Button>
        )}
        {typed.startsWith('/dev/') && (
          <Button disabled={stop !== undefined} onClick={() => void listenTo([typed])}>
            Listen to {typed}
          </Button>
        )}
      </div>
      {trouble && (
        <p role="alert" className="text-stop">
          {trouble}
        </p>
      )}
      <ul>
        {[...inOrder, ...(typed.startsWith('/dev/') ? [{ path: typed, about: '' }] : [])].map(
          ({ path, about }) => (
            <PortRow
              key={path}
              path={path}
              about={about}
              isNew={fresh.includes(path)}
              isBusy={stop !== undefined}
              listen={() => void listenTo([path])}
              take={take}
            />
          ),
        )}
      </ul>
      {before && ports.length === 0 && (
        <p className="text-[13.5px] text-ink2">
          This machine has no serial port now. A TNC on Bluetooth LE or at another device needs another kind
          of link.
        </p>
      )}
    </section>
  );
}

/** Listens, and where it is noise, at the other speeds too. */
async function listenAtSpeeds(path: string, first: number, signal: AbortSignal): Promise<void> {
  for (const speed of [first, ...SPEEDS_TO_TRY.filter((one) => one !== first)]) {
    const wanted = { path, speed };
    const { heard } = await command<PortListeningView>('POST', '/links/ports/listening', wanted, signal);
    if (heard?.voice !== 'noise') return;
  }
}

const TONES: Readonly<Record<string, Tone>> = { KISS: 'proved', silence: 'quiet' };

function PortRow({
  path,
  about,
  isNew,
  isBusy,
  listen,
  take,
}: {
  path: string;
  about: string;
  isNew: boolean;
  isBusy: boolean;
  listen: () => void;
  take: (path: string, speed: number) => void;
}) {
  const view = useLive((state) => state.listening.get(path));
  const isUnderWay = view?.phase === 'opening' || view?.phase === 'listening';
  return (
    <li className="flex flex-wrap items-start justify-between gap-3 border-t border-line py-2.5 last:border-b">
      <div className="min-w-[16rem] flex-1">
        <p>
          <b className="font-mono text-[14px] font-[600]">{path}</b>{' '}
          {isNew && <span className="font-[640] text-proved">new</span>}{' '}
          <span className="text-[13.5px] text-ink2">{about}</span>
        </p>
        {view && <Verdict view={view} />}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button disabled={isBusy && !isUnderWay} onClick={listen} aria-label={`Listen to ${path}`}>
          {isUnderWay ? 'Listening …' : 'Listen'}
        </Button>
        {view?.heard && (
          <Button
            kind={view.heard.voice === 'KISS' ? 'main' : 'plain'}
            onClick={() => take(path, view.speed)}
            aria-label={`Make ${path} a link`}
          >
            Make it a link
          </Button>
        )}
      </div>
    </li>
  );
}

function Verdict({ view: { phase, speed, sinceMs, heard, failure } }: { view: PortListeningView }) {
  const nowMs = useNow();
  if (heard)
    return (
      <div className="text-[13.5px] text-ink2" aria-live="polite">
        <p className="flex items-center gap-1.5 font-[600] text-ink">
          <ToneMark tone={TONES[heard.voice] ?? 'look'} />
          {heard.voice}, at {speed} Bd
        </p>
        {heard.seen !== '' && heard.voice !== 'KISS' && <p className="font-mono break-all">{heard.seen}</p>}
        <p>
          {heard.means} {heard.change}
        </p>
      </div>
    );
  if (phase === 'failed') {
    const words = failureText(failure ?? 'other');
    return (
      <p className="text-[13.5px] text-look" role="alert">
        {words.happened} {words.try}
      </p>
    );
  }
  return (
    <p className="text-[13.5px] text-ink2" aria-live="polite">
      {phase === 'opening' ? 'opening' : 'listening'} at {speed} Bd for {formatAge(nowMs - sinceMs)}
    </p>
  );
}
