import { seededDice } from '../network/dice.js';
import { chanceOf } from '../propagation/margin.js';
import { advise, situationOf } from './advice.js';
import { comparePaths, type PathResult } from './compare.js';
import { judgeFillIn } from './fill-in.js';
import { followPacket } from './follow.js';
import { hopsOfPath, usualAirTimeMs } from './lab.js';
import { LevelTable } from './level-table.js';
import { runLab } from './run.js';
import { shareOf } from './share.js';
import { finish, SmallLab } from './testing/small-lab.js';

const compare = (small: SmallLab, paths: string[], packets = 300, seed = 1): PathResult[] =>
  finish(comparePaths(small.lab, small.sender, small.table, { paths, packets, seed }));

/** Within five standard errors. */
function expectShare(measured: number, expected: number, trials: number): void {
  const error = Math.sqrt((expected * (1 - expected)) / trials);
  expect(Math.abs(measured - expected)).toBeLessThan(5 * error);
}

describe('shares', () => {
  // Wilson 1927, worked: 5 of 10 → 0.2366 to 0.7634; 0 of 10 → 0 to 0.2775.
  it.each([
    [5, 10, 0.2366, 0.7634],
    [0, 10, 0, 0.2775],
    [10, 10, 0.7225, 1],
    [0, 0, 0, 1],
  ])('%i of %i: between %d and %d', (hits, trials, low, high) => {
    const share = shareOf(hits, trials);
    expect(share.low).toBeCloseTo(low, 3);
    expect(share.high).toBeCloseTo(high, 3);
  });

  it('hold in 95 of 100 cases', () => {
    const roll = seededDice(5);
    let within = 0;
    for (let i = 0; i < 2000; i++) {
      let hits = 0;
      for (let k = 0; k < 60; k++) if (roll() < 0.3) hits++;
      const { low, high } = shareOf(hits, 60);
      if (low <= 0.3 && high >= 0.3) within++;
    }
    expect(within / 2000).toBeGreaterThan(0.93);
    expect(within / 2000).toBeLessThan(0.97);
  });
});

describe('the lab against closed formulas', () => {
  const spread = 6;

  // arithmetic: independent hops multiply: the normal chance of each margin.
  it.each([
    ['', [4], 1],
    ['WIDE1-1', [4, 2], 2],
    ['WIDE2-2', [4, 2, 5], 3],
  ])('a chain by “%s” passes as often as all of its hops do', (path, margins, hops) => {
    const names = ['me', ...Array.from({ length: hops - 1 }, (_, i) => `QH1D${i}`), 'QH3PRT-10'];
    const small = new SmallLab();
    names.slice(1, -1).forEach((call) => small.add(call, 'digipeater'));
    small.add('QH3PRT-10', 'gateway');
    margins.forEach((margin, i) => small.hear(names[i] as string, names[i + 1] as string, margin, spread));
    const [result] = compare(small, [path], 2400);
    const expected = margins.reduce((chance, margin) => chance * chanceOf(margin, spread), 1);
    expectShare(result?.firstTry.share as number, expected, 800);
    // The luck of a place lasts: three tries from it are hardly better than one.
    expect((result?.withinThree.share as number) - (result?.firstTry.share as number)).toBeLessThan(0.02);
  });

  // Abramowitz' e^(−2G) is ALOHA's (Abramson 1970): nobody hears the others, none is captured.
  it.each([0.1, 0.4])('among hidden stations at load %d a packet passes e^(−2G)', (load) => {
    const small = new SmallLab().add('QH3PRT-10', 'gateway').hear('me', 'QH3PRT-10');
    const frameMs = usualAirTimeMs(40, 0, small.lab);
    const perHour = (load * 3_600_000) / frameMs / 60;
    for (let i = 0; i < 60; i++) small.add(`QH7X${i}`, 'station', perHour).hear(`QH7X${i}`, 'QH3PRT-10');
    const [result] = compare(small, [''], 3000);
    expectShare(result?.firstTry.share as number, Math.exp(-2 * load), 1000);
    // Independent tries: 1 − (1 − p)³.
    expectShare(result?.withinThree.share as number, 1 - (1 - Math.exp(-2 * load)) ** 3, 1000);
  });

  it('a packet whose octets nobody knows takes the time of random ones', () => {
    const { lab } = new SmallLab();
    // arithmetic: 14 + 2 + 40 + 2 = 58 octets = 464 bits · 63/62 + 16 at 1200 Bd, 300 + 30 ms of keying.
    expect(usualAirTimeMs(40, 0, lab)).toBeCloseTo(300 + (((464 * 63) / 62 + 16) * 1000) / 1200 + 30, 6);
    expect(usualAirTimeMs(40, 2, lab) - usualAirTimeMs(40, 0, lab)).toBeCloseTo(
      (((112 * 63) / 62) * 1000) / 1200,
      6,
    );
  });
});

