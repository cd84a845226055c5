import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { ChainFacts } from '@mistpeak/core/diagnosis/causes';
import { hopsAsked, parsePath } from '@mistpeak/core/digipeating/alias';
import type { FrameRecord } from '@mistpeak/contract/frame';
import type { LinkView } from '@mistpeak/contract/link';
import { useNow } from '../../live/now';
import { useLive } from '../../live/store';
import { readRecord } from '../../live/views';
import { channelUse } from '../../pieces/channel-use';

const LATELY_MS = 30 * 60_000;
const BROKEN = ['bad escape', 'cut off', 'not AX.25', 'too long'];

/** What is known of the chain by that link, for judging causes. */
export function useChainFacts(link: LinkView): ChainFacts {
  const frames = useLive((state) => state.frames);
  const tally = useLive((state) => state.tallies.get(link.id));
  const path = parsePath(useLive((state) => state.beacon?.path) ?? '');
  const nowMs = useNow(5000);
  const count = (reasons: readonly string[]): number =>
    (tally?.troubles ?? [])
      .filter(({ reason }) => reasons.includes(reason))
      .reduce((sum, one) => sum + one.count, 0);
  return {
    linkKind: link.settings.kind === 'network' ? 'network' : 'serial',
    textBeforeFrames: count(['outside a frame']) > 0,
    brokenFrames: count(BROKEN),
    framesRead: tally?.frames ?? 0,
    txDelayMs: link.settings.txDelayMs,
    hopsAsked: isMalformed(path) ? 0 : hopsAsked(path),
    heardDigipeaters: heardDigipeaters(
      frames.filter(({ linkId, atMs }) => linkId === link.id && nowMs - atMs < LATELY_MS),
    ),
    channelUse: channelUse(frames, link, nowMs),
  };
}

/** Whoever repeated the copy that reached us was heard direct. */
function heardDigipeaters(frames: readonly FrameRecord[]): string[] {
  const last = frames.flatMap((frame) => {
    const { view } = readRecord(frame);
    return isMalformed(view) ? [] : view.path.repeaters.slice(-1);
  });
  return [...new Set(last)];
}
