/** How far a message to a service has come. taken: the service acknowledged it, which is no delivery. */
export type Stage = 'on its way' | 'repeated' | 'taken' | 'delivered' | 'answered' | 'failed';

interface Sent {
  readonly to: string;
  readonly from: string;
  readonly writtenAtMs: number;
  readonly tries: readonly { readonly heardBack: readonly { readonly by?: string }[] }[];
  readonly phase: { readonly kind: string };
}
interface Got {
  readonly from: string;
  readonly to: string;
  readonly text: string;
  readonly atMs: number;
}

/** An answer that comes later belongs to another question (ours). */
const ANSWER_WITHIN_MS = 24 * 3_600_000;

/** What came back for one message: up to the next one to that service. */
export function answersTo<Heard extends Got>(
  message: Sent,
  sent: readonly Sent[],
  received: readonly Heard[],
): Heard[] {
  const next = Math.min(
    message.writtenAtMs + ANSWER_WITHIN_MS,
    ...sent
      .filter(
        (one) => one.to === message.to && one.from === message.from && one.writtenAtMs > message.writtenAtMs,
      )
      .map(({ writtenAtMs }) => writtenAtMs),
  );
  return received.filter(
    ({ from, to, atMs }) =>
      from === message.to && to === message.from && atMs >= message.writtenAtMs && atMs < next,
  );
}

/** deliveredMark: as in the form. */
export function stageOf(message: Sent, answers: readonly Got[], deliveredMark: string): Stage {
  const isDelivery = ({ text }: Got): boolean =>
    deliveredMark !== '' && text.toLowerCase().includes(deliveredMark.toLowerCase());
  if (answers.some((answer) => !isDelivery(answer))) return 'answered';
  if (answers.some(isDelivery)) return 'delivered';
  const { kind } = message.phase;
  if (kind === 'acknowledged') return 'taken';
  if (['no answer', 'rejected', 'expired'].includes(kind)) return 'failed';
  const isRepeated = message.tries.some(({ heardBack }) => heardBack.some(({ by }) => by !== undefined));
  return isRepeated ? 'repeated' : 'on its way';
}

/** How a service has worked so far. */
export interface ServiceRecord {
  readonly asked: number;
  readonly worked: number;
  readonly lastWorkedAtMs?: number;
  /** Its last two came to nothing. */
  readonly mayBeClosed: boolean;
}

const FAILURES_THAT_TELL = 2;

/** messages: those to the service, of any order. Cancelled ones and those on their way say nothing. */
export function recordOf(messages: readonly Sent[], stage: (message: Sent) => Stage): ServiceRecord {
  const judged = messages
    .filter(({ phase }) => phase.kind !== 'cancelled')
    .map((message) => ({ stage: stage(message), atMs: message.writtenAtMs }))
    .filter((one) => one.stage !== 'on its way' && one.stage !== 'repeated')
    .sort((a, b) => a.atMs - b.atMs);
  const worked = judged.filter((one) => one.stage !== 'failed');
  const last = worked.at(-1)?.atMs;
  const recent = judged.slice(-FAILURES_THAT_TELL);
  return {
    asked: judged.length,
    worked: worked.length,
    ...(last === undefined ? {} : { lastWorkedAtMs: last }),
    mayBeClosed: recent.length === FAILURES_THAT_TELL && recent.every((one) => one.stage === 'failed'),
  };
}