/** A valley: a fill-in hears me, a wide one hears the fill-in, the gateway hears the wide one. */
const valley = (): SmallLab =>
  new SmallLab()
    .add('QH2FIL-1', 'fill-in')
    .add('QH1ANR', 'digipeater')
    .add('QH3PRT-10', 'gateway')
    .hear('me', 'QH2FIL-1')
    .hear('QH2FIL-1', 'QH1ANR')
    .hear('QH1ANR', 'QH3PRT-10');

describe('paths side by side', () => {
  const all = ['', 'WIDE1-1', 'WIDE2-1', 'WIDE1-1,WIDE2-1', 'WIDE2-2', 'WIDE3-3'];

  it('from a valley only the path passes that a fill-in serves and that has a hop left', () => {
    const results = compare(valley(), all, 30);
    expect(results.map(({ path, firstTry }) => [path, firstTry.share])).toEqual([
      ['', 0],
      ['WIDE1-1', 0],
      ['WIDE2-1', 0],
      ['WIDE1-1,WIDE2-1', 1],
      ['WIDE2-2', 0],
      ['WIDE3-3', 0],
    ]);
    const [best] = results.filter(({ firstTry }) => firstTry.share > 0);
    expect(best?.ways).toEqual([{ way: 'QH2FIL-1 → QH1ANR → QH3PRT-10', share: 1 }]);
    expect(best?.copies).toBe(3);
    expect(best?.repeated.share).toBe(1);
    // Both copies carry a path, the first of two entries, the others of two and three.
    const { lab } = valley();
    const ms = usualAirTimeMs(40, 2, lab) * 2 + usualAirTimeMs(40, 3, lab);
    expect(best?.channelMs).toBeCloseTo(ms, 6);
    expect(best?.delayMs?.median).toBeGreaterThanOrEqual(ms);
    expect(results[0]?.delayMs).toBeUndefined();
  });

  it('is the same from the same seed, and another from another', () => {
    const small = valley()
      .hear('me', 'QH2FIL-1', 1, 6)
      .add('QH7CTA-9', 'station', 200)
      .hear('QH7CTA-9', 'QH1ANR');
    const run = (seed: number): PathResult[] => compare(small, ['WIDE1-1,WIDE2-1'], 90, seed);
    expect(run(4)).toEqual(run(4));
    expect(run(4)).not.toEqual(run(5));
  });

  it('is the same whether somebody watches it or not', () => {
    const small = valley()
      .hear('me', 'QH2FIL-1', 1, 6)
      .add('QH7CTA-9', 'station', 400, 'WIDE2-1')
      .add('QH7CTB-9', 'station', 400)
      .hear('QH7CTA-9', 'QH1ANR')
      .hear('QH7CTB-9', 'QH1ANR', 3, 6)
      .hear('me', 'QH7CTA-9');
    const plan = { path: hopsOfPath('WIDE1-1,WIDE2-1'), packets: 60, seed: 3 };
    let read = 0;
    const watched = finish(
      runLab(small.lab, small.sender, small.table, plan, (_, __, { kind, by }) => {
        if (kind === 'read' && by >= 4) read++;
      }),
    );
    // A watcher is told of those too for whom it has no consequence.
    expect(read).toBeGreaterThan(0);
    expect(finish(runLab(small.lab, small.sender, small.table, plan))).toEqual(watched);
  });

  it('without a gateway asks for a digipeater that repeats', () => {
    const small = new SmallLab().add('QH1ANR', 'digipeater').hear('me', 'QH1ANR');
    const [none, one] = compare(small, ['', 'WIDE2-1'], 30);
    expect([none?.goal, none?.withinThree.share]).toEqual(['digipeater', 0]);
    expect([one?.goal, one?.withinThree.share]).toEqual(['digipeater', 1]);
    expect(one?.ways).toEqual([]);
  });

  it('tells the places of a track apart, with the error of each world', () => {
    const small = new SmallLab().add('QH3PRT-10', 'gateway');
    const sender = { ...small.sender, places: [small.sender.places[0], small.sender.places[0]] as never };
    const table = new LevelTable(1, 2);
    for (const [place, margin] of [20, -20].entries()) {
      table.set(1, 0, place, margin, 0);
      table.set(0, 1, place, margin, 0);
    }
    const [result] = finish(comparePaths(small.lab, sender, table, { paths: [''], packets: 60, seed: 1 }));
    expect(result?.byPlace.map(({ share, trials }) => [share, trials])).toEqual([
      [1, 10],
      [0, 10],
    ]);
  });

  it('tells how much of the time others held the channel where the sender is', () => {
    const near = new SmallLab().add('QH7CTA-9', 'station', 1800).hear('me', 'QH7CTA-9', 1);
    near.add('QH7CTB-9', 'station', 1800);
    const [result] = compare(near, [''], 300);
    // arithmetic: 1800 packets an hour of the one that is heard; nothing of the one that is not.
    const expected = (1800 * usualAirTimeMs(40, 0, near.lab)) / 3_600_000;
    expect(Math.abs((result?.heldByOthers as number) / expected - 1)).toBeLessThan(0.1);
  });

  it('leaves nothing behind: others’ packets end with the run', () => {
    const small = valley().add('QH7CTA-9', 'station', 3000, 'WIDE2-1').hear('QH7CTA-9', 'QH1ANR');
    const fates = finish(runLab(small.lab, small.sender, small.table, { path: [], packets: 3, seed: 1 }));
    expect(fates.filter(({ source }) => source === 0)).toHaveLength(3);
    expect(fates.every(({ copies }) => copies > 0)).toBe(true);
    expect(fates.length).toBeGreaterThan(40);
  });
});

