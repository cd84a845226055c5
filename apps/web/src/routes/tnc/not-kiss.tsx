import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import { portVoice } from '@mistpeak/core/tnc/port-voice';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LinkView } from '@mistpeak/contract/link';
import { useLive } from '../../live/store';

/** So many scraps in a row, and no frame between, tell that it is not KISS that comes. */
const TELLING = 3;
const LOOKED_AT = 8;

/** The port opens, but what comes is no KISS: names what it is, and the switch. */
export function NotKiss({ link }: { link: LinkView }) {
  const frames = useLive((state) => state.frames);
  const octets = scrapsOf(frames, link.id);
  if (!octets) return null;
  const { voice, means, change, seen } = portVoice(octets);
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

/** The last octets of the link, if nothing of them was a frame. */
function scrapsOf(frames: readonly FrameRecord[], linkId: string): Uint8Array | undefined {
  const last = frames
    .filter((frame) => frame.linkId === linkId && frame.direction === 'heard')
    .slice(-LOOKED_AT);
  const isTelling =
    last.length >= TELLING && last.slice(-TELLING).every(({ trouble }) => trouble === 'outside a frame');
  if (!isTelling) return undefined;
  const octets = fromHex(
    last
      .filter(({ trouble }) => trouble === 'outside a frame')
      .map(({ rawHex }) => `${rawHex}0d`)
      .join(''),
  );
  return isMalformed(octets) ? undefined : octets;
}
