import type { LinkView } from '@mistpeak/contract/link';
import type { SaidView, SessionView } from '@mistpeak/contract/sessions';
import { Ax25Station } from '../testing/ax25-station.js';
import { PARAMETERS } from '../testing/calling-bench.js';
import { DatabaseProxy } from '../testing/database-proxy.js';
import { KissPeer } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

it('while the database is away nothing is acknowledged; the session ends, and what was heard is kept afterwards', async () => {
  const proxy = await DatabaseProxy.to(await makeDatabase());
  const server = await ServerUp.on(proxy.url);
  const peer = await KissPeer.listen();
  await server.ask('PUT', '/operator', OPERATOR);
  const link = (await server.ask<LinkView>('POST', '/links', linkTo(peer.port))).body;
  await server.ask('POST', `/links/${link.id}/open`);
  await peer.got('c00500c0');
  await server.ask('PUT', `/links/${link.id}/lock`, { call: TEST_CALL });
  const far = new Ax25Station(peer, '1X9FAR', TEST_CALL);
  const called = { from: TEST_CALL, to: far.call, via: '', linkId: link.id, parameters: PARAMETERS };
  const { id } = (await server.ask<SessionView>('POST', '/sessions', called)).body;
  await far.expect('SABM P');
  far.ua();
  far.i(0, 0, 'kept\r');
  await far.expect('RR 1');
  await proxy.cut();
  // The poll asks for an answer at once, and gets none that says that it arrived.
  far.i(1, 0, 'in the dark\r', true);
  await far.expect('DISC P');
  far.ua();
  expect(far.heard().some(({ words }) => words.startsWith('RR 2'))).toBe(false);
  await proxy.mend();
  const said = await until('what was heard', async () => {
    const { status, body } = await server.ask<SaidView[]>('GET', `/sessions/${id}/said`);
    return status === 200 && body.length === 2 ? body : undefined;
  });
  expect(said.map(({ hex }) => Buffer.from(hex, 'hex').toString())).toEqual(['kept\r', 'in the dark\r']);
  const { outcome } = (await server.ask<SessionView>('GET', `/sessions/${id}`)).body;
  expect(outcome).toBe('ended: the database was away, and nothing is acknowledged that is not kept');
  await server.close();
  await peer.close();
  await proxy.cut();
});
