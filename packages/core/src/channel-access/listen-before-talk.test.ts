import { drive } from '../machine/drive.js';
import { seededDice } from '../network/dice.js';
import { Timetable } from '../network/timetable.js';
import {
  KEY_LEEWAY_MS,
  LBT_START,
  LONGEST_OVER_MS,
  MOST_WAITING,
  step,
  type LbtContext,
  type LbtEffect,
  type LbtEvent,
  type LbtState,
} from './listen-before-talk.js';

const AIR_MS = 500;
const frame = (octet: number): Uint8Array => Uint8Array.of(octet);

/** A TNC whose overs are played to their end, unless the test says otherwise. */
function bench(throws: () => number = () => 0, plays = true) {
  const clock = new Timetable(0);
  const told: [atMs: number, what: string][] = [];
  const at = (what: string): void => void told.push([clock.upMs(), what]);
  let stopPlaying: (() => void) | undefined;
  const perform = (effect: LbtEffect): void => {
    if (effect.kind === 'key') at(effect.isDown ? 'down' : 'up');
    if (effect.kind === 'lost') at(`lost ${effect.raw[0]}: ${effect.reason}`);
    if (effect.kind === 'break off') {
      at('break off');
      stopPlaying?.();
    }
    if (effect.kind !== 'over') return;
    at(effect.frames.map(([octet]) => octet).join(' '));
    const lastsMs = effect.txDelayMs + effect.txTailMs + AIR_MS * effect.frames.length;
    tnc.dispatch({ kind: 'begun', lastsMs });
    if (plays) stopPlaying = clock.after(lastsMs, () => tnc.dispatch({ kind: 'played' }));
  };
  const tnc = drive<LbtState, LbtEvent, LbtEffect, LbtContext>(step, LBT_START, {
    clock,
    dice: throws,
    context: (moment) => ({ ...moment, airTimeMs: () => AIR_MS }),
    perform,
  });
  const send = (...octets: number[]): void =>
    octets.forEach((octet) => tnc.dispatch({ kind: 'frame', raw: frame(octet) }));
  const hold = (isHeld: boolean): void => tnc.dispatch({ kind: 'channel', isHeld });
  const set = (
    command: 'txdelay' | 'persistence' | 'slottime' | 'txtail' | 'fullduplex',
    value: number,
  ): void => tnc.dispatch({ kind: 'parameter', parameter: { port: 0, command, value } });
  return { clock, tnc, told, send, hold, set };
}