describe('advice', () => {
  const situation = { country: 'between', isMoving: true, isHigh: false, inReach: 1, load: 0.1 } as const;

  it('takes the cheapest of those that do as well', () => {
    const small = valley().hear('me', 'QH1ANR');
    const results = compare(small, ['', 'WIDE1-1', 'WIDE2-1', 'WIDE1-1,WIDE2-1', 'WIDE2-2'], 60);
    const advice = advise(results, situation);
    expect(advice.path).toBe('WIDE2-1');
    expect(advice.verdict).toBe('WIDE2-1: 100 % reach a gateway within three tries.');
    expect(advice.why.join(' ')).toContain('movers use a fill-in and one wide hop');
    const high = advise(results, { ...situation, isHigh: true, inReach: 3 });
    expect(high.why.join(' ')).toContain('one wide hop, two at most');
    expect(advice.schools.map(({ path }) => path)).toEqual([
      'WIDE1-1,WIDE2-1',
      'WIDE2-1',
      'WIDE2-2',
      'WIDE1-1',
      'WIDE3-3',
      '',
    ]);
    expect(advice.schools[1]?.says).toMatch(/Here: 100 % within three tries, 2\.0 transmissions a packet\.$/);
    expect(advice.schools[4]?.says).not.toContain('Here:');
  });

  it('pays for another hop only where it brings something', () => {
    const results = compare(valley(), ['', 'WIDE1-1', 'WIDE1-1,WIDE2-1'], 60);
    expect(advise(results, situation).path).toBe('WIDE1-1,WIDE2-1');
  });

  it('takes the cheaper of two that the bounds do not tell apart, and the better of two that they do', () => {
    const of = (path: string, hits: number, trials: number, channelMs: number): PathResult => ({
      path,
      goal: 'gateway',
      firstTry: shareOf(hits, trials),
      withinThree: shareOf(hits, trials),
      repeated: shareOf(hits, trials),
      copies: 1,
      channelMs,
      ways: [],
      heldByOthers: 0,
      byPlace: [],
    });
    const few = advise([of('WIDE2-1', 94, 100, 1000), of('WIDE2-2', 99, 100, 2000)], situation);
    expect(few.path).toBe('WIDE2-1');
    expect(few.why[1]).toMatch(
      /^WIDE2-2 reaches 99 %, which 100 trials cannot tell apart .* at 2.0 times .*; at the first try 99 %/,
    );
    const many = advise([of('WIDE2-1', 940, 1000, 1000), of('WIDE2-2', 990, 1000, 2000)], situation);
    expect(many.path).toBe('WIDE2-2');
    const hardly = advise([of('WIDE2-1', 9600, 10_000, 1000), of('WIDE2-2', 9890, 10_000, 2000)], situation);
    expect(hardly.path).toBe('WIDE2-1');
  });

  it('recommends none where no path helps, and says what would', () => {
    const alone = new SmallLab().add('QH1ANR', 'digipeater').add('QH3PRT-10', 'gateway');
    const advice = advise(compare(alone, ['', 'WIDE2-1'], 30), { ...situation, inReach: 0 });
    expect(advice.path).toBeUndefined();
    expect(advice.why[0]).toContain('the first hop is what fails');
  });

  it('knows dense country from empty', () => {
    const small = valley();
    const of = (load: number): string => situationOf(small.lab, small.sender, small.table, load).country;
    expect(of(0.1)).toBe('empty');
    expect(of(0.26)).toBe('dense');
    small.hear('me', 'QH1ANR');
    expect(of(0.1)).toBe('between');
    const isHigh = (): boolean => situationOf(small.lab, small.sender, small.table, 0.1).isHigh;
    expect(isHigh()).toBe(false);
    small.add('QH1D0', 'digipeater').hear('me', 'QH1D0');
    expect([of(0.1), isHigh()]).toEqual(['between', true]);
    small.add('QH1D1', 'digipeater').hear('me', 'QH1D1');
    expect(of(0.1)).toBe('dense');
  });
});

