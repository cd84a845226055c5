import { KEYING_MS, link, type Running } from './testing/way-out-link.js';
import {
  CLASSES,
  LEAST_SHARE,
  DIGIPEATED_LATEST_MS,
  holder,
  IDENTIFY_WITHIN_MS,
  LONGEST_OVER_MS,
  MOST_WAITING,
  PAUSE_MS,
  USUAL_OVER_MS,
} from './way-out.js';

/** Something that holds the channel until `clear`, so that what is offered meanwhile waits. */
const CLEAR_MS = 500 + KEYING_MS + PAUSE_MS;
function busyLink(): Running {
  const one = link();
  one.offer({ id: 'first' });
  one.told.length = 0;
  one.overs.length = 0;
  return one;
}

describe('an idle way out', () => {
  it('hands a frame over at once, and the next when that has left the air and others had a pause', () => {
    const { offer, told, clock } = link();
    offer({ id: 'a' });
    clock.advance(100);
    offer({ id: 'b' });
    clock.advance(5000);
    expect(told).toEqual(['0 hand a', `${CLEAR_MS} hand b`]);
  });

  it('tells when all will have left the air', () => {
    const { offer, overs } = link();
    offer({ id: 'a', airTimeMs: 700 });
    expect(overs).toMatchObject([{ leftAfterMs: 700 + KEYING_MS }]);
  });
});

describe('the order', () => {
  it('is that of the classes', () => {
    const { offer, told, clock } = busyLink();
    for (const sendClass of [...CLASSES].reverse()) offer({ id: sendClass, sendClass, airTimeMs: 100 });
    clock.advance(CLEAR_MS + 100);
    // The acknowledgement goes out behind what is on the air.
    const [first, ...others] = CLASSES;
    expect(told).toEqual([`0 hand ${first}`, `${CLEAR_MS + 100} hand ${others.join(' ')}`]);
    expect(CLASSES).toEqual([
      'acknowledgement',
      'test',
      'session',
      'message',
      'beacon',
      'shared',
      'gated',
      'digipeated',
    ]);
  });

  it('within a class goes by turns, whatever one of them has waiting', () => {
    const { offer, told, clock } = busyLink();
    for (const id of ['a1', 'a2', 'a3']) offer({ id, owner: 'a', airTimeMs: 100 });
    for (const id of ['b1', 'b2']) offer({ id, owner: 'b', airTimeMs: 100 });
    clock.advance(CLEAR_MS);
    expect(told).toEqual([`${CLEAR_MS} hand a1 b1 a2 b2 a3`]);
  });

  it('remembers turns from one over to the next, also of who had nothing waiting meanwhile', () => {
    const { offer, told, clock } = link();
    const long = { airTimeMs: LONGEST_OVER_MS - KEYING_MS };
    offer({ id: 'a1', owner: 'a', ...long });
    offer({ id: 'b1', owner: 'b', ...long });
    clock.advance(LONGEST_OVER_MS + PAUSE_MS);
    offer({ id: 'b2', owner: 'b', ...long });
    offer({ id: 'a2', owner: 'a', ...long });
    clock.advance(100_000);
    expect(told.map((line) => line.split(' ')[2])).toEqual(['a1', 'b1', 'a2', 'b2']);
  });

  it('keeps the frames of one owner in theirs: the most urgent speaks for those before it', () => {
    const { offer, told, clock } = busyLink();
    offer({ id: 'm', owner: 'x', sendClass: 'message', airTimeMs: 100 });
    offer({ id: 's1', owner: 's', sendClass: 'session', airTimeMs: 100 });
    offer({ id: 's2', owner: 's', sendClass: 'acknowledgement', airTimeMs: 100 });
    offer({ id: 't', owner: 't', sendClass: 'test', airTimeMs: 100 });
    clock.advance(CLEAR_MS);
    expect(told).toEqual([`${CLEAR_MS} hand s1 s2 t m`]);
  });
});

