import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { useMainLink } from '../live/main-link';
import { useNow } from '../live/now';
import { readRecord } from '../live/views';
import { LANES_SPAN_MS, onAir } from './channel-use';
import { useWidth } from './width';

const LANES = ['mine', 'direct', '1 hop', '2+ hops'] as const;
const LANE_FILL = ['var(--proved)', 'var(--ink)', 'var(--r4)', 'var(--r3)'] as const;
const LANE_HEIGHT = 26;
const LABEL_WIDTH = 62;
const NARROWEST = 3;

/** The lane of a frame: mine, heard direct, over one hop, over more. */
function laneOf(record: FrameRecord): number {
  if (record.direction === 'sent') return 0;
  const { view } = readRecord(record);
  return isMalformed(view) ? 1 : Math.min(3, view.path.hops + 1);
}

/** The last five minutes of the channel: each frame a block of its true air time. The log is its twin in words. */
export function ChannelLanes({
  frames,
  selected,
  select,
}: {
  frames: readonly FrameRecord[];
  selected: string | undefined;
  select: (id: string) => void;
}) {
  const nowMs = useNow();
  const link = useMainLink();
  const [ref, width] = useWidth();
  const span = Math.max(1, width - LABEL_WIDTH - 8);
  const x = (ms: number): number => LABEL_WIDTH + (1 - (nowMs - ms) / LANES_SPAN_MS) * span;
  const height = LANES.length * LANE_HEIGHT + 18;
  const shown = frames.filter(({ atMs }) => nowMs - atMs < LANES_SPAN_MS);
  return (
    <div ref={ref}>
      <svg width={width} height={height} aria-hidden className="block text-[12.5px]">
        {LANES.map((lane, i) => (
          <g key={lane}>
            <text x={0} y={i * LANE_HEIGHT + 17} fill="var(--ink2)">
              {lane}
            </text>
            <line
              x1={LABEL_WIDTH}
              x2={width}
              y1={i * LANE_HEIGHT + 13}
              y2={i * LANE_HEIGHT + 13}
              stroke="var(--line)"
            />
          </g>
        ))}
        {shown.map((frame) => {
          const { fromMs, toMs } = onAir(frame, link);
          const lane = laneOf(frame);
          const isSelected = frame.id === selected;
          const left = Math.max(LABEL_WIDTH, x(fromMs));
          return (
            <rect
              key={frame.id}
              data-frame={frame.id}
              x={left}
              y={lane * LANE_HEIGHT + 5}
              width={Math.max(NARROWEST, x(toMs) - left)}
              height={16}
              rx={2}
              fill={isSelected ? 'var(--provedfill)' : LANE_FILL[lane]}
              stroke={isSelected ? 'var(--ink)' : 'none'}
              strokeWidth={1.5}
              className="cursor-pointer"
              onClick={() => select(frame.id)}
            />
          );
        })}
        <Minutes height={height} x={x} isNarrow={width < 480} />
      </svg>
    </div>
  );
}

const MINUTES = [5, 4, 3, 2, 1, 0];
const FEW_MINUTES = [5, 3, 1, 0];

function Minutes({ height, x, isNarrow }: { height: number; x: (ms: number) => number; isNarrow: boolean }) {
  const nowMs = useNow();
  return (isNarrow ? FEW_MINUTES : MINUTES).map((minutes) => (
    <text
      key={minutes}
      x={x(nowMs - minutes * 60_000)}
      y={height - 3}
      fill="var(--ink3)"
      textAnchor={minutes === 0 ? 'end' : minutes === 5 ? 'start' : 'middle'}
    >
      {minutes === 0 ? 'now' : `−${minutes} min`}
    </text>
  ));
}
