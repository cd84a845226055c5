import type { Clock } from '@mistpeak/link/clock';
import type { ConnectedEnd, Conversation, Line } from './connected-end.js';

/** First call, and then every so often, whether or not somebody answered. */
const FIRST_MS = 40_000;
const EVERY_MS = 4 * 60_000;
const RETRIES = 6;

/** Whom it calls, by which way, and what it leaves there. */
export interface CallPlan {
  readonly to: string;
  readonly via: readonly string[];
  readonly addressee: string;
  readonly subject: string;
  readonly lines: readonly string[];
}

/** A station that calls on a mailbox now and again: reads its mail, leaves a message, and says good-bye. */
export function calling(end: ConnectedEnd, clock: Clock, plan: CallPlan): () => void {
  let times = 0;
  let cancel = clock.after(FIRST_MS, call);
  function call(): void {
    times++;
    end.connect(plan.to, plan.via, (line) => visit(line, plan, times), RETRIES);
    cancel = clock.after(EVERY_MS, call);
  }
  return () => cancel();
}

/** One command at each prompt. */
function visit({ say, hangUp }: Line, { addressee, subject, lines }: CallPlan, times: number): Conversation {
  const steps: (() => void)[] = [
    () => say('L'),
    () => say(`S ${addressee}`),
    () => say(`${subject} ${times}`),
    () => say(...lines, '/EX'),
    () => say('B'),
    hangUp,
  ];
  const next = (): void => steps.shift()?.();
  return { line: (text) => (/>\s*$|^Subject of|^Text, then/.test(text) ? next() : undefined) };
}