describe('one over', () => {
  it('takes what waits up to its usual length, to the ms, and no more', () => {
    const fits = USUAL_OVER_MS - KEYING_MS - 1000;
    for (const [airTimeMs, ids] of [
      [fits, 'a b'],
      [fits + 1, 'a'],
    ] as const) {
      const { offer, told, clock } = busyLink();
      offer({ id: 'a', airTimeMs: 1000 });
      offer({ id: 'b', airTimeMs });
      clock.advance(CLEAR_MS);
      expect(told).toEqual([`${CLEAR_MS} hand ${ids}`]);
    }
  });

  it('takes a whole window of one owner, to the longest that an over may be', () => {
    const { offer, overs, clock } = busyLink();
    const airTimeMs = (LONGEST_OVER_MS - KEYING_MS) / 10;
    for (let i = 0; i < 11; i++) offer({ id: `w${i}`, owner: 'w', sendClass: 'session', airTimeMs });
    clock.advance(CLEAR_MS);
    expect(overs[0]?.ids).toHaveLength(10);
    expect(overs[0]?.leftAfterMs).toBeCloseTo(LONGEST_OVER_MS);
    clock.advance(LONGEST_OVER_MS + PAUSE_MS);
    expect(overs[1]?.ids).toEqual(['w10']);
  });

  it('is joined by what its owner still has to say, and by an acknowledgement, while it is on the air', () => {
    const { offer, told, clock, overs } = link();
    offer({ id: 'w1', owner: 'w', sendClass: 'session' });
    clock.advance(400);
    offer({ id: 'w2', owner: 'w', sendClass: 'session' });
    offer({ id: 'm' });
    offer({ id: 'k', sendClass: 'acknowledgement', airTimeMs: 200 });
    expect(told).toEqual(['0 hand w1', '400 hand w2', '400 hand k']);
    expect(overs.map(({ leftAfterMs }) => leftAfterMs)).toEqual([830, 930, 1130]);
    clock.advance(1129 + PAUSE_MS);
    expect(told).toHaveLength(3);
    clock.advance(1);
    expect(told[3]).toBe(`${1530 + PAUSE_MS} hand m`);
  });

  it('begins with whoever is first, however long his frame is, while all wait for each other', () => {
    const { offer, told, clock, state } = link();
    offer({ id: 'now', sendClass: 'test', airTimeMs: LONGEST_OVER_MS - KEYING_MS });
    const long = { airTimeMs: 6000 } as const;
    offer({ id: 'g', sendClass: 'gated', ...long });
    offer({ id: 'p', sendClass: 'shared', ...long });
    offer({ id: 'm', ...long });
    clock.advance(100_000);
    expect(told.map((line) => line.split(' ')[2])).toEqual(['now', 'm', 'p', 'g']);
    expect(state().waiting).toEqual([]);
  });

  it('of a program ends at its usual length where another program waits; of two sessions each sends its window', () => {
    for (const [sendClass, overs] of [
      ['shared', ['p1 q1', 'p2 q2', 'p3 q3']],
      ['session', ['p1 q1 p2 p3', 'q2 q3']],
    ] as const) {
      const { offer, told, clock } = busyLink();
      for (const id of ['p1', 'p2', 'p3']) offer({ id, owner: 'p', sendClass, airTimeMs: 2300 });
      for (const id of ['q1', 'q2', 'q3']) offer({ id, owner: 'q', sendClass, airTimeMs: 2300 });
      clock.advance(100_000);
      expect(told.map((line) => line.replace(/^\d+ hand /, ''))).toEqual(overs);
    }
  });

  it('grows no further once another class is owed its share', () => {
    const { offer, told, clock } = link();
    offer({ id: 'x', owner: 'x', sendClass: 'session', airTimeMs: 900 });
    for (let i = 1; i <= 12; i++) offer({ id: `s${i}`, owner: 's', sendClass: 'session', airTimeMs: 900 });
    offer({ id: 'g', sendClass: 'gated', airTimeMs: 5 * 900 * LEAST_SHARE.gated });
    clock.advance(30_000);
    expect(told[1]).toBe(`${900 + KEYING_MS + PAUSE_MS} hand s1 s2 s3 s4 s5`);
    expect(told[2]).toMatch(/hand g s6/);
  });

  it('is not joined in the pause behind it', () => {
    const { offer, told, clock } = link();
    offer({ id: 'w1', owner: 'w' });
    clock.advance(830);
    offer({ id: 'w2', owner: 'w' });
    clock.advance(1000);
    expect(told).toEqual(['0 hand w1', `${CLEAR_MS} hand w2`]);
  });

  it('grows beyond its usual length only as long as nothing more urgent waits', () => {
    const { offer, told, clock } = link();
    offer({ id: 'p1', owner: 'p', sendClass: 'shared', airTimeMs: 4000 });
    clock.advance(100);
    offer({ id: 's', sendClass: 'session' });
    offer({ id: 'p2', owner: 'p', sendClass: 'shared', airTimeMs: 4000 });
    clock.advance(10_000);
    expect(told).toEqual(['0 hand p1', `${4000 + KEYING_MS + PAUSE_MS} hand s p2`]);
  });
});

