import type { FacilityFacts } from '@mistpeak/core/gateways/facility';
import type { AttemptView, DirectoryView, TakenView } from '@mistpeak/contract/gateways';
import { MovedServer } from '../testing/moved-server.js';
import { ServerUp, until } from '../testing/server-up.js';

const rig = MovedServer.forAllTests();
const FACTS: FacilityFacts = {
  kind: 'mail gateway',
  call: '1X5VEL-10',
  frequencyMHz: 144.85,
  mode: 'packet 1200',
  position: { latitudeDeg: -29.7, longitudeDeg: -11.4 },
  hours: '',
  notes: '',
};
const LIST = 'Call,MHz,Grid,Hours\n1X5VEL-10,144.85,IG40gh,07-22\n1X5OST-10,144.875,,\n,145,,\n';
const MAPPING = { Call: 'call', MHz: 'MHz', Grid: 'place', Hours: 'hours' };

interface Answer<Body> {
  status: number;
  body: Body & { fields?: Record<string, string> };
}
const view = async (): Promise<DirectoryView> =>
  (await rig.server.ask<DirectoryView>('GET', '/gateways')).body;
const hand = (facts: object): Promise<Answer<TakenView>> =>
  rig.server.ask('POST', '/gateways/facts', { by: 'hand', name: '', facts: [facts] });
const list = (more: object = {}): Promise<Answer<TakenView>> =>
  rig.server.ask('POST', '/gateways/lists', {
    by: 'file',
    name: 'list.csv',
    text: LIST,
    mapping: MAPPING,
    usualKind: 'mail gateway',
    ...more,
  });

it('one by hand is there, and the page is told that the directory changed', async () => {
  const before = (await view()).revision;
  expect((await hand(FACTS)).body).toMatchObject({ added: 1, conflicts: 0 });
  expect((await view()).facilities).toEqual([
    expect.objectContaining({ ...FACTS, sources: expect.objectContaining({ call: expect.anything() }) }),
  ]);
  await until('the page to be told', () => rig.latest('gateways')?.facilities === 1 || undefined);
  expect((await view()).revision).toBeGreaterThan(before);
});

it.each([
  ['call', { ...FACTS, call: 'MYCALL' }],
  ['frequencyMHz', { ...FACTS, frequencyMHz: 0.5 }],
  ['hours', { ...FACTS, hours: 'x'.repeat(61) }],
  ['position', { ...FACTS, position: { latitudeDeg: 91, longitudeDeg: 0 } }],
])('what makes no sense is refused: %s', async (_, facts) => {
  expect((await hand(facts)).status).toBe(400);
});

it('a list completes what is there, leaves out what it cannot read, and tells where it differs', async () => {
  const { body } = await list();
  expect(body).toMatchObject({ added: 1, completed: 1, conflicts: 1, leftOut: 1 });
  expect(body.why).toEqual([{ row: 3, why: 'no call' }]);
  const { facilities, conflicts, mappings } = await view();
  expect(facilities.map(({ call, hours }) => [call, hours])).toEqual([
    ['1X5OST-10', ''],
    ['1X5VEL-10', '07-22'],
  ]);
  expect(facilities[1]?.sources).toMatchObject({ hours: { by: 'file' }, mode: { by: 'hand' } });
  expect(conflicts).toMatchObject([
    { fact: 'position', known: FACTS.position, source: { name: 'list.csv' } },
  ]);
  expect(mappings['Call,MHz,Grid,Hours']).toEqual({ mapping: MAPPING, usualKind: 'mail gateway' });
});

it('a list of which nothing can be read is refused, and keeps no mapping', async () => {
  expect((await list({ text: '' })).body.fields?.text).toMatch(/empty/);
  const refused = await list({ text: 'a,b\n1,2\n', mapping: { a: 'notes' } });
  expect(refused.body.fields?.mapping).toMatch(/no row of it can be read: no call/);
  expect((await list({ mapping: { Call: 'colour' } })).status).toBe(400);
  expect(Object.keys((await view()).mappings)).toHaveLength(1);
});

