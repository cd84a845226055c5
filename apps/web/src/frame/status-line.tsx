import type { LinkView } from '@mistpeak/contract/link';
import { useLinkWords } from '../pieces/use-link-words';
import { useNow } from '../live/now';
import { useLive } from '../live/store';
import { useMainLink } from '../live/main-link';
import { formatAge, formatClock } from '../pieces/age';
import { channelUse } from '../pieces/channel-use';
import { TONE_TEXT } from '../pieces/link-words';
import { ToneMark } from '../pieces/tone-mark';
import { TransmitLock } from '../pieces/transmit-lock';

/** Always in sight: the link, the frequency to set, how busy the channel is, the lock, the last identification, the time. */
export function StatusLine() {
  const operator = useLive((state) => state.operator);
  const nowMs = useNow();
  return (
    <header className="flex min-h-[52px] flex-wrap items-center gap-x-5 gap-y-1 border-b border-line bg-sheet px-7 py-1.5 max-md:px-4">
      <LinkState nowMs={nowMs} />
      {operator && <Fact value={operator.channelMHz.toFixed(3)} about="MHz FM" strong />}
      <ChannelUse nowMs={nowMs} />
      <div className="ml-auto flex flex-wrap items-center gap-x-5 gap-y-1">
        <Identified nowMs={nowMs} />
        <TransmitLock />
        <span className="flex items-baseline gap-2 font-mono whitespace-nowrap">
          {formatClock(nowMs, 'utc')}
          <small className="font-sans text-[12.5px] text-ink3">
            UTC, {formatClock(nowMs, 'local').slice(0, 5)} here
          </small>
        </span>
      </div>
    </header>
  );
}

/** 47 CFR 97.119 and many others; local rules come first. */
const IDENTIFY_EVERY_MS = 10 * 60_000;

function Fact({ value, about, strong = false }: { value: string; about: string; strong?: boolean }) {
  return (
    <span className="flex items-baseline gap-2 whitespace-nowrap">
      <span className={`font-mono ${strong ? 'font-[600]' : ''}`}>{value}</span>
      <small className="text-[12.5px] text-ink3">{about}</small>
    </span>
  );
}

function LinkState({ nowMs }: { nowMs: number }) {
  const link = useMainLink();
  const tally = useLive((state) => (link ? state.tallies.get(link.id) : undefined));
  if (!link) return <span className="text-ink2">No link yet</span>;
  return <LinkWords link={link} lastAtMs={tally?.lastAtMs} nowMs={nowMs} />;
}

function LinkWords({
  link,
  lastAtMs,
  nowMs,
}: {
  link: LinkView;
  lastAtMs: number | undefined;
  nowMs: number;
}) {
  const { word, tone } = useLinkWords(link, lastAtMs, nowMs);
  return (
    <span className="flex min-w-0 items-center gap-2">
      <ToneMark tone={tone} />
      <b className="max-w-44 truncate font-[650]" title={link.settings.name}>
        {link.settings.name}
      </b>
      <small className={`text-[12.5px] whitespace-nowrap ${TONE_TEXT[tone]}`}>{word}</small>
    </span>
  );
}

function ChannelUse({ nowMs }: { nowMs: number }) {
  const link = useMainLink();
  const past = useLive((state) => (link ? state.channels.get(link.id) : undefined));
  if (!link) return null;
  const share = channelUse(past, nowMs);
  return <Fact value={`${Math.round(share * 100)} %`} about="in use" />;
}

/** Any own frame identifies. */
function Identified({ nowMs }: { nowMs: number }) {
  const last = useLive((state) => state.transmissions.find(({ state: sent }) => sent === 'handed'));
  const isArmed = useLive((state) => [...state.locks.values()].some(({ armed }) => armed));
  if (last?.handedAtMs === undefined) return null;
  const agoMs = nowMs - last.handedAtMs;
  const isDue = isArmed && agoMs >= IDENTIFY_EVERY_MS;
  return (
    <small
      role={isDue ? 'status' : undefined}
      className={`text-[12.5px] whitespace-nowrap ${isDue ? 'font-[620] text-look' : 'text-ink3 max-md:hidden'}`}
      title="Any frame of ours identifies the station; at least every ten minutes of operation and at its end, or as your local rules say"
    >
      {isDue ? '! ' : ''}identified {formatAge(agoMs)} ago{isDue ? ': send one if you are in operation' : ''}
    </small>
  );
}
