import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodePmtilesHeader } from '@mistpeak/core/pmtiles/header';
import { MAP_TYPE, type MapView } from '@mistpeak/contract/maps';
import { makeDatabase, ServerUp } from '../testing/server-up.js';

const folder = mkdtempSync(join(tmpdir(), 'mistpeak-maps-'));
const header = encodePmtilesHeader(
  {
    tiles: 'vector',
    minZoom: 0,
    maxZoom: 10,
    west: -11.65,
    south: -29.75,
    east: -11.15,
    north: -29.45,
    parts: {
      root: { offset: 127, length: 3 },
      metadata: { offset: 130, length: 2 },
      leaves: { offset: 132, length: 0 },
      data: { offset: 132, length: 4 },
    },
  },
  1,
);
const MAP = Buffer.concat([header, Buffer.from('rooo{}tile'.slice(1))]);
let server: ServerUp;
beforeAll(async () => {
  server = await ServerUp.on(await makeDatabase(), { mapsFolder: folder });
});
afterAll(async () => {
  await server.close();
  rmSync(folder, { recursive: true });
});

const send = async (
  name: string,
  body: Buffer,
  type = MAP_TYPE,
): Promise<{ status: number; body: Partial<MapView> }> => {
  const answer = await fetch(`http://127.0.0.1:${server.port}/api/v1/maps/${name}`, {
    method: 'PUT',
    headers: { 'content-type': type },
    body: body as unknown as BodyInit,
  });
  return { status: answer.status, body: (await answer.json()) as Partial<MapView> };
};
const listed = async (): Promise<string[]> =>
  (await server.ask<MapView[]>('GET', '/maps')).body.map(({ name }) => name);

it('a map that is sent lies in the folder and is read by range', async () => {
  expect(await send('hollin.pmtiles', MAP)).toMatchObject({
    status: 200,
    body: { name: 'hollin.pmtiles', octets: MAP.length, tiles: 'vector', maxZoom: 10, west: -11.65 },
  });
  expect(await listed()).toEqual(['hollin.pmtiles']);
  const part = await fetch(`http://127.0.0.1:${server.port}/map/tiles/hollin.pmtiles`, {
    headers: { range: 'bytes=132-135' },
  });
  expect([part.status, await part.text()]).toEqual([206, 'tile']);
});

it.each([
  ['cut off', 'a.pmtiles', MAP.subarray(0, MAP.length - 1)],
  ['no map', 'a.pmtiles', Buffer.from('junk')],
  ['a name that leads elsewhere', '..%2Fa.pmtiles', MAP],
  ['another name', 'a.zip', MAP],
])('%s is refused, and nothing of it stays', async (_, name, body) => {
  expect((await send(name, body)).status).toBe(400);
  expect(readdirSync(folder)).toEqual(['hollin.pmtiles']);
});

it('another type of body is no map', async () => {
  expect((await send('a.pmtiles', MAP, 'text/plain')).status).toBe(400);
});

it('what somebody laid into the folder is seen, what is no map is passed over, and one can be removed', async () => {
  writeFileSync(join(folder, 'sea.pmtiles'), MAP);
  writeFileSync(join(folder, 'junk.pmtiles'), 'junk');
  writeFileSync(join(folder, 'notes.txt'), 'none');
  expect(await listed()).toEqual(['hollin.pmtiles', 'sea.pmtiles']);
  expect((await server.ask('DELETE', '/maps/sea.pmtiles')).status).toBe(204);
  expect(await listed()).toEqual(['hollin.pmtiles']);
});
