import { useRef, useState } from 'react';
import { Gathering, type Heard } from '@mistpeak/core/levels/heard';
import type { Stretch } from '@mistpeak/core/levels/sound-watch';
import type { TransmissionView } from '@mistpeak/contract/beacon';
import type { LinkView } from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP } from '@mistpeak/contract/sound';
import { command, problemOf } from '../../api';
import { RECEIVER, SECOND_RECEIVER } from '../../live/sound-at-page';
import type { Problem } from '@mistpeak/contract/failures';

/** After a packet, so that others have their turn and a VOX lets go. */
const PAUSE_MS = 3000;

export interface OwnPackets {
  /** Undefined: no second receiver of this page listened. */
  readonly heard: Heard | undefined;
  readonly stretches: readonly Stretch[];
  readonly sent: number;
}

/** Packets of one's own, one after the other, while the second receiver listens. */
export function useOwnPackets(link: LinkView | undefined) {
  const [isSending, setSending] = useState(false);
  const [problem, setProblem] = useState<Problem>();
  const isStopped = useRef(false);

  /** Resolves with what was heard meanwhile; undefined when it was stopped or refused. */
  const send = async (count: number, levelDbfs?: number): Promise<OwnPackets | undefined> => {
    if (!link) return undefined;
    isStopped.current = false;
    setProblem(undefined);
    setSending(true);
    let gathering: Gathering | undefined;
    const stretches: Stretch[] = [];
    const stop = SECOND_RECEIVER.heard.listen(({ news, shape }) => {
      gathering ??= new Gathering(shape);
      gathering.take(news);
      stretches.push(...news.stretches);
    });
    try {
      if (levelDbfs !== undefined && link.settings.kind === 'page-sound')
        RECEIVER.sendAt(levelDbfs, link.settings.sound?.twistDb ?? 0);
      for (let number = 1; number <= count; number++) {
        const text = levelDbfs === undefined ? '' : `at ${levelDbfs} dBFS`;
        const { airTimeMs } = await command<TransmissionView>('POST', '/levels/tests', {
          linkId: link.id,
          number,
          text,
          ...(levelDbfs !== undefined && { levelDbfs }),
        });
        await after(airTimeMs + PAUSE_MS);
        if (isStopped.current) return undefined;
      }
      return { heard: gathering?.heard, stretches, sent: count };
    } catch (error) {
      setProblem(problemOf(error));
      return undefined;
    } finally {
      stop();
      setSending(false);
      // What is sent from now on is no test.
      if (levelDbfs !== undefined && link.settings.kind === 'page-sound') setUpLevel(link);
    }
  };

  const stop = (): void => {
    isStopped.current = true;
    if (!link) return;
    if (link.settings.kind === 'page-sound') RECEIVER.silence();
    void command('POST', `/levels/tests/${link.id}/stop`).catch(() => undefined);
  };
  return { send, stop, isSending, problem };
}

const setUpLevel = ({ settings: { sound = USUAL_SOUND_SETUP } }: LinkView): void =>
  RECEIVER.sendAt(sound.levelDbfs, sound.twistDb);

const after = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
