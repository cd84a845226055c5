import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { toHex, toLatin1 } from '@mistpeak/core/bits/octets';
import { formatMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { bitsOnAir } from '@mistpeak/core/hdlc/air-time';
import { useMainLink } from '../../live/main-link';
import { formatSeconds } from '../../pieces/age';
import { printable } from '../../pieces/frame-way';
import type { Outgoing } from './frame-of';

/** The exact frame: as a monitor shows it, field by field in hex, and how long it holds the channel. */
export function OutgoingFrame({ frame: outgoing }: { frame: Outgoing | Malformed }) {
  return (
    <section aria-label="What goes out" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>What goes out</h2>
      {isMalformed(outgoing) ? (
        <p className="pt-1.5 text-[14px] text-stop">There is no frame yet: {outgoing.malformed}.</p>
      ) : (
        <>
          <p
            data-testid="monitor"
            className="my-2 rounded-lg border border-line bg-raise px-3.5 py-2 font-mono text-[13.5px] break-all"
          >
            {printable(formatMonitorText(outgoing.frame))}
          </p>
          <Fields outgoing={outgoing} />
          <AirTime outgoing={outgoing} />
        </>
      )}
    </section>
  );
}

function Fields({ outgoing: { frame, raw } }: { outgoing: Outgoing }) {
  const pathEnd = 14 + frame.path.length * 7;
  const rows = [
    { name: 'to', octets: raw.subarray(0, 7), says: frame.destination },
    { name: 'from', octets: raw.subarray(7, 14), says: frame.source },
    ...frame.path.map(({ call }, i) => ({
      name: `via ${i + 1}`,
      octets: raw.subarray(14 + 7 * i, 21 + 7 * i),
      says: call,
    })),
    { name: 'control, PID', octets: raw.subarray(pathEnd, pathEnd + 2), says: 'UI frame, no layer 3' },
    { name: 'info', octets: raw.subarray(pathEnd + 2), says: printable(toLatin1(raw.subarray(pathEnd + 2))) },
  ];
  return (
    <table className="w-full text-left text-[13px]" data-testid="octets" data-hex={toHex(raw)}>
      <caption className="sr-only">The octets of the frame, field by field</caption>
      <tbody>
        {rows.map(({ name, octets, says }) => (
          <tr key={name} className="border-b border-line align-baseline">
            <th scope="row" className="py-1 pr-4 font-[500] whitespace-nowrap text-ink3">
              {name}
            </th>
            <td className="w-[52%] py-1 pr-4 font-mono leading-snug">
              {toHex(octets).replace(/../g, '$& ')}
            </td>
            <td className="py-1 font-mono break-all text-ink2">{says}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** TXDELAY, frame and tail to scale. */
function AirTime({ outgoing: { raw } }: { outgoing: Outgoing }) {
  const link = useMainLink();
  const { airRate = 1200, txDelayMs = 300, txTailMs = 0 } = link?.settings ?? {};
  const bits = bitsOnAir(raw);
  const frameMs = (bits * 1000) / airRate;
  const totalMs = txDelayMs + frameMs + txTailMs;
  const parts = [
    { name: 'TXDELAY', ms: txDelayMs, fill: 'bg-line text-ink' },
    { name: 'frame', ms: frameMs, fill: 'bg-ink text-paper' },
    { name: 'tail', ms: txTailMs, fill: 'bg-line text-ink' },
  ].filter(({ ms }) => ms > 0);
  return (
    <div className="pt-3">
      <p className="text-[14px]">
        <b className="font-mono">{formatSeconds(totalMs)}</b> on the air{' '}
        <span className="text-[13px] text-ink2">
          at {airRate} Bd: {raw.length} octets, {bits} bits with flags, check and stuffing
        </span>
      </p>
      <div className="mt-1.5 flex h-6 overflow-hidden rounded-[4px] text-[12px]" aria-hidden>
        {parts.map(({ name, ms, fill }) => (
          <span
            key={name}
            style={{ width: `${(ms / totalMs) * 100}%` }}
            className={`grid place-items-center overflow-hidden whitespace-nowrap ${fill}`}
          >
            {ms / totalMs > 0.12 ? `${name} ${Math.round(ms)} ms` : ''}
          </span>
        ))}
      </div>
    </div>
  );
}
