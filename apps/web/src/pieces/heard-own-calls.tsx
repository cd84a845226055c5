import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import { foreignUses } from '@mistpeak/core/own-calls/collisions';
import { duplicateKey } from '@mistpeak/core/digipeating/digipeater';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { OperatorView } from '@mistpeak/contract/operator';
import { decodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { useLive } from '../live/store';
import { readRecord } from '../live/views';

/** Real traffic: my call on the air that was not sent from here. */
export function HeardOwnCalls({ operator }: { operator: OperatorView }) {
  const frames = useLive((state) => state.frames);
  const stations = useLive((state) => state.ownStations);
  const source = useLive((state) => state.beacon?.source);
  const heard = readable(frames.filter(({ direction }) => direction === 'heard'));
  const transmissions = useLive((state) => state.transmissions);
  const sent = new Set(transmissions.flatMap(({ rawHex }) => keyOf(rawHex)));
  const own = {
    licenceCall: operator.call,
    usedHere: source ? [source] : [],
    planned: stations.map(({ call }) => call),
  };
  const uses = [
    ...new Map(foreignUses(heard, own, sent).map((use) => [`${use.call} ${use.problem}`, use])).values(),
  ];
  return (
    <section aria-label="My calls on the air" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>My calls on the air</h2>
      {uses.length === 0 && (
        <p className="pt-1 text-[14px] text-ink2">
          In the {frames.length} frames at hand, nobody else uses a call of yours.
        </p>
      )}
      <ul className="flex flex-col gap-2 pt-1.5 text-[14px]">
        {uses.map(({ call, problem }) => (
          <li key={`${call} ${problem}`} className="border-l-[3px] border-stop bg-raise px-3 py-1.5">
            <b className="font-mono">{call}</b>{' '}
            {problem === 'used here'
              ? 'was heard with a packet that was not sent from here: another device uses the same SSID, or somebody your call.'
              : 'was heard, and none of your listed devices uses it.'}
          </li>
        ))}
      </ul>
    </section>
  );
}

function keyOf(rawHex: string): string[] {
  const raw = fromHex(rawHex);
  const frame = isMalformed(raw) ? raw : decodeFrame(raw);
  return isMalformed(frame) ? [] : [duplicateKey(frame)];
}

function readable(records: readonly FrameRecord[]): Ax25Frame[] {
  return records.flatMap((record) => {
    const { view } = readRecord(record);
    return isMalformed(view) ? [] : [view.frame];
  });
}
