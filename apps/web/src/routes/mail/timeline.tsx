import type { MailLine, MailRunView } from '@mistpeak/contract/mail-session';
import { waitWords } from './words';

const WIDTH = 560;
const LEFT = 84;
const ROW = 34;

interface Stretch {
  readonly fromMs: number;
  readonly toMs: number;
  readonly kind: 'before' | 'calling' | 'greeting' | 'exchange';
}

const INK = {
  before: 'var(--line)',
  calling: 'var(--r2)',
  greeting: 'var(--r3)',
  exchange: 'var(--provedfill)',
} as const;

const NAMES = {
  before: 'tuning, waiting',
  calling: 'calling',
  greeting: 'greeting',
  exchange: 'messages',
} as const;

/** Each try as a line of time: calling, greeting, exchange; what was said on either side as strokes above and below it. */
export function Timeline({ run, lines }: { run: MailRunView; lines: readonly MailLine[] }) {
  const endMs =
    run.endedAtMs ??
    Math.max(
      run.startedAtMs + 1000,
      ...run.attempts.map((one) => one.endedAtMs ?? one.atMs),
      ...lines.map(({ atMs }) => atMs),
    );
  const spanMs = Math.max(1000, endMs - run.startedAtMs);
  const x = (ms: number): number => LEFT + ((ms - run.startedAtMs) / spanMs) * (WIDTH - LEFT - 8);
  const height = run.attempts.length * ROW + 30;
  return (
    <figure className="min-w-0">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="w-full"
        role="img"
        aria-label={`Timeline over ${waitWords(spanMs)}: ${run.attempts.map((one) => `${one.gateway} ${one.result}`).join(', ')}`}
      >
        {run.attempts.map((one, i) => {
          const y = 20 + i * ROW;
          return (
            <g key={i}>
              <text
                x={LEFT - 6}
                y={y + 4}
                textAnchor="end"
                fontSize="12.5"
                fontFamily="var(--font-mono)"
                fill="var(--ink)"
              >
                {one.gateway.slice(0, 10)}
              </text>
              <line x1={LEFT} x2={WIDTH - 8} y1={y} y2={y} stroke="var(--line)" />
              {stretchesOf(one, endMs).map(({ fromMs, toMs, kind }) => (
                <rect
                  key={kind}
                  x={x(fromMs)}
                  y={y - 4}
                  width={Math.max(1.5, x(toMs) - x(fromMs))}
                  height="8"
                  fill={INK[kind]}
                />
              ))}
              {lines
                .filter(
                  ({ atMs, side }) => side !== 'told' && atMs >= one.atMs && atMs <= (one.endedAtMs ?? endMs),
                )
                .map(({ atMs, side }, at) => (
                  <line
                    key={at}
                    x1={x(atMs)}
                    x2={x(atMs)}
                    y1={side === 'mine' ? y - 12 : y + 6}
                    y2={side === 'mine' ? y - 6 : y + 12}
                    stroke="var(--ink2)"
                    strokeWidth="1.2"
                  />
                ))}
            </g>
          );
        })}
        <text x={LEFT} y={height - 3} fontSize="12" fill="var(--ink3)">
          0
        </text>
        <text x={WIDTH - 8} y={height - 3} textAnchor="end" fontSize="12" fill="var(--ink3)">
          {waitWords(spanMs)}
        </text>
      </svg>
      <figcaption className="flex flex-wrap gap-x-4 text-[13px] text-ink2">
        {(['before', 'calling', 'greeting', 'exchange'] as const).map((kind) => (
          <span key={kind} className="flex items-center gap-1.5">
            <span aria-hidden className="size-3" style={{ background: INK[kind] }} /> {NAMES[kind]}
          </span>
        ))}
        <span>strokes: lines of mine above, theirs below</span>
      </figcaption>
    </figure>
  );
}

function stretchesOf(
  { atMs, calledAtMs, connectedAtMs, exchangeAtMs, endedAtMs }: MailRunView['attempts'][number],
  nowMs: number,
): Stretch[] {
  const endMs = endedAtMs ?? nowMs;
  const parts: Stretch[] = [{ fromMs: atMs, toMs: calledAtMs ?? endMs, kind: 'before' }];
  if (calledAtMs !== undefined)
    parts.push({ fromMs: calledAtMs, toMs: connectedAtMs ?? endMs, kind: 'calling' });
  if (connectedAtMs !== undefined)
    parts.push({ fromMs: connectedAtMs, toMs: exchangeAtMs ?? endMs, kind: 'greeting' });
  if (exchangeAtMs !== undefined) parts.push({ fromMs: exchangeAtMs, toMs: endMs, kind: 'exchange' });
  return parts;
}
