import { luckOf, reckonLevels } from './level-table.js';
import { SmallLab } from './testing/small-lab.js';

describe('luck', () => {
  it('is normal: mean 0, deviation 1, 2.3 % beyond two', () => {
    const all = Array.from({ length: 20_000 }, (_, world) => luckOf(3, world, 1, 2));
    const mean = all.reduce((sum, x) => sum + x, 0) / all.length;
    const variance = all.reduce((sum, x) => sum + x * x, 0) / all.length;
    expect(Math.abs(mean)).toBeLessThan(0.035);
    expect(Math.abs(variance - 1)).toBeLessThan(0.05);
    // Five standard errors.
    const beyond = all.filter((x) => x > 2).length / all.length;
    expect(Math.abs(beyond - 0.02275)).toBeLessThan(5 * Math.sqrt((0.02275 * 0.97725) / all.length));
  });

  it('is the same both ways, and another for another pair, world or seed', () => {
    expect(luckOf(1, 2, 3, 4)).toBe(luckOf(1, 2, 4, 3));
    const others = [luckOf(1, 2, 3, 5), luckOf(1, 3, 3, 4), luckOf(2, 2, 3, 4), luckOf(1, 2, 4, 5)];
    for (const other of others) expect(other).not.toBeCloseTo(luckOf(1, 2, 3, 4), 6);
  });

  it('of neighbouring worlds and pairs hangs together nowhere', () => {
    const at = (i: number): [number, number] => [luckOf(1, i, 0, 1), luckOf(1, i + 1, 0, 1)];
    const pairs = Array.from({ length: 10_000 }, (_, i) => at(i));
    const product = pairs.reduce((sum, [a, b]) => sum + a * b, 0) / pairs.length;
    expect(Math.abs(product)).toBeLessThan(0.05);
    const sides = Array.from({ length: 10_000 }, (_, i) => luckOf(1, i, 0, 1) * luckOf(1, i, 0, 2));
    expect(Math.abs(sides.reduce((sum, x) => sum + x, 0) / sides.length)).toBeLessThan(0.05);
  });
});

describe('levels over the ground', () => {
  const at = (longitudeDeg: number, powerW = 5) => ({
    position: { latitudeDeg: -29.6, longitudeDeg },
    heightM: 10,
    powerW,
    gainDbi: 0,
    thresholdDbm: -113,
  });
  const station = (call: string, longitudeDeg: number) =>
    ({ call, role: 'station', end: at(longitudeDeg), packetsPerHour: 0, path: '', octets: 40 }) as const;

  it('are reckoned for every pair both ways, and for each place of the sender', () => {
    const lab = {
      ...new SmallLab().lab,
      stations: [station('A', -11.3), station('B', -11.2), station('C', 60)],
    };
    const sender = {
      call: 'QH4MPK-7',
      end: at(-11.4, 50),
      places: [at(-11.4).position, at(-11.25).position],
      octets: 40,
    };
    const run = reckonLevels(lab, sender, () => 0);
    const shares: number[] = [];
    let next = run.next();
    for (; !next.done; next = run.next()) shares.push(next.value);
    expect(shares.at(-1)).toBe(1);
    const table = next.value;
    // Ten times the power goes out.
    expect(table.marginDb(1, 0, 0) - table.marginDb(0, 1, 0)).toBeCloseTo(10, 4);
    expect(table.marginDb(1, 0, 1)).toBeGreaterThan(table.marginDb(1, 0, 0));
    expect(table.marginDb(1, 2, 0)).toBeCloseTo(table.marginDb(2, 1, 0), 4);
    expect(table.spreadDb(1, 2, 0)).toBeGreaterThan(0);
    // At the other end of the world nobody is heard by luck.
    expect(table.marginDb(3, 0, 0)).toBeLessThan(-20);
    expect(table.spreadDb(3, 0, 0)).toBe(0);
  });
});
