import { useSearchParams } from 'react-router';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { explainCopies } from '@mistpeak/core/path-lab/copies';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { readRecord } from '../../live/views';
import { formatClock, formatSeconds } from '../../pieces/age';
import { FrameWay } from '../../pieces/frame-way';
import { packetsOf, type Packet } from './packets';

const SHOWN = 60;
/** Why did this one come twice? The copies of a packet of the log, each with its way. */
export function PacketView() {
  const frames = useLive((state) => state.frames);
  const operator = useLive((state) => state.operator) as OperatorView;
  const [search, setSearch] = useSearchParams();
  const packets = packetsOf(frames);
  const wanted = search.get('frame');
  const found = packets.find(({ records }) => records.some(({ id }) => id === wanted));
  const chosen = found ?? packets.find(({ records }) => records.length > 1) ?? packets[0];
  return (
    <div className="grid gap-x-9 gap-y-5 lg:grid-cols-[18rem_minmax(0,1fr)]">
      <nav
        aria-label="Packets of the log"
        className="max-h-[70dvh] overflow-y-auto border-r border-line pr-3 max-lg:max-h-56"
      >
        <ul>
          {packets.slice(0, SHOWN).map((packet) => {
            const [first] = packet.records as [FrameRecord];
            const { view } = readRecord(first);
            return (
              <li key={packet.key + first.id}>
                <button
                  type="button"
                  aria-current={packet === chosen}
                  onClick={() => setSearch({ frame: first.id })}
                  className="flex w-full items-baseline gap-2 rounded px-2 py-1 text-left text-[13.5px] hover:bg-sheet aria-[current=true]:bg-raise max-md:min-h-11"
                >
                  <span className="font-mono text-ink3">{formatClock(first.atMs, 'utc')}</span>
                  <b className="font-mono font-[560]">{isMalformed(view) ? '?' : view.frame.source}</b>
                  {packet.records.length > 1 && (
                    <span className="ml-auto font-mono">{packet.records.length}×</span>
                  )}
                </button>
              </li>
            );
          })}
        </ul>
      </nav>
      {wanted !== null && !found ? (
        <p role="status" className="text-ink2">
          That packet is no longer at hand here, or was not read. Choose another.
        </p>
      ) : chosen ? (
        <Explained packet={chosen} operator={operator} />
      ) : (
        <p className="text-ink2">Nothing was heard yet.</p>
      )}
    </div>
  );
}

function Explained({ packet: { records }, operator }: { packet: Packet; operator: OperatorView }) {
  const copies = records.flatMap(({ id, atMs, rawHex }) => {
    const { view } = readRecord(records.find((record) => record.id === id) as FrameRecord);
    return isMalformed(view) ? [] : [{ frame: view.frame, atMs, rawHex, id }];
  });
  if (copies.length === 0) return null;
  const { verdict, copies: explained, remarks } = explainCopies(copies);
  return (
    <div className="flex min-w-0 flex-col gap-4">
      <p className="max-w-[46rem] text-[19px] leading-snug font-[620]" role="status">
        {verdict}
      </p>
      <ol className="flex flex-col" data-testid="copies">
        {explained.map(({ afterMs, hops, words }, i) => (
          <li
            key={i}
            className="grid grid-cols-[5rem_5rem_1fr] gap-x-3 border-t border-line py-1.5 text-[14px]"
          >
            <span className="font-mono text-ink3">
              {i === 0 ? formatClock(copies[0]?.atMs ?? 0, 'utc') : `+${formatSeconds(afterMs)}`}
            </span>
            <span>{hops === 0 ? 'direct' : hops === 1 ? '1 hop' : `${hops} hops`}</span>
            <span className="text-ink2">{words}</span>
          </li>
        ))}
      </ol>
      {remarks.length > 0 && (
        <ul className="flex max-w-[46rem] flex-col gap-1.5 text-[14.5px] text-look">
          {remarks.map((remark) => (
            <li key={remark}>{remark}</li>
          ))}
        </ul>
      )}
      <FrameWay record={records[0] as FrameRecord} manner={operator} />
    </div>
  );
}
