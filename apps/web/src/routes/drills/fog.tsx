import type { TestId } from '@mistpeak/core/faults/tests';

/** The chain from the antenna to the far station, and which test looks where. */
const STONES = [
  'radio',
  'sound and keying',
  'modem',
  'computer or phone',
  'app',
  'channel',
  'digipeater',
  'gateway',
] as const;
type Stone = (typeof STONES)[number];

const LOOKS_AT: Readonly<Record<TestId, readonly Stone[]>> = {
  port: ['modem', 'computer or phone'],
  listen: ['radio', 'channel'],
  meter: ['radio', 'channel'],
  decode: ['modem', 'radio'],
  lamp: ['sound and keying', 'radio'],
  second: ['sound and keying', 'channel'],
  echo: ['digipeater', 'channel'],
  call: ['gateway'],
  another: ['channel', 'gateway'],
  sheet: ['radio', 'modem', 'app'],
  apps: ['computer or phone'],
  offline: ['app'],
  volts: ['radio'],
  clock: ['computer or phone'],
  own: ['app', 'channel'],
  plug: ['sound and keying'],
  service: ['gateway'],
  spelling: ['app'],
  readback: ['radio'],
};

const STEP = 150;
const HEIGHT = 190;

/** The chain in fog; each test lifts some of it. The findings beside it say the same in words. */
export function Fog({ done, isClear }: { done: readonly TestId[]; isClear: boolean }) {
  const looked = (stone: Stone): number => done.filter((test) => LOOKS_AT[test].includes(stone)).length;
  const width = STEP * STONES.length;
  const ridge = STONES.map((_, i) => 118 - 34 * Math.sin(i * 1.15) - (i === 6 ? 30 : 0));
  return (
    <svg
      viewBox={`0 0 ${width} ${HEIGHT}`}
      role="img"
      aria-label={`The chain in fog; lifted from ${STONES.filter((stone) => isClear || looked(stone) > 0).join(', ') || 'nothing yet'}`}
      className="block w-full"
    >
      <polygon
        points={`0,${HEIGHT} ${ridge.map((y, i) => `${STEP * (i + 0.5)},${y + 26}`).join(' ')} ${width},${HEIGHT}`}
        fill="var(--r1)"
      />
      <polyline
        points={ridge.map((y, i) => `${STEP * (i + 0.5)},${y}`).join(' ')}
        fill="none"
        stroke="var(--r4)"
        strokeWidth="2"
        strokeDasharray="5 6"
      />
      {STONES.map((stone, i) => {
        const thickness = isClear ? 0 : Math.max(0, 0.94 - 0.42 * looked(stone));
        const [x, y] = [STEP * (i + 0.5), ridge[i] as number];
        return (
          <g key={stone}>
            <circle
              cx={x}
              cy={y}
              r="9"
              fill={looked(stone) > 0 || isClear ? 'var(--proved)' : 'var(--sheet)'}
              stroke="var(--ink)"
              strokeWidth="2"
            />
            <text x={x} y={y + 30} textAnchor="middle" className="text-[15px] font-[600]" fill="var(--ink)">
              {stone}
            </text>
            <g fill="var(--sheet)" opacity={thickness}>
              <ellipse cx={x - 22} cy={y + 6} rx="62" ry="42" />
              <ellipse cx={x + 24} cy={y + 16} rx="66" ry="40" />
            </g>
          </g>
        );
      })}
    </svg>
  );
}
