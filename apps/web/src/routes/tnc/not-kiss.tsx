import { voiceInstead } from '@mistpeak/core/diagnosis/facts';
import type { LinkView } from '@mistpeak/contract/link';
import { heardPieces } from '../../live/heard-pieces';
import { useLive } from '../../live/store';

/** The port opens, but what comes is no KISS: names what it is, and the switch. */
export function NotKiss({ link }: { link: LinkView }) {
  const frames = useLive((state) => state.frames);
  const heard = voiceInstead(heardPieces(frames, link.id, link.openedAtMs));
  if (!heard) return null;
  const { voice, means, change, seen } = heard;
  return (
    <section aria-label="What comes" className="border-l-[3px] border-look bg-raise px-3 py-2 text-[14px]">
      <p className="font-[640]">What comes here is no KISS: {voice}.</p>
      <p className="text-ink2">{means}</p>
      <p className="text-ink2">
        <span className="font-[620] text-ink">Try: </span>
        {change}
      </p>
      {seen !== '' && <p className="mt-1 font-mono text-[12.5px] break-all text-ink3">{seen}</p>}
    </section>
  );
}