it('a conflict that was decided is not asked about again', async () => {
  const [conflict] = (await view()).conflicts;
  const kept = await rig.server.ask<DirectoryView>('PUT', '/gateways/conflicts', {
    id: conflict?.id,
    takes: 'known',
  });
  expect(kept.body.conflicts).toEqual([]);
  expect((await list()).body.conflicts).toBe(0);
  // Told otherwise once more, and now taken.
  await list({ text: LIST.replace('IG40gh', 'IG40ab') });
  const [other] = (await view()).conflicts;
  const { body } = await rig.server.ask<DirectoryView>('PUT', '/gateways/conflicts', {
    id: other?.id,
    takes: 'told',
  });
  expect(body.facilities[1]).toMatchObject({ position: other?.told, sources: { position: { by: 'file' } } });
});

it('by hand all of it can be changed; what stays keeps its source', async () => {
  const key = '1X5VEL-10 144.8500';
  const changed = await rig.server.ask<DirectoryView>('PUT', '/gateways/facilities', {
    key,
    facts: { ...FACTS, frequencyMHz: 144.925, hours: '07-22' },
  });
  const [, one] = changed.body.facilities;
  expect(one).toMatchObject({
    frequencyMHz: 144.925,
    sources: { hours: { by: 'file' }, mode: { by: 'hand' } },
  });
  expect((await rig.server.ask('PUT', '/gateways/facilities', { key, facts: FACTS })).status).toBe(404);
  const taken = { ...FACTS, call: '1X5OST-10', frequencyMHz: 144.875 };
  const clash = await rig.server.ask('PUT', '/gateways/facilities', {
    key: '1X5VEL-10 144.9250',
    facts: taken,
  });
  expect(clash.status).toBe(400);
});

it('one that is removed can be brought back for a minute; told anew, it stays', async () => {
  const path = `/gateways/facilities/${encodeURIComponent('1X5OST-10 144.8750')}`;
  await rig.server.ask('DELETE', path);
  expect((await view()).facilities).toHaveLength(1);
  const leaving = await until('the removal', () => rig.latest('removals')?.[0]);
  expect(leaving.words).toBe('1X5OST-10 on 144.875 MHz');
  await rig.server.ask('POST', `/removals/${encodeURIComponent(leaving.id)}/back`, {});
  expect((await view()).facilities).toHaveLength(2);
  await rig.server.ask('DELETE', path);
  await list();
  rig.clock.pass(61_000);
  expect((await view()).facilities).toHaveLength(3);
  await rig.server.ask('DELETE', path);
  rig.clock.pass(61_000);
  await until('it to be gone', () => rig.latest('gateways')?.facilities === 2 || undefined);
});

it('tries by hand stand among the attempts, not before they were made', async () => {
  const report = { call: '1X5VEL-10', answered: true, atMs: 1000, reporter: '1X7CTB', from: FACTS.position };
  const { body } = await rig.server.ask<AttemptView[]>('POST', '/gateways/reports', report);
  expect(body).toEqual([
    {
      call: '1X5VEL-10',
      answered: true,
      atMs: 1000,
      reporter: '1X7CTB',
      from: FACTS.position,
      words: 'told by 1X7CTB',
    },
  ]);
  const early = { ...report, reporter: '', atMs: Math.ceil(rig.clock.nowMs()) + 60_000 };
  expect((await rig.server.ask('POST', '/gateways/reports', early)).status).toBe(400);
});

it('20,000 at once are taken whole, and all is there after a restart', async () => {
  const rows = Array.from(
    { length: 20_000 },
    (_, i) => `1X${i % 10}${letters(i)},${144 + (i % 400) / 200},IG40,`,
  );
  const { body } = await list({ name: 'long.csv', text: `Call,MHz,Grid,Hours\n${rows.join('\n')}\n` });
  expect(body).toMatchObject({ added: 20_000, conflicts: 0, leftOut: 0 });
  const before = await view();
  rig.page.close();
  await rig.server.close();
  rig.server = await ServerUp.on(rig.server.databaseUrl, { clock: rig.clock });
  rig.page = rig.server.follow();
  const after = await view();
  expect(after.facilities).toHaveLength(20_002);
  expect({ ...after, revision: 0 }).toEqual({ ...before, revision: 0 });
});

const letters = (i: number): string =>
  String.fromCharCode(65 + (Math.floor(i / 676) % 26), 65 + (Math.floor(i / 26) % 26)) +
  String.fromCharCode(65 + (i % 26));
