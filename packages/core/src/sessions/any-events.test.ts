import fc from 'fast-check';
import { COMMAND_BITS, encodeFrame, RESPONSE_BITS } from '../ax25/frame.js';
import { disconnectedSession, type SessionEvent, type SessionState } from './session.js';
import { step } from './step.js';
import { OPTIONS } from './testing/table.js';

describe('whatever happens', () => {
  const calls = ['QH4MPK', 'QH2HUT-1'];
  const anyEvent: fc.Arbitrary<SessionEvent> = fc.oneof(
    fc.constantFrom<SessionEvent>(
      { kind: 'connect' },
      { kind: 'disconnect' },
      { kind: 'busy', on: true },
      { kind: 'busy', on: false },
    ),
    fc
      .constantFrom('T1' as const, 'T2' as const, 'T3' as const)
      .map((timer): SessionEvent => ({ kind: 'timer', timer })),
    fc.uint8Array({ maxLength: 40 }).map((octets): SessionEvent => ({ kind: 'send', octets })),
    fc.uint8Array({ maxLength: 30 }).map((octets): SessionEvent => ({ kind: 'heard', octets })),
    fc
      .tuple(fc.nat(255), fc.nat(255), fc.uint8Array({ maxLength: 9 }), fc.boolean())
      .map(([a, b, rest, isCommand]): SessionEvent => {
        const cBits = isCommand ? COMMAND_BITS : RESPONSE_BITS;
        const ui = encodeFrame({
          destination: calls[0] as string,
          source: calls[1] as string,
          path: [],
          cBits,
          control: { kind: 'DM', pf: false },
          info: rest,
        });
        return { kind: 'heard', octets: Uint8Array.from([...ui.subarray(0, 14), a, b, ...rest]) };
      }),
  );

  it('any events in any order: no throw, the window is kept, numbers stay numbers', () => {
    fc.assert(
      fc.property(
        fc.array(anyEvent, { maxLength: 60 }),
        fc.boolean(),
        fc.boolean(),
        (events, extended, selective) => {
          const options = { ...OPTIONS, extended, selective };
          let state: SessionState = disconnectedSession(options);
          const running = new Set<string>();
          for (const event of events) {
            if (event.kind === 'timer') running.delete(event.timer);
            const [next, effects] = step(state, event, { atMs: 0, options });
            state = next;
            for (const effect of effects) {
              if (effect.kind === 'start') running.add(effect.timer);
              if (effect.kind === 'stop') running.delete(effect.timer);
            }
            // What a phase does not hold does not run.
            expect('running' in state ? state.running : new Set()).toEqual(running);
            if (state.phase !== 'connected' && state.phase !== 'timer recovery') continue;
            const out = (state.vs - state.va + state.modulo) % state.modulo;
            expect(out).toBeLessThanOrEqual(state.modulo === 8 ? 4 : 32);
            expect(out).toBeLessThanOrEqual(state.window.length);
            expect(state.early.size).toBeLessThan(state.modulo / 2);
          }
        },
      ),
      { numRuns: 1000 },
    );
  });
});
