import { drive } from './drive.js';

type Event = 'go' | 'again' | 'timeout';
type Effect =
  { kind: 'start'; timer: string; ms: number } | { kind: 'stop'; timer: string } | { kind: 'shout' };

describe('a driven machine', () => {
  function machine() {
    const due: (() => void)[] = [];
    let cancelled = 0;
    const shouts: number[] = [];
    const driven = drive<number, Event, Effect>(
      (state, event) => {
        if (event === 'go') return [state + 1, [{ kind: 'start', timer: 't', ms: 5 }]];
        if (event === 'again') return [state + 10, [{ kind: 'shout' }]];
        return [state + 100, []];
      },
      0,
      { nowMs: () => 0, upMs: () => 0, after: (_, call) => (due.push(call), () => void cancelled++) },
      () => 'timeout',
      () => {
        shouts.push(driven.state());
        if (shouts.length === 1) driven.dispatch('again');
      },
      () => undefined,
    );
    return { driven, due, shouts, cancelled: () => cancelled };
  }

  it('makes timers real and gives their events back', () => {
    const { driven, due } = machine();
    driven.dispatch('go');
    due[0]?.();
    expect(driven.state()).toBe(101);
  });

  it('lets an event that arrives during another wait its turn', () => {
    const { driven, shouts } = machine();
    driven.dispatch('again');
    expect([driven.state(), shouts]).toEqual([20, [10, 20]]);
  });

  it('leaves no timer behind and takes no event after its end', () => {
    const { driven, cancelled } = machine();
    driven.dispatch('go');
    driven.end();
    driven.dispatch('go');
    expect([driven.state(), cancelled()]).toEqual([1, 1]);
  });
});
