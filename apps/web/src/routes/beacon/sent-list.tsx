import { SESSION_PURPOSE } from '@mistpeak/core/transmitting/newest-of-each';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge, formatClock, formatSeconds } from '../../pieces/age';
import type { Tone } from '../../pieces/link-words';
import { TONE_TEXT } from '../../pieces/link-words';
import { ToneMark } from '../../pieces/tone-mark';

const SHOWN = 8;
/** Without an echo for this long, "keyed" is doubtful. */
const DOUBT_AFTER_MS = 30_000;

/** What became of each frame: handed over is not heard by anyone, an echo is. Those of connections are told in the terminal. */
export function SentList() {
  const all = useLive((state) => state.transmissions);
  const transmissions = all.filter(({ purpose }) => purpose !== SESSION_PURPOSE);
  const nowMs = useNow();
  return (
    <section aria-label="Sent" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>What became of it</h2>
      {transmissions.length === 0 && (
        <p className="pt-1.5 text-[14px] text-ink2">Nothing has been sent from here.</p>
      )}
      <ul aria-live="polite">
        {transmissions.slice(0, SHOWN).map((sent) => (
          <SentRow key={sent.id} sent={sent} nowMs={nowMs} />
        ))}
      </ul>
    </section>
  );
}

function SentRow({ sent, nowMs }: { sent: TransmissionView; nowMs: number }) {
  const { word, tone } = outcome(sent, nowMs);
  return (
    <li className="grid grid-cols-[76px_auto_1fr] items-baseline gap-x-3 border-b border-line py-1.5 text-[14px]">
      <time className="font-mono text-[13px] text-ink3" dateTime={new Date(sent.queuedAtMs).toISOString()}>
        {formatClock(sent.queuedAtMs, 'utc')}
      </time>
      <b className="font-mono font-[620]">{sent.source}</b>
      <span className={`flex items-center gap-1.5 ${TONE_TEXT[tone]}`}>
        <ToneMark tone={tone} />
        {word}
      </span>
      {sent.purpose !== 'beacon' && (
        <span className="col-start-2 col-end-4 text-[13px] text-ink3">{sent.purpose}</span>
      )}
    </li>
  );
}

function outcome(sent: TransmissionView, nowMs: number): { word: string; tone: Tone } {
  if (sent.state === 'queued') return { word: 'waits for its turn', tone: 'quiet' };
  if (sent.state === 'abandoned') return { word: 'was not sent', tone: 'stop' };
  const proofs = [...sent.echoes.map(echoWords), ...sent.gates.map(gateWords)];
  if (proofs.length > 0) return { word: proofs.join('; '), tone: 'proved' };
  const waitedMs = nowMs - (sent.handedAtMs ?? sent.queuedAtMs);
  if (waitedMs < DOUBT_AFTER_MS)
    return { word: `handed to the TNC, listening for an echo (${formatAge(waitedMs)})`, tone: 'look' };
  return { word: 'handed to the TNC, no echo: nobody is known to have heard it', tone: 'look' };
}

function gateWords({ by, afterMs }: TransmissionView['gates'][number]): string {
  return `at the gate ${by} after ${formatSeconds(afterMs)}`;
}

function echoWords({ by, afterMs }: TransmissionView['echoes'][number]): string {
  return by
    ? `repeated by ${by} after ${formatSeconds(afterMs)}`
    : `heard back unrepeated after ${formatSeconds(afterMs)}`;
}
