import { BOUNDS } from '@mistpeak/core/levels/receive-check';
import { describeRaw } from './packet-words';
import type { HeardPacket } from '@mistpeak/core/levels/sound-watch';
import type { OnClock } from '../../live/heard-sound';
import { useLive } from '../../live/store';
import { Table, type Column } from '../../pieces/table';

const RIGHT = 'pr-4 text-right';
const COLUMNS: readonly Column[] = [
  { head: 'Time' },
  { head: 'On the air' },
  { head: 'Level', className: RIGHT },
  { head: 'Twist', className: RIGHT },
  { head: 'Preamble', className: `${RIGHT} max-md:hidden` },
  { head: 'Eb/N0', className: `${RIGHT} max-md:hidden` },
  { head: 'What was special', className: 'max-sm:hidden' },
];

/** Every packet with its own level, twist, preamble and noise; the newest first. */
export function PacketList({ packets }: { packets: readonly OnClock<HeardPacket>[] }) {
  const offsetMs = useLive((state) => state.clockOffsetMs);
  if (packets.length === 0) return <p className="text-[14px] text-ink2">No packet yet.</p>;
  return (
    <Table columns={COLUMNS}>
      {packets
        .slice(-40)
        .reverse()
        .map((packet) => (
          <tr key={`${packet.clockMs} ${packet.atMs}`} className="border-t border-line align-baseline">
            <td className="py-1 pr-3 font-mono whitespace-nowrap text-ink2">
              {timeOf(packet.clockMs + offsetMs)}
            </td>
            <td className="pr-3 font-mono">
              <b className="font-[640]">{packet.transmitter || 'unknown'}</b>{' '}
              <span className="text-[13px] text-ink2 max-md:hidden">{describeRaw(packet.raw)}</span>
            </td>
            <td className={`font-mono whitespace-nowrap ${RIGHT}`}>{figure(packet.levelDbfs, 'dBFS')}</td>
            <td className={`font-mono whitespace-nowrap ${RIGHT}`}>{figure(packet.twistDb, 'dB', true)}</td>
            <td className={`font-mono whitespace-nowrap ${RIGHT} max-md:hidden`}>
              {figure(packet.preambleMs, 'ms')}
            </td>
            <td className={`font-mono whitespace-nowrap ${RIGHT} max-md:hidden`}>
              {figure(packet.ebN0Db, 'dB')}
            </td>
            <td className="text-[13.5px] text-look max-sm:hidden">{specialOf(packet)}</td>
          </tr>
        ))}
    </Table>
  );
}

const timeOf = (ms: number): string => new Date(ms).toISOString().slice(11, 19);

function figure(value: number | undefined, unit: string, isSigned = false): string {
  if (value === undefined || !Number.isFinite(value)) return '–';
  const sign = value < -0.5 ? '−' : isSigned && value >= 0.5 ? '+' : '';
  return `${sign}${Math.abs(value).toFixed(0)} ${unit}`;
}

function specialOf({ clippedShare, preambleMs, repairs }: HeardPacket): string {
  return [
    ...(clippedShare > BOUNDS.clippedShare ? ['clipped'] : []),
    ...(preambleMs !== undefined && preambleMs < BOUNDS.lateMs ? ['its start is missing'] : []),
    ...(repairs > 0 ? [`${repairs === 1 ? 'one bit' : `${repairs} bits`} repaired`] : []),
  ].join(', ');
}
