import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { Gathering, type Heard } from '@mistpeak/core/levels/heard';
import { judgeReceive, type ReceiveVerdict } from '@mistpeak/core/levels/receive-check';
import type { SoundReport } from '@mistpeak/link/watched-tnc';
import type { Receiver } from '../../live/sound-at-page';

/** A check ends with so many packets, or after so long, whichever comes first. */
export const WANTED = { packets: 20, seconds: 60 } as const;

export interface CheckResult {
  readonly verdict: ReceiveVerdict;
  readonly heard: Heard;
}

export interface RunningCheck {
  readonly seconds: number;
  readonly packets: number;
}

/** Gathers what the receiver hears until there is enough for a verdict. */
export function useCheck(
  receiver: Receiver,
  done: (result: CheckResult) => void,
  wanted: { readonly packets: number; readonly seconds: number } = WANTED,
) {
  const [running, setRunning] = useState<RunningCheck>();
  const gathering = useRef<Gathering>(undefined);
  const isRunning = running !== undefined;
  const finish = (): void => {
    const heard = gathering.current?.heard;
    gathering.current = undefined;
    setRunning(undefined);
    if (heard && heard.seconds > 0) done({ verdict: judgeReceive(heard), heard });
  };
  const take = useEffectEvent(({ news, shape }: SoundReport): void => {
    gathering.current ??= new Gathering(shape);
    gathering.current.take(news);
    const { progress } = gathering.current;
    setRunning(progress);
    if (progress.seconds >= wanted.seconds || progress.packets >= wanted.packets) finish();
  });
  useEffect(() => (isRunning ? receiver.heard.listen(take) : undefined), [receiver, isRunning]);
  return { running, begin: () => setRunning({ seconds: 0, packets: 0 }), finish };
}
