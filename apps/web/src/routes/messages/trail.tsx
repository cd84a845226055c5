import { isOpen } from '@mistpeak/core/messages/entries';
import { gapAfterMs, mostTries, type MessageRules } from '@mistpeak/core/messages/rules';
import type { OutgoingView } from '@mistpeak/contract/messages';

const WIDTH = 360;
const HEIGHT = 30;
const BASE = 22;

/**
 * The tries of one message on an axis of time: a stroke for each, a dot over it where it was heard back, thin strokes for
 * those to come; the end is a peak where it was acknowledged, a cross where it was rejected, a gap where nobody answered.
 * The axis is pressed together towards its end, since the gaps double.
 */
export function Trail({
  message,
  rules,
  nowMs,
}: {
  message: OutgoingView;
  rules: MessageRules;
  nowMs: number;
}) {
  const { tries, phase, number } = message;
  const fromMs = tries[0]?.atMs ?? message.writtenAtMs;
  const coming = phase.kind === 'waiting' ? comingTries(message, rules) : [];
  const planMs = isOpen(message) ? plannedMs(mostTries(number !== undefined, rules), rules) : 0;
  const endMs =
    phase.kind === 'acknowledged' || phase.kind === 'rejected' ? fromMs + phase.afterMs : undefined;
  const lastMs = endMs ?? (isOpen(message) ? nowMs : (tries.at(-1)?.atMs ?? fromMs));
  const longestMs = Math.max(planMs, lastMs - fromMs, 60_000);
  const x = (atMs: number): number =>
    6 + ((WIDTH - 18) * Math.log1p(Math.max(0, atMs - fromMs) / 15_000)) / Math.log1p(longestMs / 15_000);
  const lastX = x(endMs ?? tries.at(-1)?.atMs ?? fromMs);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-[30px] w-full max-w-[24rem]"
      preserveAspectRatio="xMinYMid meet"
      aria-hidden
    >
      <path d={`M0 ${BASE}H${WIDTH}`} stroke="var(--line)" />
      <path d={`M${x(fromMs)} ${BASE}H${lastX}`} stroke="var(--r4)" strokeWidth="2" />
      {tries.map(({ atMs, heardBack }) => (
        <g key={atMs}>
          <path d={`M${x(atMs)} ${BASE}v-9`} stroke="var(--ink)" strokeWidth="2.5" />
          {heardBack.length > 0 && <circle cx={x(atMs)} cy={BASE - 14} r="3" fill="var(--r4)" />}
        </g>
      ))}
      {coming.map((atMs) => (
        <path key={atMs} d={`M${x(atMs)} ${BASE}v-6`} stroke="var(--r3)" strokeDasharray="2 2" />
      ))}
      {phase.kind === 'waiting' && (
        <path d={`M${x(nowMs)} ${BASE - 3}v8`} stroke="var(--look)" strokeWidth="1.5" />
      )}
      {phase.kind === 'acknowledged' && (
        <path d={`M${lastX} ${BASE + 1} l6 -15 l6 15z`} fill="var(--provedfill)" stroke="var(--proved)" />
      )}
      {phase.kind === 'rejected' && (
        <path
          d={`M${lastX + 2} ${BASE - 9}l8 8m0 -8l-8 8`}
          stroke="var(--stop)"
          strokeWidth="2.5"
          fill="none"
        />
      )}
      {phase.kind === 'no answer' && (
        <circle cx={lastX + 9} cy={BASE - 4} r="4.5" fill="none" stroke="var(--stop)" strokeWidth="2" />
      )}
    </svg>
  );
}

/** When the tries that are left would go out. */
function comingTries({ tries, phase, number }: OutgoingView, rules: MessageRules): number[] {
  if (phase.kind !== 'waiting') return [];
  const left = mostTries(number !== undefined, rules) - tries.length;
  let atMs = phase.untilMs;
  return Array.from({ length: Math.max(0, left) }, (_, i) => {
    if (i > 0) atMs += gapAfterMs(tries.length + i, rules);
    return atMs;
  });
}

/** From the first try to the last. */
function plannedMs(most: number, rules: MessageRules): number {
  return Array.from({ length: Math.max(0, most - 1) }, (_, i) => gapAfterMs(i + 1, rules)).reduce(
    (sum, gap) => sum + gap,
    0,
  );
}
