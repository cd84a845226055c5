import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { ChainFacts } from '@mistpeak/core/diagnosis/causes';
import { heardFacts } from '@mistpeak/core/diagnosis/facts';
import { hopsAsked, parsePath } from '@mistpeak/core/digipeating/alias';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import { isSound, type LinkView } from '@mistpeak/contract/link';
import { heardPieces } from '../../live/heard-pieces';
import { useNow } from '../../live/now';
import { useLastLevel } from '../../live/last-level';
import { useLive } from '../../live/store';
import { channelUse } from '../../pieces/channel-use';

/** What is known of the chain by that link, for judging causes: of this opening alone. */
export function useChainFacts(link: LinkView): ChainFacts {
  const frames = useLive((state) => state.frames);
  const past = useLive((state) => state.channels.get(link.id));
  const path = parsePath(useLive((state) => state.beacon?.path) ?? '');
  const transmissions = useLive((state) => state.transmissions);
  const nowMs = useNow();
  const level = useLastLevel(link.id);
  return {
    ...heardFacts(heardPieces(frames, link.id), link.openedAtMs ?? nowMs, nowMs),
    linkKind: isSound(link.settings) ? 'sound' : link.settings.kind === 'network' ? 'network' : 'serial',
    ...(level?.isInWindow === false && { levelTrouble: level }),
    txDelayMs: link.settings.txDelayMs,
    hopsAsked: isMalformed(path) ? 0 : hopsAsked(path),
    channelUse: channelUse(past, nowMs),
    ...sameWords(transmissions, link.id),
  };
}

/** How long after the one before the last frame went out, if they were the same. */
function sameWords(
  transmissions: readonly TransmissionView[],
  linkId: string,
): Pick<ChainFacts, 'sameWordsAfterMs'> {
  const [last, before] = transmissions.filter((one) => one.linkId === linkId && one.handedAtMs !== undefined);
  if (!last || last.rawHex !== before?.rawHex) return {};
  return { sameWordsAfterMs: (last.handedAtMs ?? 0) - (before.handedAtMs ?? 0) };
}
