import { Radio } from 'lucide-react';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { formatAge } from '../../pieces/age';
import type { BeaconWayView } from '@mistpeak/contract/beacon-ways';

/** What leaves next and when: in sight on every part of the page. */
export function NextOut() {
  const nowMs = useNow(1000);
  const ways = useLive((state) => state.beaconWays).filter(({ isOn, test }) => isOn || test);
  const next = [...ways].sort((a, b) => (a.nextAtMs ?? Infinity) - (b.nextAtMs ?? Infinity))[0];
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-2 text-[14.5px]" data-testid="next-out">
      <Radio className="size-4" aria-hidden />
      {!next ? (
        <span className="text-ink2">Nothing leaves by itself.</span>
      ) : (
        <>
          <b className="font-mono">{next.source}</b> <span>{whenWords(next, nowMs)}</span>
          {next.test && (
            <b className="text-look">test interval: {formatAge(next.test.untilMs - nowMs)} left</b>
          )}
          {ways.length > 1 && <span className="text-ink3">and {ways.length - 1} more</span>}
        </>
      )}
    </p>
  );
}

export function whenWords({ waitsFor, nextAtMs, isOn, test }: BeaconWayView, nowMs: number): string {
  if (!isOn && !test) return 'is off';
  if (waitsFor === 'lock') return 'is due, and waits for the transmitter to be armed for it';
  if (waitsFor === 'position') return 'waits for a position';
  const left = nextAtMs === undefined ? undefined : Math.max(0, nextAtMs - nowMs);
  if (waitsFor === 'channel')
    return `gives way: the channel is busy${left === undefined ? '' : `, next try in ${formatAge(left)}`}`;
  return left === undefined ? 'leaves when it has something to say' : `leaves in ${formatAge(left)}`;
}
