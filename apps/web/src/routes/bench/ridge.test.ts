import { campPoints, filled, ridge } from './ridge';

describe('the drawing of the climb', () => {
  it.each([1, 3, 6, 15])('of %i camps rises from left to right, inside the picture', (count) => {
    const points = campPoints(count);
    expect(points).toHaveLength(count);
    for (const { x, y } of points) expect(x > 0 && x < 1 && y > 0 && y < 1).toBe(true);
    points.slice(1).forEach((point, i) => {
      expect(point.x).toBeGreaterThan(points[i]?.x ?? 1);
      if (count <= 6) expect(point.y).toBeLessThan(points[i]?.y ?? 0);
    });
  });

  it('has ridges behind the ground, higher the farther, across the whole width', () => {
    const points = campPoints(6);
    const mean = (lift: number): number => {
      const line = ridge(points, lift);
      expect([line[0]?.x, line.at(-1)?.x]).toEqual([0, 1]);
      return line.reduce((sum, { y }) => sum + y, 0) / line.length;
    };
    expect(mean(1)).toBeLessThan(mean(0.5));
  });

  it('is filled down to the lower edge', () => {
    expect(
      filled(
        [
          { x: 0, y: 0.5 },
          { x: 1, y: 0 },
        ],
        100,
        50,
      ),
    ).toBe('M0 50L0.0 25.0L100.0 0.0L100 50Z');
  });
});
