import { scaleTimes } from './time-scale';
import { missedAt, type Person } from './people';

const HEIGHT = 26;

/** When packets came (strokes), when one was expected and none came (rings), and when the next is (a dart); the finish as a flag. */
export function Arrivals({ person, nowMs, width }: { person: Person; nowMs: number; width: number }) {
  const { watched, sighting, standing } = person;
  const { x, fromMs, untilMs } = scaleTimes(nowMs, width);
  const isShown = (atMs: number): boolean => atMs >= fromMs && atMs <= untilMs;
  const came = sighting.arrivals.filter(isShown);
  const missed = missedAt(sighting.arrivals, watched.everyMs, nowMs).filter(isShown);
  const due = watched.finish?.dueAtMs;
  const words = `${came.length} packets came within the hour, ${missed.length} were missed`;
  return (
    <svg width={width} height={HEIGHT} role="img" aria-label={words} className="block overflow-visible">
      <line x1={0} x2={x(nowMs)} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="var(--line)" />
      {came.map((atMs) => (
        <line
          key={atMs}
          x1={x(atMs)}
          x2={x(atMs)}
          y1={4}
          y2={HEIGHT - 4}
          stroke="var(--ink)"
          strokeWidth={2}
        />
      ))}
      {missed.map((atMs) => (
        <circle
          key={atMs}
          cx={x(atMs)}
          cy={HEIGHT / 2}
          r={4}
          fill="var(--paper)"
          stroke="var(--stop)"
          strokeWidth={1.6}
        />
      ))}
      {sighting.arrivedAtMs === undefined &&
        standing.expectedAtMs > nowMs &&
        isShown(standing.expectedAtMs) && (
          <path
            d={`M${x(standing.expectedAtMs) - 4} ${HEIGHT / 2 - 5}l7 5l-7 5z`}
            fill="none"
            stroke="var(--ink3)"
            strokeWidth={1.4}
          />
        )}
      {due !== undefined && isShown(due) && (
        <path
          d={`M${x(due)} ${HEIGHT}V2h9l-3 4l3 4h-9`}
          fill={sighting.arrivedAtMs === undefined ? 'var(--look)' : 'var(--provedfill)'}
          stroke="var(--ink)"
          strokeWidth={1.2}
        />
      )}
      <line x1={x(nowMs)} x2={x(nowMs)} y1={0} y2={HEIGHT} stroke="var(--provedfill)" strokeWidth={1.5} />
    </svg>
  );
}