describe('listen before talk', () => {
  it('keys in a clear channel: TXDELAY, frame, tail, and lets go', () => {
    const { clock, told, send, tnc } = bench();
    send(1);
    clock.advance(10_000);
    expect(told).toEqual([
      [0, 'down'],
      [0, '1'],
      [830, 'up'],
    ]);
    expect([tnc.state().phase, clock.leftovers()]).toEqual(['idle', 0]);
  });

  it('waits until the channel is free, and what came meanwhile goes out in one over', () => {
    const { clock, told, send, hold } = bench();
    hold(true);
    send(1, 2);
    clock.advance(700);
    send(3);
    hold(true);
    expect(told).toEqual([]);
    hold(false);
    clock.advance(5000);
    expect(told).toEqual([
      [700, 'down'],
      [700, '1 2 3'],
      [700 + 1830, 'up'],
    ]);
  });

  it('throws the dice for each slot: below the persistence it sends', () => {
    const throws = [0.25, 0.9, 0.249];
    const { clock, told, send } = bench(() => throws.shift() ?? 1);
    send(1);
    clock.advance(199);
    expect(told).toEqual([]);
    clock.advance(1);
    expect(told[0]).toEqual([200, 'down']);
  });

  it('is held up in the middle of a slot, and throws anew when the channel is free', () => {
    const throws = [0.9, 0.9, 0.9, 0];
    const { clock, told, send, hold } = bench(() => throws.shift() ?? 0);
    send(1);
    hold(true);
    clock.advance(1000);
    expect(told).toEqual([]);
    hold(false);
    expect(told).toEqual([
      [1000, 'down'],
      [1000, '1'],
    ]);
  });

  it('what is offered during an over goes out in the next, a slot later', () => {
    const { clock, told, send } = bench();
    send(1);
    clock.advance(400);
    send(2, 3);
    clock.advance(10_000);
    expect(told.filter(([, what]) => what !== 'up')).toEqual([
      [0, 'down'],
      [0, '1'],
      [930, 'down'],
      [930, '2 3'],
    ]);
  });

  it('is set in the units of KISS, and by full duplex asks nobody', () => {
    const { clock, told, send, set, hold, tnc } = bench(() => 0.999);
    set('txdelay', 25);
    set('persistence', 127);
    set('slottime', 5);
    set('txtail', 2);
    expect(tnc.state().access).toEqual({
      txDelayMs: 250,
      persistence: 0.5,
      slotTimeMs: 50,
      txTailMs: 20,
      isFullDuplex: false,
    });
    set('fullduplex', 1);
    hold(true);
    send(1);
    clock.advance(1000);
    expect(told).toEqual([
      [0, 'down'],
      [0, '1'],
      [770, 'up'],
    ]);
  });

  it('an over is bounded; what does not fit goes in the next, and one frame always goes', () => {
    const { clock, told, send, hold } = bench();
    hold(true);
    send(...Array.from({ length: MOST_WAITING }, (_, i) => i));
    send(99);
    hold(false);
    clock.advance(100_000);
    const most = Math.floor((LONGEST_OVER_MS - 330) / AIR_MS);
    expect(
      told
        .filter(([, what]) => / /.test(what) && !what.startsWith('lost'))
        .map(([, what]) => what.split(' ').length),
    ).toEqual([most, MOST_WAITING - most]);
    expect(told[0]).toEqual([0, 'lost 99: too many wait']);
    const long: LbtContext = { atMs: 0, dice: 0, airTimeMs: () => 2 * LONGEST_OVER_MS };
    const [, effects] = step(
      { ...LBT_START, phase: 'waiting', isHeld: true, waiting: [frame(1), frame(2)] },
      { kind: 'channel', isHeld: false },
      long,
    );
    expect(effects).toContainEqual(expect.objectContaining({ kind: 'over', frames: [frame(1)] }));
  });

  it('lets go of the key two seconds after an over that nobody ends', () => {
    const { clock, told, send, tnc } = bench(() => 0, false);
    send(1, 2);
    clock.advance(830 + KEY_LEEWAY_MS - 1);
    expect(tnc.state().phase).toBe('keyed');
    clock.advance(1);
    expect(told.slice(-2)).toEqual([
      [2830, 'break off'],
      [2830, 'up'],
    ]);
    // And goes on with what waits.
    clock.advance(100);
    expect(told.slice(-2)).toEqual([
      [2930, 'down'],
      [2930, '2'],
    ]);
  });

  it('is silent at once when it is told so, keyed or waiting', () => {
    const { clock, told, send, hold, tnc } = bench();
    send(1);
    clock.advance(100);
    send(2);
    tnc.dispatch({ kind: 'silence' });
    expect(told.slice(-3)).toEqual([
      [100, 'break off'],
      [100, 'up'],
      [100, 'lost 2: silenced'],
    ]);
    hold(true);
    send(3);
    tnc.dispatch({ kind: 'silence' });
    hold(false);
    clock.advance(10_000);
    expect(told.at(-1)).toEqual([100, 'lost 3: silenced']);
    expect([tnc.state().phase, clock.leftovers()]).toEqual(['idle', 0]);
  });

  it('what makes no sense now changes nothing', () => {
    const { told, tnc, clock } = bench();
    for (const event of [
      { kind: 'played' },
      { kind: 'begun', lastsMs: 5 },
      { kind: 'timer', timer: 'slot' },
      { kind: 'timer', timer: 'limit' },
      { kind: 'channel', isHeld: false },
    ] as LbtEvent[])
      tnc.dispatch(event);
    clock.advance(10_000);
    expect([told, tnc.state()]).toEqual([[], LBT_START]);
  });

  it('in any order of events: never keyed for longer than its over and two seconds, and every frame once on the air or told as lost', () => {
    for (let seed = 0; seed < 300; seed++) {
      const dice = seededDice(seed);
      const { clock, tnc, told, send, hold } = bench(dice, dice() < 0.7);
      let given = 0;
      for (let i = 0; i < 60; i++) {
        const roll = dice();
        if (roll < 0.4) send(given++ % 256);
        else if (roll < 0.7) hold(dice() < 0.5);
        else if (roll < 0.72) tnc.dispatch({ kind: 'silence' });
        clock.advance(dice() * 2000);
      }
      hold(false);
      clock.advance(1_000_000);
      expect([tnc.state().phase, clock.leftovers()]).toEqual(['idle', 0]);
      let downAt: number | undefined;
      let sent = 0;
      let lastsMs = 0;
      for (const [atMs, what] of told) {
        if (what === 'down') {
          expect(downAt).toBeUndefined();
          downAt = atMs;
        } else if (what === 'up') {
          expect(downAt).toBeDefined();
          expect(atMs - (downAt ?? 0)).toBeLessThanOrEqual(lastsMs + KEY_LEEWAY_MS);
          downAt = undefined;
        } else if (/^\d/.test(what)) {
          const frames = what.split(' ').length;
          sent += frames;
          lastsMs = 330 + frames * AIR_MS;
        } else if (what.startsWith('lost')) sent++;
      }
      expect(downAt).toBeUndefined();
      expect(sent).toBe(given);
    }
  });
});
