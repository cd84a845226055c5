import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import type { HeardPacket } from '@mistpeak/core/levels/sound-watch';
import type { OnClock } from '../../live/heard-sound';
import { useMainLink } from '../../live/main-link';
import { RECEIVER } from '../../live/sound-at-page';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import { CompareCheck } from './compare-check';
import { InputChoice } from './input-choice';
import { LevelStrip } from './level-strip';
import { PacketList } from './packet-list';
import { ReceiveCheck } from './receive-check';
import { ResultsList } from './results-list';
import { SoundFigures } from './sound-figures';
import { SpectrumView } from './spectrum-view';
import { SweepCheck } from './sweep-check';
import { ToneCheck } from './tone-check';
import { TransmitCheck } from './transmit-check';
import { VoxCheck } from './vox-check';

const CHECKS = {
  receive: 'Receive',
  transmit: 'Transmit',
  sweep: 'Sweep',
  compare: 'Cable or speaker',
  vox: 'VOX timing',
  tone: 'Keying tone',
} as const;

/** Under, over, tilted, clipped, late? What is heard, measured, and what to turn. */
export function LevelsPage() {
  const { check = 'receive' } = useParams();
  const [withFall, setFall] = useState(true);
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
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_24rem] lg:grid-rows-[auto_1fr]">
        <div className="flex min-w-0 flex-col gap-4">
          <SoundFigures receiver={RECEIVER} />
          <LevelStrip heard={heard} />
        </div>
        <div className="flex flex-col gap-3 lg:row-span-2">
          <SectionLinks
            label="Checks"
            sections={CHECKS}
            current={check}
            addressOf={(id) => `/levels/${id}`}
          />
          <Check check={check} />
        </div>
        <section aria-label="Spectrum" className="flex min-w-0 flex-col gap-1.5">
          <SpectrumView heard={heard} withFall={withFall} />
          <label className="flex items-center gap-2 self-start text-[13.5px] text-ink2">
            <input
              type="checkbox"
              className="accent-(--proved)"
              checked={withFall}
              onChange={({ target }) => setFall(target.checked)}
            />
            with the last seconds below
          </label>
        </section>
      </div>
      <section aria-label="Packets" className="border-t-[1.5px] border-ink pt-2.5">
        <h2>Packets, each with its own sound</h2>
        <PacketList packets={usePackets()} />
      </section>
      <ResultsList />
    </div>
  );
}

function Check({ check }: { check: string }) {
  const main = useMainLink();
  const linkId = RECEIVER.use((state) => state.linkId);
  const own = useLive((state) => state.links.find(({ id }) => id === linkId)) ?? main;
  switch (check) {
    case 'transmit':
      return <TransmitCheck link={own} />;
    case 'sweep':
      return <SweepCheck receiver={RECEIVER} linkId={linkId} />;
    case 'compare':
      return <CompareCheck receiver={RECEIVER} linkId={linkId} />;
    case 'vox':
      return <VoxCheck link={own} />;
    case 'tone':
      return <ToneCheck link={own} />;
    default:
      return <ReceiveCheck receiver={RECEIVER} linkId={linkId} />;
  }
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
