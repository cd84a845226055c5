import type { MailRunView } from '@mistpeak/contract/mail-session';

type Step = 'lit' | 'now' | 'dark' | 'missed';

interface Camp {
  readonly name: string;
  readonly step: Step;
}

/** The way up of one session: lit by what has happened, dark where it has not come. */
export function campsOf(run: MailRunView): readonly Camp[] {
  const attempt = run.attempts.at(-1);
  const { phase, exchange } = run;
  const isOver = phase === 'over';
  const isConnected = attempt?.connectedAtMs !== undefined;
  const isTalking = attempt?.exchangeAtMs !== undefined;
  const sent = run.out.filter(({ state }) => state === 'taken' || state === 'had').length;
  const came = run.in.filter(({ state }) => state === 'kept').length;
  const isDone = attempt?.result === 'done';
  const hasFrequency = attempt?.frequencyMHz !== undefined;
  const isPastTuning = phase !== 'tuning';
  const step = (isLit: boolean, isNow: boolean): Step =>
    isLit ? 'lit' : isNow ? 'now' : isOver ? 'missed' : 'dark';
  return [
    ...(hasFrequency
      ? [
          {
            name: 'frequency set',
            step: step(isPastTuning && attempt?.result !== 'not tuned', phase === 'tuning'),
          },
        ]
      : []),
    ...(run.way === 'tcp' || run.calledBy === 'them'
      ? []
      : [
          {
            name: 'channel free',
            step: step(isConnected || phase === 'calling', phase === 'waiting for quiet'),
          },
        ]),
    { name: 'answered', step: step(isConnected, phase === 'calling') },
    {
      name: run.way === 'peer' ? 'greeted' : 'logged in',
      step: step(
        attempt?.loggedIn === true || (isTalking && (run.way === 'peer' || isDone || sent + came > 0)),
        phase === 'talking' && !isTalking,
      ),
    },
    {
      name: sent > 0 ? `${sent} sent` : 'sent',
      step: step(
        sent > 0 || (isDone && run.out.length === 0),
        ['awaiting answers', 'their turn'].includes(exchange) && run.out.length > 0,
      ),
    },
    {
      name: came > 0 ? `${came} came` : 'received',
      step: step(
        came > 0 || (isDone && run.in.length === 0),
        ['receiving', 'keeping', 'asking'].includes(exchange),
      ),
    },
    { name: 'took leave', step: step(isDone, phase === 'closing') },
  ];
}

const WIDTH = 470;
const HEIGHT = 150;
const BASE = 116;
const TOP = 30;

const INK: Readonly<Record<Step, string>> = {
  lit: 'var(--provedfill)',
  now: 'var(--look)',
  dark: 'var(--sheet)',
  missed: 'var(--sheet)',
};
const WORDS: Readonly<Record<Step, string>> = {
  lit: 'done',
  now: 'now',
  dark: 'to come',
  missed: 'not reached',
};

export function SessionClimb({ run }: { run: MailRunView }) {
  const camps = campsOf(run);
  const places = camps.map((camp, i) => {
    const share = camps.length === 1 ? 1 : i / (camps.length - 1);
    return { ...camp, x: 42 + share * (WIDTH - 84), y: BASE - share ** 1.25 * (BASE - TOP) };
  });
  const reached = places.findLastIndex(({ step }) => step === 'lit');
  const line = (some: readonly { x: number; y: number }[]): string =>
    some.map(({ x, y }) => `${x},${y}`).join(' ');
  return (
    <figure className="min-w-0">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full max-md:hidden" aria-hidden>
        <path
          d={`M0 ${HEIGHT} L0 ${BASE + 8} ${places.map(({ x, y }, i) => `L${x + (i % 2 === 0 ? -8 : 8)} ${y + 14 + (i % 3) * 4}`).join(' ')} L${WIDTH} ${TOP + 12} L${WIDTH} ${HEIGHT} Z`}
          fill="var(--r1)"
          opacity="0.55"
        />
        <polyline
          points={line(places)}
          fill="none"
          stroke="var(--r3)"
          strokeWidth="1.5"
          strokeDasharray="3 4"
        />
        {reached > 0 && (
          <polyline
            points={line(places.slice(0, reached + 1))}
            fill="none"
            stroke="var(--proved)"
            strokeWidth="3"
          />
        )}
        {places.map(({ name, step, x, y }, i) => (
          <g key={name}>
            <circle
              cx={x}
              cy={y}
              r={step === 'now' ? 8 : 6.5}
              fill={INK[step]}
              stroke={step === 'lit' ? 'var(--proved)' : step === 'now' ? 'var(--look)' : 'var(--edge)'}
              strokeWidth="2"
            />
            {step === 'missed' && (
              <path d={`M${x - 3} ${y - 3} l6 6 m0 -6 l-6 6`} stroke="var(--edge)" strokeWidth="1.6" />
            )}
            <text
              x={x}
              y={i % 2 === 0 ? y + 24 : y - 13}
              textAnchor="middle"
              fontSize="13"
              fill={step === 'dark' || step === 'missed' ? 'var(--ink3)' : 'var(--ink)'}
              fontWeight={step === 'now' ? 650 : 450}
            >
              {name}
            </text>
          </g>
        ))}
      </svg>
      <ol aria-label="How far this session is" className="text-[14px] md:sr-only">
        {camps.map(({ name, step }) => (
          <li key={name} className="flex items-center gap-2 py-0.5">
            <span
              aria-hidden
              className="size-3 shrink-0 rounded-full border-2"
              style={{
                background: INK[step],
                borderColor:
                  step === 'lit' ? 'var(--proved)' : step === 'now' ? 'var(--look)' : 'var(--edge)',
              }}
            />
            {name} <span className="text-ink3">{WORDS[step]}</span>
          </li>
        ))}
      </ol>
    </figure>
  );
}
