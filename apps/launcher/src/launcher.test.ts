import { spawnSync } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { freePort, isFree } from './free-port.js';

const COMMAND = join(__dirname, '../../../mistpeak');

describe('./mistpeak', () => {
  it.each([
    [['demo', '--port', 'many'], 2, /--port takes a number/],
    [['demo', '--nonsense'], 2, /nonsense/],
    [['fly'], 2, /There is no "fly"/],
    [['test', 'nothing-like-it'], 1, /No test bears the name nothing-like-it/],
    [['help'], 0, /\.\/mistpeak demo/],
  ])('%j exits with %i and says why', (args, status, words) => {
    const ran = spawnSync(COMMAND, args, { encoding: 'utf8' });
    expect(ran.status).toBe(status);
    expect(ran.stdout + ran.stderr).toMatch(words);
  });
});

describe('a port', () => {
  it('that is taken is not free, and another is found in its place', async () => {
    const server = createServer();
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as { port: number };
    expect(await isFree(port)).toBe(false);
    expect(await freePort(port)).not.toBe(port);
    await new Promise((resolve) => server.close(resolve));
    expect(await freePort(port)).toBe(port);
  });
});
