import { request } from 'node:http';
import { WebSocket } from 'ws';
import { makeDatabase, ServerUp } from '../testing/server-up.js';

let server: ServerUp;
beforeAll(async () => (server = await ServerUp.on(await makeDatabase())));
afterAll(() => server.close());

/** The bare status of a request with these headers; fetch would not let us forge them. */
function status(headers: Record<string, string>): Promise<number> {
  return new Promise((resolve, reject) => {
    const asked = request(
      { host: '127.0.0.1', port: server.port, path: '/api/v1/health', headers },
      (response) => {
        response.resume();
        resolve(response.statusCode ?? 0);
      },
    );
    asked.on('error', reject);
    asked.end();
  });
}

function upgrades(headers: Record<string, string>): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = new WebSocket(`ws://127.0.0.1:${server.port}/api/v1/live`, { headers });
    socket.on('open', () => resolve(true));
    socket.on('error', () => resolve(false));
    setTimeout(() => socket.terminate(), 2000).unref();
  });
}

/** own: the page that we serve; the rest are pages from elsewhere that reach for the loopback socket. */
const cases = (port: number): [string, Record<string, string>, boolean][] => [
  ['our own page', { host: `127.0.0.1:${port}`, origin: `http://127.0.0.1:${port}` }, true],
  ['the same by name', { host: `localhost:${port}`, origin: `http://localhost:${port}` }, true],
  ['a program without a browser', { host: `127.0.0.1:${port}` }, true],
  ['another site', { host: `127.0.0.1:${port}`, origin: 'https://example.org' }, false],
  ['a name bound to loopback', { host: `example.org:${port}`, origin: `http://example.org:${port}` }, false],
  ['another port of this machine', { host: `127.0.0.1:${port}`, origin: 'http://127.0.0.1:1' }, false],
  ['a page without an origin of its own', { host: `127.0.0.1:${port}`, origin: 'null' }, false],
  ['the wrong port', { host: '127.0.0.1:1' }, false],
];

describe('who may speak to the server', () => {
  it.each([0, 1, 2, 3, 4, 5, 6, 7])('case %i, by request and by upgrade', async (i) => {
    const [, headers, isOwn] = cases(server.port)[i] as [string, Record<string, string>, boolean];
    expect(await status(headers)).toBe(isOwn ? 200 : 403);
    expect(await upgrades(headers)).toBe(isOwn);
  });
});

describe('a refusal', () => {
  it('of a field names the field and what would be right', async () => {
    const answer = await server.ask('PUT', '/operator', { call: 'N0CALL' });
    expect(answer).toMatchObject({
      status: 400,
      body: { reason: 'field-refused', fields: { call: expect.stringContaining('placeholder') as string } },
    });
  });

  it.each([
    ['GET', '/nowhere', 404],
    ['POST', '/links/not-a-uuid/open', 400],
    ['POST', '/links/00000000-0000-4000-8000-000000000000/open', 404],
  ])('%s %s is %i in our three texts', async (method, path, code) => {
    expect(await server.ask(method, path)).toMatchObject({
      status: code,
      body: { happened: expect.any(String) as string, try: expect.any(String) as string },
    });
  });
});
