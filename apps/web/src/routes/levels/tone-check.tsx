import { useState } from 'react';
import { median } from '@mistpeak/core/levels/heard';
import { judgeKeyingTone } from '@mistpeak/core/levels/keying-tone';
import type { LinkView } from '@mistpeak/contract/link';
import { useLive } from '../../live/store';
import { keepResult } from './keep-result';
import { useOwnPackets } from './own-packets';
import { OwnPacketsFrame } from './own-packets-frame';
import { told, VerdictCard } from './verdict-card';

const PACKETS = 4;

/** Is the tone that holds the key heard beside the data? */
export function ToneCheck({ link }: { link: LinkView | undefined }) {
  const call = useLive((state) => (link ? state.locks.get(link.id)?.call : undefined));
  const own = useOwnPackets(link);
  const [verdict, setVerdict] = useState<ReturnType<typeof judgeKeyingTone>>();
  const run = async (): Promise<void> => {
    setVerdict(undefined);
    const sent = await own.send(PACKETS);
    if (!sent?.heard || !link) return;
    const packets = sent.heard.packets.filter(({ transmitter }) => transmitter === call);
    const judged = judgeKeyingTone(
      { packets, tones: sent.heard.tones },
      median(packets.map(({ levelDbfs }) => levelDbfs)),
    );
    setVerdict(judged);
    const { words, number, turn } = judged;
    await keepResult({ check: 'keying tone', words, number, turn, linkId: link.id }).catch(() => undefined);
  };
  return (
    <section aria-label="Keying tone" className="flex flex-col gap-3">
      <h2>Is my keying tone heard?</h2>
      <p className="text-[14px] text-ink2">
        A tone above 10 kHz holds the key of a stereo cable and is passed by no receiver. Inside the voice
        band it lies over the data, and nobody decodes.
      </p>
      <OwnPacketsFrame
        {...own}
        link={link}
        begin={() => void run()}
        action={`Send ${PACKETS} packets and listen`}
      />
      {verdict && (
        <VerdictCard
          verdict={told(
            !verdict.isHeard && verdict.number !== 'no packet',
            verdict.words,
            verdict.number,
            verdict.turn,
          )}
        />
      )}
    </section>
  );
}
