import { Timetable } from '@mistpeak/core/network/timetable';
import { KeyHolder } from './key-holder.js';
import { openKeyPort, pinReport } from './key-ports.js';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

function held(refuses: () => boolean = () => false) {
  const clock = new Timetable(0);
  const edges: [ms: number, isDown: boolean][] = [];
  const failures: unknown[] = [];
  let isClosed = false;
  const begunMs = clock.upMs();
  const holder = new KeyHolder(
    {
      set: (isDown) => {
        if (refuses()) return Promise.reject(new Error('inappropriate ioctl'));
        edges.push([clock.upMs() - begunMs, isDown]);
        return Promise.resolve();
      },
      close: () => {
        isClosed = true;
        return Promise.resolve();
      },
    },
    clock,
    (error) => failures.push(error),
  );
  return { clock, edges, failures, holder, isClosed: () => isClosed };
}

describe('the key', () => {
  it('is let go at the beginning, whoever left it down', async () => {
    const { holder, edges } = held();
    await holder.begin();
    expect(edges).toEqual([[0, false]]);
  });

  it('goes down once, however often it is told, and up when told', () => {
    const { holder, edges, clock } = held();
    holder.down(1000);
    clock.advance(500);
    holder.down(1000);
    clock.advance(900);
    holder.up();
    holder.up();
    expect(edges).toEqual([
      [0, true],
      [1400, false],
    ]);
    clock.advance(5000);
    expect(edges).toHaveLength(2);
  });

  it('goes up by itself when nobody says any more', () => {
    const { holder, edges, clock } = held();
    holder.down(1000);
    clock.advance(999);
    expect(edges).toHaveLength(1);
    clock.advance(1);
    expect(edges).toEqual([
      [0, true],
      [1000, false],
    ]);
  });

  it('is up and let go at the end, also where it was up', async () => {
    const { holder, edges, isClosed, clock } = held();
    holder.down(1000);
    await holder.end();
    expect(edges.at(-1)).toEqual([0, false]);
    expect(isClosed()).toBe(true);
    clock.advance(5000);
    expect(edges).toHaveLength(2);
  });

  it('that does not obey is told, and never taken for granted', async () => {
    let refuses = true;
    const { holder, failures } = held(() => refuses);
    await expect(holder.begin()).rejects.toThrow('ioctl');
    holder.down(1000);
    await Promise.resolve();
    await Promise.resolve();
    expect(failures).toHaveLength(1);
    await holder.end();
    refuses = false;
  });
});

describe('the pin of a sound chip', () => {
  it('is set by an output report of five octets', async () => {
    expect([...pinReport(3, true)]).toEqual([0, 0, 4, 4, 0]);
    expect([...pinReport(3, false)]).toEqual([0, 0, 0, 4, 0]);
    expect([...pinReport(1, true)]).toEqual([0, 0, 1, 1, 0]);
    const folder = mkdtempSync(join(tmpdir(), 'mistpeak-pin-'));
    const device = join(folder, 'hidraw0');
    try {
      const { writeFileSync } = await import('node:fs');
      writeFileSync(device, '');
      const port = await openKeyPort({ kind: 'pin', device, pin: 3 });
      await port.set(true);
      await port.set(false);
      await port.close();
      expect(readFileSync(device).toString('hex')).toBe('00000404000000000400');
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('that is not there is refused', async () => {
    await expect(openKeyPort({ kind: 'pin', device: '/nowhere/hidraw0', pin: 3 })).rejects.toMatchObject({
      code: 'ENOENT',
    });
    await expect(openKeyPort({ kind: 'line', device: '/nowhere/tty', line: 'RTS' })).rejects.toThrow();
  });
});
