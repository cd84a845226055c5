import { useState } from 'react';
import { decodeAddressField } from '@mistpeak/core/ax25/frame';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { BOUNDS } from '@mistpeak/core/levels/receive-check';
import type { HeardPacket } from '@mistpeak/core/levels/sound-watch';
import {
  answersBeginLate,
  hangWords,
  measureVox,
  voxParameters,
  type VoxTiming,
} from '@mistpeak/core/levels/vox-timing';
import type { LinkView } from '@mistpeak/contract/link';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { RECEIVER } from '../../live/sound-at-page';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { ProblemNote } from '../../pieces/problem-note';
import { keepResult } from './keep-result';
import { useOwnPackets } from './own-packets';
import { OwnPacketsFrame } from './own-packets-frame';
import { told, VerdictCard } from './verdict-card';

const PACKETS = 3;
const LATE = { lateMs: BOUNDS.lateMs, least: BOUNDS.senders };

/** What was sent to me, and all else. */
function parted(packets: readonly HeardPacket[], call: string): [HeardPacket[], HeardPacket[]] {
  const isToMe = ({ raw }: HeardPacket): boolean => {
    const field = decodeAddressField(raw);
    return !isMalformed(field) && field.destination === call;
  };
  return [packets.filter(isToMe), packets.filter((one) => !isToMe(one))];
}

/** How long the VOX takes to key, and to let go; TXDELAY and tail are computed from it. */
export function VoxCheck({ link }: { link: LinkView | undefined }) {
  const call = useLive((state) => (link ? state.locks.get(link.id)?.call : undefined));
  const own = useOwnPackets(link);
  const { problem, attempt } = useAttempt();
  const [timing, setTiming] = useState<VoxTiming | 'nothing'>();
  const beginLate = call !== undefined && answersBeginLate(...parted(RECEIVER.heard.packets, call), LATE);
  const run = async (): Promise<void> => {
    setTiming(undefined);
    const heard = await own.send(PACKETS);
    if (!heard?.heard || !link) return;
    const mine = heard.heard.packets.filter(({ transmitter }) => transmitter === call);
    const measured = measureVox(mine, heard.stretches, link.settings.txDelayMs);
    setTiming(measured ?? 'nothing');
    if (measured)
      await keepResult({
        check: 'vox timing',
        words: `The VOX keys after ${measured.attackMs.toFixed(0)} ms.`,
        number: numberOf(measured),
        turn: hangWords(measured) ?? '',
        linkId: link.id,
      }).catch(() => undefined);
  };
  const use = (): void => {
    if (!link || !timing || timing === 'nothing') return;
    const { txDelayMs, txTailMs } = voxParameters(timing);
    void attempt(() =>
      command('PUT', `/links/${link.id}`, { ...link.settings, version: link.version, txDelayMs, txTailMs }),
    );
  };
  const wanted = timing && timing !== 'nothing' ? voxParameters(timing) : undefined;
  const isInForce =
    wanted?.txDelayMs === link?.settings.txDelayMs && wanted?.txTailMs === link?.settings.txTailMs;
  return (
    <section aria-label="VOX timing" className="flex flex-col gap-3">
      <h2>VOX timing</h2>
      <OwnPacketsFrame
        {...own}
        link={link}
        begin={() => void run()}
        action={`Send ${PACKETS} packets and measure`}
      />
      {beginLate && (
        <VerdictCard
          verdict={told(
            false,
            'Answers to you begin late, while others’ packets are whole.',
            'by what this page has heard',
            'The VOX holds your key into the answer: set its delay to the shortest, or key by a line or a tone.',
          )}
        />
      )}
      {timing === 'nothing' && (
        <VerdictCard
          verdict={told(
            false,
            'The second receiver read none of your packets.',
            '',
            'Do the transmit check first; the second receiver needs an open squelch.',
          )}
        />
      )}
      {timing && timing !== 'nothing' && wanted && (
        <>
          <VerdictCard
            verdict={told(
              hangWords(timing) === undefined,
              hangWords(timing) ?? `The VOX keys after ${timing.attackMs.toFixed(0)} ms.`,
              numberOf(timing),
              `TXDELAY ${wanted.txDelayMs} ms, tail ${wanted.txTailMs} ms: the attack, and 150 ms of preamble that is left for receivers.`,
            )}
          />
          {problem && <ProblemNote problem={problem} />}
          <Button className="self-start" disabled={isInForce} onClick={use}>
            {isInForce ? 'These are in force' : 'Use these for the link'}
          </Button>
        </>
      )}
    </section>
  );
}

const numberOf = ({ attackMs, hangMs, packets }: VoxTiming): string =>
  `attack ${attackMs.toFixed(0)} ms, ${hangMs === undefined ? 'hang not to be told' : `hang ${hangMs.toFixed(0)} ms`}, ${packets} packets`;
