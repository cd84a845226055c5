import { appendFileSync, mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Configuration } from '../configuration.js';
import { Spool } from './spool.js';

const folder = mkdtempSync(join(tmpdir(), 'mistpeak-spool-'));
const spool = new Spool({ dataFolder: folder } as Configuration);
const logged = jest.spyOn((spool as unknown as { log: { error: (words: string) => void } }).log, 'error');

beforeEach(() => logged.mockReset());
afterAll(() => rmSync(folder, { recursive: true }));

describe('what waits for the next start', () => {
  it('is kept for nobody else to read, and given once', () => {
    spool.keep('writes', [{ n: 1 }, { n: 2 }]);
    expect(statSync(join(folder, 'waiting-writes.jsonl')).mode & 0o777).toBe(0o600);
    expect(spool.take('writes')).toEqual([{ n: 1 }, { n: 2 }]);
    expect(spool.take('writes')).toEqual([]);
    expect(logged).not.toHaveBeenCalled();
  });

  it('leaves no file where nothing waits', () => {
    spool.keep('writes', []);
    expect(readdirSync(folder)).toEqual([]);
  });

  it('is read round a line that is damaged, and that is said', () => {
    spool.keep('frames', [1]);
    appendFileSync(join(folder, 'waiting-frames.jsonl'), '{"half\n2\n');
    expect(spool.take('frames')).toEqual([1, 2]);
    expect(logged).toHaveBeenCalledTimes(1);
    expect(logged.mock.calls[0]?.[0]).toMatch(/^1 lines/);
  });

  it('is lost without a folder, and that is said', () => {
    const nowhere = new Spool({} as Configuration);
    const said = jest
      .spyOn((nowhere as unknown as { log: { error: (words: string) => void } }).log, 'error')
      .mockImplementation(() => undefined);
    nowhere.keep('frames', [1, 2]);
    expect(said.mock.calls[0]?.[0]).toMatch(/^2 frames are lost/);
    expect(nowhere.take('frames')).toEqual([]);
  });
});
