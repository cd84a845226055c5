import { Timetable } from '../network/timetable.js';
import { drive } from './drive.js';
import { start, stop, type Moment, type TimerEffect } from './machine.js';

type Event = { readonly kind: 'go' } | { readonly kind: 'calm' } | { readonly kind: 'again' };
type Effect = TimerEffect | { readonly kind: 'shout' };

function machine() {
  const clock = new Timetable(1000);
  const shouts: number[] = [];
  const moments: Moment[] = [];
  let throws = 0;
  const driven = drive<number, Event, Effect, Moment>(
    (state, event, moment) => {
      moments.push(moment);
      switch (event.kind) {
        case 'go':
          return [state + 1, [start('t', 5)]];
        case 'calm':
          return [state, [stop('t')]];
        case 'again':
          return [state + 10, [{ kind: 'shout' }]];
        case 'timer':
          return [state + (event.timer === 't' ? 100 : 0), []];
      }
    },
    0,
    {
      clock,
      dice: () => ++throws / 10,
      context: (moment) => moment,
      perform: () => {
        shouts.push(driven.state());
        if (shouts.length === 1) driven.dispatch({ kind: 'again' });
      },
    },
  );
  return { driven, clock, shouts, moments };
}

describe('a driven machine', () => {
  it('makes timers real and gives their events back, with the moment and one throw of the dice for each', () => {
    const { driven, clock, moments } = machine();
    driven.dispatch({ kind: 'go' });
    clock.advance(4);
    expect(driven.state()).toBe(1);
    clock.advance(1);
    expect(driven.state()).toBe(101);
    expect(moments).toEqual([
      { atMs: 1000, dice: 0.1 },
      { atMs: 1005, dice: 0.2 },
    ]);
  });

  it('starts a running timer anew, and stops it', () => {
    const { driven, clock } = machine();
    driven.dispatch({ kind: 'go' });
    clock.advance(3);
    driven.dispatch({ kind: 'go' });
    clock.advance(3);
    expect(driven.state()).toBe(2);
    driven.dispatch({ kind: 'calm' });
    clock.advance(100);
    expect([driven.state(), clock.leftovers()]).toEqual([2, 0]);
  });

  it('lets an event that arrives during another wait its turn', () => {
    const { driven, shouts } = machine();
    driven.dispatch({ kind: 'again' });
    expect([driven.state(), shouts]).toEqual([20, [10, 20]]);
  });

  it('leaves no timer behind and takes no event after its end', () => {
    const { driven, clock } = machine();
    driven.dispatch({ kind: 'go' });
    driven.end();
    driven.dispatch({ kind: 'go' });
    expect([driven.state(), clock.leftovers()]).toEqual([1, 0]);
  });
});
