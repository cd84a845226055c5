import { connect, type Socket } from 'node:net';
import { encodeElevationTile } from '@mistpeak/core/geo/elevation-tile';
import { BACK_FOR_MS } from '@mistpeak/contract/removals';
import { MovedServer } from '../testing/moved-server.js';
import { until } from '../testing/server-up.js';

const rig = MovedServer.forAllTests();
const { clock } = rig;

const tile = (size: number): Uint8Array =>
  encodeElevationTile({
    southDeg: -30,
    westDeg: -12,
    size,
    heightsM: Int16Array.from({ length: size * size }, (_, i) => i % 1200),
  });
const put = (name: string, body: Uint8Array, type = 'application/octet-stream'): Promise<Response> =>
  fetch(`http://127.0.0.1:${rig.server.port}/api/v1/elevation/${name}`, {
    method: 'PUT',
    headers: { 'content-type': type },
    body: body as Uint8Array<ArrayBuffer>,
  });
const get = (name: string): Promise<Response> =>
  fetch(`http://127.0.0.1:${rig.server.port}/api/v1/elevation/${name}`);
const tilesOnce = (names: string): Promise<unknown> =>
  until('the tiles', () => {
    const told = rig.latest('tiles');
    return told?.map(({ name, size }) => `${name} ${size}`).join() === names;
  });

describe('elevation tiles', () => {
  it.each([1201, 3601])('of %i heights along an edge are given back as they came', async (size) => {
    const octets = tile(size);
    expect(await (await put('s30w012.HGT', octets)).json()).toEqual({ name: 'S30W012.hgt', size });
    await tilesOnce(`S30W012.hgt ${size}`);
    const answer = await get('S30W012.hgt');
    expect(answer.headers.get('content-type')).toBe('application/octet-stream');
    expect(Buffer.from(await answer.arrayBuffer()).equals(octets)).toBe(true);
  });

  it('that are none are refused, and what is there stays', async () => {
    for (const [name, octets, type] of [
      ['S30W012.hgt', tile(1201).subarray(1), undefined],
      ['hill.hgt', tile(1201), undefined],
      ['S99W012.hgt', tile(1201), undefined],
      ['S30W012.hgt', tile(1201), 'text/plain'],
    ] as const) {
      const answer = await put(name, octets, type);
      expect([answer.status, ((await answer.json()) as { reason: string }).reason]).toEqual([
        400,
        'not-a-tile',
      ]);
    }
    expect((await put('S30W012.hgt', new Uint8Array(33 * 1024 * 1024))).status).toBe(413);
    expect((await get('S30W012.hgt')).status).toBe(200);
    expect((await get('N00E000.hgt')).status).toBe(404);
  });

  it('are answered when all is sent, if the line is to be closed after it, or after a moment', async () => {
    const begun = (): { socket: Socket; told: () => string } => {
      const socket = connect(rig.server.port, '127.0.0.1');
      let received = '';
      socket.on('data', (octets: Buffer) => (received += octets.toString('latin1')));
      socket.write(
        `PUT /api/v1/elevation/S30W012.hgt HTTP/1.1\r\nhost: 127.0.0.1:${rig.server.port}\r\n` +
          'content-type: text/plain\r\n' +
          'content-length: 5000\r\nconnection: close\r\n\r\n' +
          'x'.repeat(4000),
      );
      return { socket, told: () => received };
    };
    const [whole, half] = [begun(), begun()];
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(whole.told()).toBe('');
    whole.socket.write('x'.repeat(1000));
    const isRefused = ({ told }: ReturnType<typeof begun>) => told().includes('not-a-tile') || undefined;
    await until('the answer to who has sent all', () => isRefused(whole));
    await until('the answer to who sends no more', () => isRefused(half));
    half.socket.destroy();
  });

  it('leave a minute after they were removed', async () => {
    expect(
      (await fetch(`http://127.0.0.1:${rig.server.port}/api/v1/elevation/S30W012.hgt`, { method: 'DELETE' }))
        .status,
    ).toBe(204);
    await tilesOnce('');
    expect((await get('S30W012.hgt')).status).toBe(200);
    clock.pass(BACK_FOR_MS);
    await until('it is gone', async () => (await get('S30W012.hgt')).status === 404);
  });
});
