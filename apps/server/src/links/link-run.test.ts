import { Timetable } from '@mistpeak/core/network/timetable';
import type { LinkSettings } from '@mistpeak/contract/link';
import type { ByteLink } from '@mistpeak/link/byte-link';
import { LinkRun } from './link-run.js';

const SETTINGS: LinkSettings = {
  name: 'Bluetooth port',
  kind: 'serial',
  device: '/dev/rfcomm0',
  speed: 9600,
  airRate: 1200,
  txDelayMs: 300,
  persistence: 0.25,
  slotTimeMs: 100,
  txTailMs: 30,
};

/** A clock that is moved by hand, and a wire that does not open. */
function blocked() {
  const clock = new Timetable(1000);
  const signals: AbortSignal[] = [];
  const run = new LinkRun(
    {
      clock,
      dice: () => 0,
      openWire: (_settings, signal) => {
        signals.push(signal);
        return new Promise<ByteLink>(() => undefined);
      },
      opened: () => undefined,
      received: () => undefined,
      changed: () => undefined,
    },
    () => SETTINGS,
  );
  const later = (ms: number): void => clock.advance(ms);
  return { run, later, signals };
}

/** A wire that gives these octets and stays open. */
const giving = (pieces: readonly Uint8Array[]): ByteLink => ({
  receive: (async function* () {
    yield* pieces;
    await new Promise(() => undefined);
  })(),
  send: () => Promise.resolve(),
  close: () => Promise.resolve(),
});

it('passes frames on at once and in their order; what is none is told in sums', async () => {
  const told: string[] = [];
  const FRAME = Uint8Array.of(0xc0, 0, 1, 2, 0xc0);
  const run = new LinkRun(
    {
      clock: new Timetable(1000),
      dice: () => 0,
      openWire: () => Promise.resolve(giving([FRAME, Uint8Array.of(9, 9), FRAME])),
      opened: () => undefined,
      received: (event) => told.push(event.kind === 'discard' ? `${event.kind} ${event.reason}` : event.kind),
      changed: () => undefined,
    },
    () => SETTINGS,
  );
  run.open();
  for (let turn = 0; turn < 20; turn++) await new Promise((resolve) => setImmediate(resolve));
  expect(told.filter((kind) => kind === 'frame')).toHaveLength(2);
  expect(told.filter((kind) => kind.startsWith('discard'))).toEqual(['discard unknown command']);
  await run.end();
});

describe('a port that blocks while it is opened', () => {
  it('is waited for, with the time told, and given up after half a minute', () => {
    const { run, later, signals } = blocked();
    run.open();
    expect([run.state().phase, run.openingSinceMs]).toEqual(['opening', 1000]);
    later(29_999);
    expect(run.state().phase).toBe('opening');
    later(1);
    expect(run.state()).toMatchObject({ phase: 'failed', reason: 'timed-out' });
    expect([run.openingSinceMs, signals[0]?.aborted]).toEqual([undefined, true]);
    // And tried again after a second.
    later(1000);
    expect([run.state().phase, signals.length]).toEqual(['opening', 2]);
  });

  it('is let go of at once when the operator closes the link', () => {
    const { run, signals } = blocked();
    run.open();
    run.close();
    expect([run.state().phase, signals[0]?.aborted]).toEqual(['closed', true]);
  });
});
