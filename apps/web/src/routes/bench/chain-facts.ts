import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { ChainFacts } from '@mistpeak/core/diagnosis/causes';
import { heardFacts } from '@mistpeak/core/diagnosis/facts';
import { findingsOfCalls, findingsOfLevel, type OwnCall } from '@mistpeak/core/diagnosis/known';
import { hopsAsked, parsePath } from '@mistpeak/core/digipeating/alias';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import { isSound, type LinkView } from '@mistpeak/contract/link';
import type { SessionView } from '@mistpeak/contract/sessions';
import type { Climb } from '../../live/climb';
import { heardPieces } from '../../live/heard-pieces';
import { useNow } from '../../live/now';
import { useLastLevel } from '../../live/last-level';
import { useLive } from '../../live/store';
import { channelUse } from '../../pieces/channel-use';

/** What was tried longer ago says nothing of now. */
const TRIED_WITHIN_MS = 2 * 3_600_000;

/** What is known of the chain by that link, for judging causes: of this opening, and of what was measured and called lately. */
export function useChainFacts(link: LinkView, { joined, chain, camps }: Climb): ChainFacts {
  const frames = useLive((state) => state.frames);
  const past = useLive((state) => state.channels.get(link.id));
  const path = parsePath(useLive((state) => state.beacon?.path) ?? '');
  const transmissions = useLive((state) => state.transmissions);
  const nowMs = useNow();
  const level = useLastLevel(link.id);
  const sessions = useLive((state) => state.sessions);
  const hasInternetWay = useLive(({ internet }) => internet.settings !== undefined);
  return {
    ...heardFacts(heardPieces(frames, link.id), link.openedAtMs ?? nowMs, nowMs),
    linkKind: isSound(link.settings) ? 'sound' : link.settings.kind === 'network' ? 'network' : 'serial',
    ...(level?.isInWindow === false && { levelTrouble: level }),
    talksKiss: camps.some(({ rung, state }) => rung === 'TNC talks' && state === 'lit'),
    txDelayMs: link.settings.txDelayMs,
    hopsAsked: isMalformed(path) ? 0 : hopsAsked(path),
    channelUse: channelUse(past, nowMs),
    ...sameWords(transmissions, link.id),
    chain: {
      ...(joined?.keying ? { keying: joined.keying } : {}),
      hasInternetWay,
      // Words that set a frequency are sent for a mail session alone, or the radio is keyed by them.
      hasRadioControl: joined?.keying === 'CAT' || chain.purpose === 'mail',
    },
    findings: [
      ...findingsOfLevel(level),
      ...findingsOfCalls(ownCalls(sessions, link.id, nowMs - TRIED_WITHIN_MS)),
    ],
  };
}

const ownCalls = (sessions: readonly SessionView[], linkId: string, sinceMs: number): OwnCall[] =>
  sessions
    .filter((one) => one.linkId === linkId && one.calledBy === 'us' && one.openedAtMs >= sinceMs)
    .sort((a, b) => b.openedAtMs - a.openedAtMs)
    .map(({ peer, connectedAtMs, endedAtMs, heardOctets }) => ({
      peer,
      isAnswered: connectedAtMs !== undefined,
      isOver: endedAtMs !== undefined,
      lastedMs: connectedAtMs === undefined || endedAtMs === undefined ? 0 : endedAtMs - connectedAtMs,
      heardOctets,
    }));

/** How long after the one before the last frame went out, if they were the same. */
function sameWords(
  transmissions: readonly TransmissionView[],
  linkId: string,
): Pick<ChainFacts, 'sameWordsAfterMs'> {
  const [last, before] = transmissions.filter((one) => one.linkId === linkId && one.handedAtMs !== undefined);
  if (!last || last.rawHex !== before?.rawHex) return {};
  return { sameWordsAfterMs: (last.handedAtMs ?? 0) - (before.handedAtMs ?? 0) };
}