describe('one packet', () => {
  const follow = (small: SmallLab, path: string) =>
    followPacket(small.lab, small.sender, small.table, path, 1).map(
      ({ call, kind, hopsLeft, monitor }) => `${call} ${kind} ${hopsLeft} ${monitor}`,
    );

  it('goes hop by hop, the alias counting down', () => {
    expect(follow(valley(), 'WIDE1-1,WIDE2-1')).toEqual([
      'QH4MPK-7 sent 2 WIDE1-1,WIDE2-1',
      'QH2FIL-1 repeated 1 QH2FIL-1*,WIDE2-1',
      'QH1ANR repeated 0 QH2FIL-1*,QH1ANR*,WIDE2*',
      'QH2FIL-1 let be 0 QH2FIL-1*,QH1ANR*,WIDE2*',
      'QH3PRT-10 gated 0 QH2FIL-1*,QH1ANR*,WIDE2*',
    ]);
  });

  it('says in words what each does and why', () => {
    const small = valley().hear('me', 'QH1ANR');
    const words = followPacket(small.lab, small.sender, small.table, 'WIDE2-2', 1).map(
      ({ call, words: said }) => `${call} ${said}`,
    );
    expect(words).toEqual([
      'QH4MPK-7 sends it and asks for 2 hops',
      'QH2FIL-1 hears it; a fill-in serves WIDE1-1 as the first hop, and nothing else',
      'QH1ANR repeats it, signs, and leaves WIDE2-1: one hop left',
      'QH2FIL-1 hears it; a fill-in serves WIDE1-1 as the first hop, and nothing else',
      'QH3PRT-10 passes it on to the internet',
    ]);
  });

  it('tells signing, substituting, using up and asking by name apart', () => {
    const said = (small: SmallLab, path: string, call: string) =>
      followPacket(small.lab, small.sender, small.table, path, 1).find(
        (stage) => stage.call === call && stage.kind === 'repeated',
      )?.words;
    const two = new SmallLab().add('QH1ANR', 'digipeater').hear('me', 'QH1ANR');
    expect(said(valley(), 'WIDE1-1,WIDE2-1', 'QH2FIL-1')).toBe(
      'repeats it, and puts its call in the place of WIDE1-1: one hop left',
    );
    expect(said(two, 'WIDE1-1,WIDE2-1', 'QH1ANR')).toBe('repeats it, signs, and uses up WIDE1: one hop left');
    expect(said(two, 'WIDE2-1', 'QH1ANR')).toBe('repeats it, signs, and uses up WIDE2: no hop is left');
    expect(said(two, 'QH1ANR', 'QH1ANR')).toBe('repeats it, asked by name: no hop is left');
  });

  it('without a path is asked of nobody', () => {
    expect(followPacket(valley().lab, valley().sender, valley().table, '', 1)[0]?.words).toBe(
      'sends it and asks nobody to repeat it',
    );
  });

  it('that two repeat at once may be lost where both are heard', () => {
    const small = new SmallLab().add('QH3PRT-10', 'gateway');
    for (const call of ['QH1ANR', 'QH1TOP'])
      small.add(call, 'digipeater').hear('me', call).hear(call, 'QH3PRT-10');
    const kinds = new Set<string>();
    for (let seed = 1; seed < 40; seed++)
      for (const { kind, call, words } of followPacket(small.lab, small.sender, small.table, 'WIDE2-1', seed))
        if (call === 'QH3PRT-10') kinds.add(`${kind}: ${words}`);
    expect([...kinds].sort()).toEqual([
      'gated: passes it on to the internet',
      'let be: has had it: the internet keeps the first copy only',
      'lost: loses this copy: another one falls upon it',
    ]);
  });
});

