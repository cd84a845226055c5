import type { ReceivedView } from '@mistpeak/contract/messages';
import { formatClock } from '../../pieces/age';

/** One message that was heard, and what it is to us. */
export function HeardLine({ message }: { message: ReceivedView }) {
  const { id, standing, from, to, text, atMs, copies } = message;
  return (
    <li className="border-t border-line py-2" data-heard={id} data-standing={standing}>
      <p className="border-l-[3px] border-r4 pl-3 text-[15px] break-words">
        <span className="mr-2 text-[12.5px] text-ink3">
          <span className="font-mono">{formatClock(atMs, 'utc').slice(0, 5)}</span> from{' '}
          <span className="font-mono">{from}</span> to <span className="font-mono">{to}</span>
          {message.throughGate !== undefined && (
            <>
              , put on the air by the gate <span className="font-mono">{message.throughGate}</span>
            </>
          )}
        </span>
        <span className="block">{text}</span>
        <span
          className={`block text-[13px] ${standing === 'for another of mine' ? 'text-look' : 'text-ink2'}`}
        >
          {standingWords(message)}
          {copies > 1 && ` Heard ${copies} times.`}
        </span>
      </p>
    </li>
  );
}

function standingWords({ standing, to, number, acksSent, acknowledgedBy }: ReceivedView): string {
  const other = acknowledgedBy === undefined ? '' : ` ${acknowledgedBy} acknowledged it.`;
  switch (standing) {
    case 'for me':
      if (number === undefined) return 'It wants no acknowledgement.';
      if (acksSent > 0) return `Acknowledged${acksSent === 1 ? '' : ` ${acksSent} times`} from here.${other}`;
      return acknowledgedBy === undefined
        ? 'Not acknowledged: nothing may be sent here now. It will be when it is repeated and the transmitter is armed.'
        : `Not acknowledged from here.${other}`;
    case 'for another of mine':
      return `To ${to}, another of your stations: not acknowledged from here.${other || ' If that one is off, its sender waits in vain.'}`;
    case 'from another of mine':
      return `Keyed on another device of yours.${other}`;
    case 'group':
      return 'To a group; nobody acknowledges.';
    case 'bulletin':
      return 'To all.';
  }
}
