import { memo } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { laneOf, LANES, SPAN_MS } from '@mistpeak/core/stations/channel-past';
import type { FrameRecord } from '@mistpeak/contract/frame';
import { useMainLink } from '../live/main-link';
import { useNow } from '../live/now';
import { usePacedLive } from '../live/paced';
import { SHOWN_FRAMES, type LiveState } from '../live/store';
import { readRecord } from '../live/views';
import { LANES_SPAN_MS, onAir } from './channel-use';
import { useWidth } from './width';

/** Five minutes on a screen move by a pixel in half a second. */
const PACE_MS = 500;
const framesOf = ({ frames }: LiveState) => frames;
const channelsOf = ({ channels }: LiveState) => channels;

const LANE_FILL = ['var(--proved)', 'var(--ink)', 'var(--r4)', 'var(--r3)'] as const;
const LANE_HEIGHT = 26;
const LABEL_WIDTH = 62;
const NARROWEST = 3;

function laneOfRecord(record: FrameRecord): number {
  const { view } = readRecord(record);
  return laneOf(record.direction, isMalformed(view) ? undefined : view.path.hops);
}

/**
 * The last five minutes of the channel: each frame a block of its true air time; further back than the single frames
 * reach, how much of each two seconds was held, as the height of a block. The log is its twin in words.
 */
export const ChannelLanes = memo(function ChannelLanes({
  selected,
  select,
}: {
  selected?: string | undefined;
  select?: (id: string) => void;
}) {
  const nowMs = useNow();
  const frames = usePacedLive(framesOf, PACE_MS);
  const channels = usePacedLive(channelsOf, PACE_MS);
  const link = useMainLink();
  const [ref, width] = useWidth();
  const span = Math.max(1, width - LABEL_WIDTH - 8);
  const x = (ms: number): number => LABEL_WIDTH + (1 - (nowMs - ms) / LANES_SPAN_MS) * span;
  // What came by the internet held no channel: hollow, on a row of its own, where there is any.
  const byInternet = frames.filter(({ atMs, line }) => line !== undefined && nowMs - atMs < LANES_SPAN_MS);
  const rows = byInternet.length > 0 ? [...LANES, 'internet'] : LANES;
  const height = rows.length * LANE_HEIGHT + 18;
  const past = (link && channels.get(link.id)) ?? [];
  const shown = frames.filter(({ atMs, line }) => line === undefined && nowMs - atMs < LANES_SPAN_MS);
  // All that there was, unless the list is full: then single frames begin where it does.
  const singlyFromMs = frames.length < SHOWN_FRAMES ? -Infinity : (frames[0]?.atMs ?? -Infinity);
  return (
    <div ref={ref}>
      <svg width={width} height={height} aria-hidden className="block text-[12.5px]">
        {rows.map((lane, i) => (
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
        {past
          .filter(({ fromMs }) => fromMs + SPAN_MS <= singlyFromMs && nowMs - fromMs < LANES_SPAN_MS)
          .flatMap(({ fromMs, airMs }) =>
            airMs.map((ms, lane) => {
              const height = ms === 0 ? 0 : Math.max(2, Math.min(1, ms / SPAN_MS) * 16);
              const left = Math.max(LABEL_WIDTH, x(fromMs));
              return (
                <rect
                  key={`${fromMs} ${lane}`}
                  x={left}
                  y={lane * LANE_HEIGHT + 21 - height}
                  width={Math.max(1, x(fromMs + SPAN_MS) - left - 0.5)}
                  height={height}
                  fill={LANE_FILL[lane]}
                />
              );
            }),
          )}
        {shown.map((frame) => {
          const { fromMs, toMs } = onAir(frame, link);
          const lane = laneOfRecord(frame);
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
              onClick={() => select?.(frame.id)}
            />
          );
        })}
        {byInternet.map(({ id, atMs }) => (
          <rect
            key={id}
            data-frame={id}
            x={Math.max(LABEL_WIDTH, x(atMs))}
            y={LANES.length * LANE_HEIGHT + 8}
            width={8}
            height={10}
            fill={id === selected ? 'var(--provedfill)' : 'var(--paper)'}
            stroke={id === selected ? 'var(--ink)' : 'var(--r4)'}
            strokeWidth={1.5}
            className="cursor-pointer"
            onClick={() => select?.(id)}
          />
        ))}
        <Minutes height={height} x={x} isNarrow={width < 480} />
      </svg>
    </div>
  );
});

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
