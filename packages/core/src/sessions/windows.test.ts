import { disconnectedSession, type SessionState } from './session.js';
import { step } from './step.js';
import { frames, OPTIONS, send, Table } from './testing/table.js';

// from: AX.25 v2.2, 4.3.3.3 and the diagrams' "Select T1 value"; Karn and Partridge 1987: what was sent twice measures nothing
describe('the round trip', () => {
  const R = OPTIONS.firstT1Ms / 2;
  const rr = (nr: number) => ({ kind: 'RR', pf: false, nr }) as const;

  it('is smoothed by an eighth of each clean measurement', () => {
    const end = new Table().connected();
    end.do(send('a'));
    end.atMs = 8000;
    end.hears(rr(1), false);
    expect(end.state.roundTripMs).toBe((7 * R + 8000) / 8);
  });

  it('is not measured by frames that were sent again, whichever way they were asked for', () => {
    const back = new Table().connected();
    back.do(send('a'));
    back.do(send('b'));
    back.atMs = 1000;
    back.hears({ kind: 'REJ', pf: false, nr: 0 }, false);
    back.atMs = 9000;
    back.hears(rr(2), false);
    expect(back.state.roundTripMs).toBe(R);

    const single = new Table({ ...OPTIONS, selective: true }).connected();
    single.do(send('a'));
    single.do(send('b'));
    single.atMs = 1000;
    single.hears({ kind: 'SREJ', pf: false, nr: 0 }, false);
    single.atMs = 9000;
    single.hears(rr(2), false);
    expect(single.state.roundTripMs).toBe(R);
  });

  it('never makes T1 shorter than its least, and T1 grows by half of it with each try', () => {
    const options = { ...OPTIONS, firstT1Ms: 100, leastT1Ms: 5000 };
    const waits: number[] = [];
    let state: SessionState = disconnectedSession(options);
    for (const event of [
      { kind: 'connect' } as const,
      { kind: 'timer', timer: 'T1' } as const,
      { kind: 'timer', timer: 'T1' } as const,
    ]) {
      const [next, effects] = step(state, event, { atMs: 0, options });
      state = next;
      for (const effect of effects)
        if (effect.kind === 'start' && effect.timer === 'T1') waits.push(effect.ms);
    }
    expect(waits).toEqual([5000, 7500, 10_000]);
  });
});

describe('windows', () => {
  const sentOf = (window8: number, selective: boolean): number => {
    const end = new Table({ ...OPTIONS, window8, selective }).connected();
    return Array.from({ length: 9 }, (_, i) => end.do(send(String(i))))
      .flat()
      .filter((line) => line.startsWith('I ')).length;
  };

  it('hold at most seven of eight numbers, and half of them where single frames are asked for', () => {
    expect([sentOf(9, false), sentOf(7, false), sentOf(9, true), sentOf(3, true)]).toEqual([7, 7, 4, 3]);
    expect(sentOf(0, false)).toBe(1);
  });

  it('take a frame three numbers ahead for one that misses others, and one four ahead for an old one', () => {
    const heard = (ns: number): string[] =>
      frames(
        new Table({ ...OPTIONS, selective: true })
          .connected()
          .hears({ kind: 'I', pf: false, ns, nr: 0 }, true, 'x'),
      );
    expect(heard(3)).toEqual(['SREJ 0', 'SREJ 1', 'SREJ 2']);
    expect(heard(4)).toEqual([]);
  });
});
