import { Timetable } from '@mistpeak/core/network/timetable';
import { IDENTIFY_WITHIN_MS, PAUSE_MS } from '@mistpeak/core/transmitting/way-out';
import { LinkFailed } from '@mistpeak/link/failure';
import { Outlet, type OutletFrame } from './outlet.js';

const KEYING_MS = 300;

function rig() {
  const clock = new Timetable();
  const told: string[] = [];
  const faults: { refused?: string; wire?: LinkFailed } = {};
  const outlet = new Outlet({
    clock,
    keyingMs: () => KEYING_MS,
    permit: ({ id }) => {
      if (id === faults.refused) throw new Error('not armed');
    },
    write: (frames, leftAfterMs) => {
      if (faults.wire) return Promise.reject(faults.wire);
      told.push(`${clock.nowMs()} write ${frames.map(({ id }) => id).join(' ')} ${leftAfterMs}`);
      return Promise.resolve();
    },
    handed: (frames) => told.push(`handed ${frames.map(({ id }) => id).join(' ')}`),
    identify: () => told.push(`${clock.nowMs()} identify`),
  });
  const offer = (id: string, more: Partial<OutletFrame> = {}) => {
    const end = outlet.offer({
      id,
      owner: 'a',
      sendClass: 'message',
      airTimeMs: 500,
      identifies: true,
      port: 0,
      raw: Uint8Array.of(1),
      ...more,
    });
    end.then(
      (what) => told.push(`${id} ${what}`),
      (why: unknown) => told.push(`${id} ${String(why)}`),
    );
    return end;
  };
  return { clock, told, faults, outlet, offer };
}
const settle = () => new Promise((resolve) => setImmediate(resolve));

describe('an outlet', () => {
  it('writes an over, tells what was handed, and then whoever waits for it', async () => {
    const { told, offer, clock } = rig();
    void offer('one');
    void offer('two', { owner: 'b' });
    void offer('three', { owner: 'c' });
    await settle();
    clock.advance(500 + KEYING_MS + PAUSE_MS);
    await settle();
    expect(told).toEqual([
      '0 write one 800',
      'handed one',
      'one handed',
      `${800 + PAUSE_MS} write two three 1300`,
      'handed two three',
      'two handed',
      'three handed',
    ]);
  });

  it('leaves out what may not go any more, and writes the rest of the over', async () => {
    const { told, offer, clock, faults } = rig();
    void offer('first');
    await settle();
    told.length = 0;
    void offer('two', { owner: 'b' });
    void offer('three', { owner: 'c' });
    faults.refused = 'two';
    clock.advance(2000);
    await settle();
    expect(told).toEqual([
      expect.stringMatching(/write three/),
      'two Error: not armed',
      'handed three',
      'three handed',
    ]);
  });

  it('writes nothing at all where nothing may go', async () => {
    const { told, offer, faults } = rig();
    faults.refused = 'one';
    void offer('one');
    await settle();
    expect(told).toEqual(['one Error: not armed']);
  });

  it('tells everybody in the over of a wire that failed, and hands nothing', async () => {
    const { told, offer, faults } = rig();
    faults.wire = new LinkFailed('unplugged');
    void offer('one');
    await settle();
    expect(told).toEqual(['one LinkFailed: unplugged']);
  });

  it('tells why something was never sent, and sends nothing after its end', async () => {
    const { told, offer, clock, outlet } = rig();
    void offer('first');
    void offer('late', { owner: 'b', expiresAtMs: 100 });
    void offer('waiting', { owner: 'c' });
    clock.advance(100);
    outlet.tell({ kind: 'withdraw', owner: 'nobody' });
    outlet.end();
    clock.advance(10_000);
    await settle();
    expect(told.slice(2).sort()).toEqual(['first handed', 'late expired', 'waiting closed']);
    expect(clock.leftovers()).toBe(0);
  });

  it('asks for a call of ours in time', async () => {
    const { told, offer, clock } = rig();
    void offer('tone', { identifies: false });
    clock.advance(IDENTIFY_WITHIN_MS);
    await settle();
    expect(told).toContain(`${IDENTIFY_WITHIN_MS} identify`);
  });
});