describe('what does not go out', () => {
  it('is a frame that alone would be longer than an over may be', () => {
    const { offer, told } = link();
    offer({ id: 'a', airTimeMs: LONGEST_OVER_MS - KEYING_MS + 1 });
    offer({ id: 'b', airTimeMs: LONGEST_OVER_MS - KEYING_MS });
    expect(told).toEqual(['0 drop a too long', '0 hand b']);
  });

  it('is a repeated frame that is five seconds late', () => {
    const { offer, told, clock } = link();
    offer({ id: 'first', airTimeMs: 10_000 });
    clock.advance(1000);
    offer({ id: 'd', sendClass: 'digipeated' });
    clock.advance(DIGIPEATED_LATEST_MS - 1);
    expect(told).toHaveLength(1);
    clock.advance(1);
    expect(told[1]).toBe(`${1000 + DIGIPEATED_LATEST_MS} drop d expired`);
    expect(DIGIPEATED_LATEST_MS).toBe(5000);
  });

  it('is what has outlived its own time, the first of several by its timer', () => {
    const { offer, told, clock } = busyLink();
    offer({ id: 'late', expiresAtMs: 700 });
    offer({ id: 'later', expiresAtMs: CLEAR_MS });
    offer({ id: 'in time', expiresAtMs: CLEAR_MS + 1 });
    clock.advance(CLEAR_MS);
    expect(told).toEqual([
      '700 drop late expired',
      `${CLEAR_MS} drop later expired`,
      `${CLEAR_MS} hand in time`,
    ]);
    clock.advance(10_000);
    expect(clock.leftovers()).toBe(0);
  });

  it('is a beacon that a newer one replaces: one waits at most', () => {
    const { offer, told, clock } = busyLink();
    offer({ id: 'old', sendClass: 'beacon' });
    offer({ id: 'm' });
    offer({ id: 'new', sendClass: 'beacon', owner: 'another' });
    clock.advance(CLEAR_MS);
    expect(told).toEqual(['0 drop old replaced', `${CLEAR_MS} hand m new`]);
  });

  it('is what its owner takes back, one frame or all', () => {
    const { offer, tell, told, clock } = busyLink();
    for (const id of ['a', 'b', 'c']) offer({ id, owner: 'one' });
    offer({ id: 'd' });
    tell({ kind: 'cancel', id: 'b' });
    tell({ kind: 'withdraw', owner: 'one' });
    clock.advance(CLEAR_MS);
    expect(told).toEqual([
      '0 drop b withdrawn',
      '0 drop a withdrawn',
      '0 drop c withdrawn',
      `${CLEAR_MS} hand d`,
    ]);
  });

  it('is anything, once it is closed', () => {
    const { offer, tell, told, clock } = busyLink();
    offer({ id: 'a' });
    tell({ kind: 'close' });
    clock.advance(CLEAR_MS);
    expect(told).toEqual(['0 drop a closed']);
  });

  it('is more than one owner may have waiting', () => {
    const { offer, told } = busyLink();
    for (let i = 0; i <= MOST_WAITING; i++) offer({ id: `${i}`, owner: 'flood' });
    offer({ id: 'calm' });
    expect(told).toEqual([`0 drop ${MOST_WAITING} too many waiting`]);
  });
});

describe('a lease', () => {
  it('keeps others waiting until it ends, acknowledgements aside', () => {
    const { offer, tell, told, clock, state } = link();
    tell({ kind: 'lease', owner: 'levels', ms: 20_000 });
    offer({ id: 'm' });
    offer({ id: 'ack', sendClass: 'acknowledgement' });
    clock.advance(CLEAR_MS);
    offer({ id: 't', owner: 'levels', sendClass: 'test' });
    expect(holder(state(), 19_999)).toBe('levels');
    expect(holder(state(), 20_000)).toBeUndefined();
    clock.advance(20_000 - CLEAR_MS);
    expect(told).toEqual(['0 hand ack', `${CLEAR_MS} hand t`, '20000 hand m']);
    expect(state().lease).toBeUndefined();
  });

  it('is refused while somebody has it, lengthened by who has it, and given back', () => {
    const { tell, clock, state, offer, told } = link();
    tell({ kind: 'lease', owner: 'a', ms: 1000 });
    tell({ kind: 'lease', owner: 'b', ms: 9000 });
    clock.advance(900);
    tell({ kind: 'lease', owner: 'a', ms: 1000 });
    clock.advance(500);
    tell({ kind: 'release', owner: 'b' });
    expect(holder(state(), clock.nowMs())).toBe('a');
    offer({ id: 'm' });
    tell({ kind: 'release', owner: 'a' });
    expect([holder(state(), clock.nowMs()), told, clock.leftovers()]).toEqual([
      undefined,
      ['1400 hand m'],
      1,
    ]);
  });
});

describe('identification', () => {
  it('is asked for ten minutes after the first frame without a call of ours, once', () => {
    const { offer, told, clock } = link();
    offer({ id: 'a', identifies: false });
    clock.advance(60_000);
    offer({ id: 'b', identifies: false });
    clock.advance(IDENTIFY_WITHIN_MS - 60_001);
    expect(told).toHaveLength(2);
    clock.advance(1);
    expect(told[2]).toBe(`${IDENTIFY_WITHIN_MS} identify`);
    clock.advance(3 * IDENTIFY_WITHIN_MS);
    expect(told).toHaveLength(3);
    expect(IDENTIFY_WITHIN_MS).toBe(600_000);
  });

  it('is not, where one with a call went out since', () => {
    const { offer, told, clock } = link();
    offer({ id: 'a', identifies: false });
    clock.advance(60_000);
    offer({ id: 'b' });
    clock.advance(3 * IDENTIFY_WITHIN_MS);
    expect(told).toEqual(['0 hand a', '60000 hand b']);
    offer({ id: 'c', identifies: false });
    clock.advance(IDENTIFY_WITHIN_MS);
    expect(told.at(-1)).toMatch(/identify/);
  });
});
