import { isNear, nextBeginning } from '@mistpeak/core/messages/nets';
import { Link } from 'react-router';
import { useNow } from '../live/now';
import { useLive } from '../live/store';
import { formatAge } from '../pieces/age';

/** A net that begins soon is told on every page, until it has begun or we have checked in. */
export function NetReminder() {
  const nowMs = useNow(10_000);
  const nets = useLive((state) => state.messages.settings.nets);
  const outgoing = useLive((state) => state.messages.outgoing);
  const near = nets.filter(
    (net) =>
      isNear(net, nowMs) &&
      !outgoing.some(
        ({ to, writtenAtMs }) =>
          to === net.addressee.toUpperCase() && nowMs - writtenAtMs < net.remindMin * 60_000,
      ),
  );
  if (near.length === 0) return null;
  return (
    <div role="status" className="border-b border-line bg-sheet px-7 py-2 text-[14.5px] max-md:px-4">
      {near.map((net) => (
        <p key={net.name}>
          <b className="font-[640]">{net.name}</b> begins in {formatAge(nextBeginning(net, nowMs) - nowMs)}.{' '}
          <Link className="underline" to="/messages/nets">
            Check in
          </Link>
        </p>
      ))}
    </div>
  );
}
