/** The drawing of the climb: where the camps stand, and the ridges behind them. Shares of width and height, 0 to 1. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

const FIRST_X = 0.075;
const LAST_X = 0.92;
const FOOT_Y = 0.88;
const TOP_Y = 0.34;
/** Steps of a ridge line across the picture. */
const STEPS = 14;

/** count camps from the lower left to the upper right, a little uneven, as ground is. */
export function campPoints(count: number): Point[] {
  return Array.from({ length: count }, (_, i) => {
    const share = count === 1 ? 0 : i / (count - 1);
    const unevenness = i > 0 && i < count - 1 ? 0.022 * Math.sin(i * 2.4) : 0;
    return {
      x: FIRST_X + share * (LAST_X - FIRST_X),
      y: FOOT_Y - share ** 1.25 * (FOOT_Y - TOP_Y) + unevenness,
    };
  });
}

/** Height of the camps' own slope at x. */
function slopeAt(points: readonly Point[], x: number): number {
  const next = points.findIndex((point) => point.x >= x);
  if (next <= 0) return (next === 0 ? points[0] : points.at(-1))?.y ?? FOOT_Y;
  const [a, b] = [points[next - 1] as Point, points[next] as Point];
  return a.y + ((x - a.x) / (b.x - a.x)) * (b.y - a.y);
}

/** The ground under the camps, and ridges that rise behind it: lift 0 is the ground, 1 the farthest. */
export function ridge(points: readonly Point[], lift: number): Point[] {
  if (lift === 0) {
    const last = points.at(-1) as Point;
    return [{ x: 0, y: Math.min(1, (points[0] as Point).y + 0.05) }, ...points, { x: 1, y: last.y + 0.13 }];
  }
  return Array.from({ length: STEPS + 1 }, (_, i) => {
    const x = i / STEPS;
    const peak = i % 2 === 0 ? 0.35 : 1;
    const noise = 0.5 + 0.5 * Math.sin(i * 2.7 + lift * 9);
    return { x, y: slopeAt(points, x) - lift * (0.06 + 0.24 * peak * (0.45 + 0.55 * noise)) };
  });
}

/** A path that fills everything below the line. */
export function filled(line: readonly Point[], width: number, height: number): string {
  const points = line.map(({ x, y }) => `${(x * width).toFixed(1)} ${(y * height).toFixed(1)}`);
  return `M0 ${height}L${points.join('L')}L${width} ${height}Z`;
}