describe('as a fill-in', () => {
  const judge = (small: SmallLab) =>
    finish(judgeFillIn(small.lab, small.sender, small.table, { packets: 300, seed: 1 }));

  it('one helps who stands between the others and the hill', () => {
    const small = new SmallLab()
      .add('QH7CTA-9', 'station', 120, 'WIDE1-1,WIDE2-1')
      .add('QH1ANR', 'digipeater')
      .add('QH3PRT-10', 'gateway')
      .hear('QH7CTA-9', 'me')
      .hear('me', 'QH1ANR')
      .hear('QH1ANR', 'QH3PRT-10');
    const verdict = judge(small);
    expect(verdict.verdict).toBe('helps');
    expect(verdict.without.share).toBe(0);
    expect(verdict.with.share).toBeGreaterThan(0.9);
    expect(verdict.gainers.map(({ call }) => call)).toEqual(['QH7CTA-9']);
    expect(verdict.words).toMatch(/^It helps: 0 % of the others’ packets reach a gateway without you/);
  });

  it('one harms who only repeats what the hill hears anyhow', () => {
    const small = new SmallLab()
      .add('QH7CTA-9', 'station', 240, 'WIDE1-1,WIDE2-1')
      .add('QH1ANR', 'digipeater')
      .add('QH3PRT-10', 'gateway')
      .hear('QH7CTA-9', 'me')
      .hear('QH7CTA-9', 'QH1ANR')
      .hear('me', 'QH1ANR')
      .hear('QH1ANR', 'QH3PRT-10');
    const verdict = judge(small);
    expect(verdict.verdict).toBe('harms');
    expect(verdict.channelFactor).toBeGreaterThan(1.05);
    expect(verdict.gainers).toEqual([]);
  });

  it('one changes nothing whom nobody hears', () => {
    expect(
      judge(valley().add('QH7CTA-9', 'station', 60, 'WIDE1-1').hear('QH7CTA-9', 'QH1ANR')),
    ).toMatchObject({
      verdict: 'changes little',
      channelFactor: 1,
    });
  });
});
