import { useEffect, useState } from 'react';
import type { HeardPacket } from '@mistpeak/core/levels/sound-watch';
import type { OnClock } from '../../live/heard-sound';
import { RECEIVER } from '../../live/sound-at-page';
import { InputChoice } from './input-choice';
import { LevelStrip } from './level-strip';
import { PacketList } from './packet-list';
import type { CheckResult } from './check';
import { ReceiveCheck } from './receive-check';
import { SoundFigures } from './sound-figures';
import { SpectrumView } from './spectrum-view';

/** Under, over, tilted, clipped, late? What is heard, measured, and what to turn. */
export function LevelsPage() {
  const [results, setResults] = useState<readonly CheckResult[]>([]);
  const [withFall, setFall] = useState(true);
  const packets = usePackets();
  const { heard } = RECEIVER;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>Levels</h1>
        <p className="text-ink2">
          What is heard, measured: under, over, tilted, clipped or late, and what to turn.
        </p>
      </header>
      <InputChoice receiver={RECEIVER} />
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="flex min-w-0 flex-col gap-4">
          <SoundFigures receiver={RECEIVER} />
          <LevelStrip heard={heard} />
          <section aria-label="Spectrum" className="flex flex-col gap-1.5">
            <SpectrumView heard={heard} withFall={withFall} />
            <label className="flex items-center gap-2 self-start text-[13.5px] text-ink2">
              <input type="checkbox" checked={withFall} onChange={({ target }) => setFall(target.checked)} />
              with the last seconds below
            </label>
          </section>
        </div>
        <ReceiveCheck
          receiver={RECEIVER}
          results={results}
          done={(result) => setResults((all) => [result, ...all].slice(0, 2))}
        />
      </div>
      <section aria-label="Packets" className="border-t-[1.5px] border-ink pt-2.5">
        <h2>Packets, each with its own sound</h2>
        <PacketList packets={packets} />
      </section>
    </div>
  );
}

function usePackets(): readonly OnClock<HeardPacket>[] {
  const [packets, setPackets] = useState<readonly OnClock<HeardPacket>[]>(RECEIVER.heard.packets);
  useEffect(
    () =>
      RECEIVER.heard.listen(({ news }) => {
        if (news.packets.length > 0) setPackets(RECEIVER.heard.packets);
      }),
    [],
  );
  return packets;
}
