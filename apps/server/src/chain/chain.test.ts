import { fromLibrary, type LibraryKind } from '@mistpeak/core/kit/library';
import type { Item } from '@mistpeak/core/kit/item';
import { formatKit, parseKit } from '@mistpeak/core/kit/kit-file';
import type { ChainView } from '@mistpeak/contract/chain';
import { KissPeer } from '../testing/kiss-peer.js';
import { linkTo, makeDatabase, ServerUp } from '../testing/server-up.js';

let databaseUrl: string;
let server: ServerUp;
let peer: KissPeer;

beforeAll(async () => {
  databaseUrl = await makeDatabase();
  server = await ServerUp.on(databaseUrl);
  peer = await KissPeer.listen();
});

afterAll(async () => {
  await server.close();
  await peer.close();
});

const parts = (...kinds: LibraryKind[]): Item[] => kinds.map((kind) => fromLibrary(kind));
const CHAIN = {
  name: '',
  purpose: 'messages',
  parts: parts('tnc-handheld', 'phone', 'phone-map'),
  antenna: 'whip',
  isMoving: true,
  schools: { squelch: 'open' },
};
const NOBODY = '00000000-0000-4000-8000-000000000000';

async function snapshot() {
  const page = server.follow();
  const found = await page.find('snapshot');
  page.close();
  return found;
}

describe('the kit', () => {
  it('has Mistpeak from the first, and keeps it', async () => {
    const { kit } = await snapshot();
    expect(kit.items).toEqual([fromLibrary('mistpeak')]);
    expect(await server.ask('DELETE', '/kit/items/mistpeak')).toMatchObject({
      status: 409,
      body: { reason: 'mistpeak-stays' },
    });
  });

  it('takes items in their order, changes and removes them', async () => {
    const add = (kind: LibraryKind) => server.ask<Item>('POST', '/kit/items', { item: fromLibrary(kind) });
    const radio = (await add('two-pin-handheld')).body;
    const cable = (await add('headset-cable')).body;
    expect(radio.id).not.toBe('two-pin-handheld');
    const changed = { ...radio, name: 'Team A handheld', switches: { vox: 'on' } };
    expect(await server.ask('PUT', `/kit/items/${radio.id}`, { item: changed })).toMatchObject({
      status: 200,
      body: { name: 'Team A handheld' },
    });
    expect((await snapshot()).kit.items.map(({ name }) => name)).toEqual([
      'Mistpeak',
      'Team A handheld',
      'Headset audio cable',
    ]);
    expect((await server.ask('DELETE', `/kit/items/${cable.id}`)).status).toBe(204);
    expect(await server.ask('PUT', `/kit/items/${cable.id}`, { item: cable })).toMatchObject({ status: 404 });
  });

  it('refuses an item at its field, as core reads it', async () => {
    const item = { ...fromLibrary('tnc-handheld'), ports: [{ id: 'a', connector: 'gold', end: 'plug' }] };
    expect(await server.ask('POST', '/kit/items', { item })).toMatchObject({
      status: 400,
      body: { fields: { item: expect.stringContaining('item.ports[0].connector must be one of') as string } },
    });
  });

  it('is taken whole from a file of two hundred items, or not at all', async () => {
    const many = Array.from({ length: 200 }, (_, i) => fromLibrary('tnc-key-handheld', `handheld-${i}`));
    expect((await server.ask('PUT', '/kit', { file: formatKit(many) })).status).toBe(200);
    expect(await server.ask('PUT', '/kit', { file: '{"format":"x"}' })).toMatchObject({
      status: 400,
      body: { reason: 'not-a-kit', fields: { file: 'format must be “mistpeak-kit”' } },
    });
    const file = JSON.stringify((await server.ask('GET', '/kit')).body);
    expect(parseKit(file)).toHaveLength(201);
  });
});

describe('a saved chain', () => {
  const save = async (changes = {}) =>
    (await server.ask<ChainView>('POST', '/chains', { ...CHAIN, ...changes })).body;

  it('is saved and changed, and one is on the Bench', async () => {
    const [first, second] = [await save(), await save({ radioPort: 'Bluetooth' })];
    await server.ask('PUT', `/chains/${first.id}/bench`);
    await server.ask('PUT', `/chains/${second.id}/bench`);
    await server.ask('PUT', `/chains/${second.id}`, { ...CHAIN, purpose: 'beacon' });
    const { chains } = await snapshot();
    expect(chains.filter(({ onBench }) => onBench)).toMatchObject([{ id: second.id, purpose: 'beacon' }]);
    expect(second.radioPort).toBe('Bluetooth');
    expect((await server.ask('DELETE', `/chains/${first.id}`)).status).toBe(204);
    expect((await server.ask('PUT', `/chains/${first.id}/bench`)).status).toBe(404);
  });

  it('takes the parts as they are in the kit, whatever the page says', async () => {
    const [, owned] = (await snapshot()).kit.items;
    const { parts: saved } = await save({ parts: [{ ...owned, name: 'made up' }] });
    expect(saved).toEqual([owned]);
  });

  it.each([
    ['purpose', 'flying', 'choose a purpose'],
    ['parts', [], 'at least a radio'],
    ['parts', [{ id: 'x' }], 'kind must be one of'],
    ['parts', Array.from({ length: 13 }, () => fromLibrary('phone')), 'at most 12'],
    ['schools', { squelch: 7 }, 'choose among the schools'],
    ['schools', { diet: 'open' }, 'choose among the schools'],
    ['linkId', 'here', 'choose a link'],
  ])('refuses %s %j', async (field, value, words) => {
    expect(await server.ask('POST', '/chains', { ...CHAIN, [field]: value })).toMatchObject({
      status: 400,
      body: { fields: { [field]: expect.stringContaining(words) as string } },
    });
  });

  it('goes by a link that is there, and outlives it', async () => {
    expect((await server.ask('POST', '/chains', { ...CHAIN, linkId: NOBODY })).status).toBe(404);
    const link = (await server.ask<{ id: string }>('POST', '/links', linkTo(peer.port))).body;
    const chain = await save({ linkId: link.id });
    expect(chain.linkId).toBe(link.id);
    await server.ask('DELETE', `/links/${link.id}`);
    await server.close();
    server = await ServerUp.on(databaseUrl);
    expect((await snapshot()).chains.find(({ id }) => id === chain.id)?.linkId).toBeNull();
  });

  it('has ticks, of which the last word counts, also after a restart', async () => {
    const { id } = await save();
    const tick = (isDone: boolean, measured = '') =>
      server.ask('POST', `/chains/${id}/ticks`, { stepId: 'radio/squelch', isDone, measured, note: '' });
    await tick(true, '−12 dBFS');
    await tick(false);
    await tick(true, '−14 dBFS');
    await server.close();
    server = await ServerUp.on(databaseUrl);
    expect((await snapshot()).ticks.filter(({ chainId }) => chainId === id)).toMatchObject([
      { stepId: 'radio/squelch', isDone: true, measured: '−14 dBFS' },
    ]);
    expect(
      (
        await server.ask('POST', `/chains/${NOBODY}/ticks`, {
          stepId: 's',
          isDone: true,
          measured: '',
          note: '',
        })
      ).status,
    ).toBe(404);
  });

  it('sets the switch of the kit with the tick, and not with taking it back', async () => {
    const { body: radio } = await server.ask<{ id: string }>('POST', '/kit/items', {
      item: fromLibrary('tnc-handheld'),
    });
    const { id } = await save();
    const kiss = async () => (await snapshot()).kit.items.find((item) => item.id === radio.id)?.switches.kiss;
    const tick = (isDone: boolean, set: unknown) =>
      server.ask('POST', `/chains/${id}/ticks`, {
        stepId: `${radio.id}/kiss`,
        isDone,
        measured: '',
        note: '',
        set,
      });
    await tick(true, { itemId: radio.id, switch: 'kiss', to: 'on' });
    expect(await kiss()).toBe('on');
    await tick(false, { itemId: radio.id, switch: 'kiss', to: 'off' });
    expect(await kiss()).toBe('on');
    expect((await tick(true, { itemId: NOBODY, switch: 'kiss', to: 'off' })).status).toBe(201);
    expect((await tick(true, { itemId: radio.id, switch: 'tcpPort', to: '8100' })).status).toBe(201);
    expect((await snapshot()).kit.items.find((item) => item.id === radio.id)?.switches).not.toHaveProperty(
      'tcpPort',
    );
    expect((await tick(true, { itemId: radio.id, switch: 'warp', to: '9' })).status).toBe(400);
  });

  it('has evidence by the operator’s eyes, of its own and not of a link', async () => {
    const { id } = await save();
    expect(
      (await server.ask('POST', `/chains/${id}/evidence`, { rung: 'far station answered' })).status,
    ).toBe(204);
    expect((await server.ask('POST', `/chains/${id}/evidence`, { rung: 'flown' })).status).toBe(400);
    expect((await server.ask('POST', `/chains/${NOBODY}/evidence`, { rung: 'keyed' })).status).toBe(404);
    const [last] = (await snapshot()).evidence.slice(-1);
    expect(last).toMatchObject({ chainId: id, rung: 'far station answered', kind: 'tick' });
    expect(last).not.toHaveProperty('linkId');
  });

  it('has trials, with the parts as they were', async () => {
    const { id } = await save();
    const trial = {
      result: 'works',
      trick: '',
      levelDbfs: -18.5,
      settings: { squelch: '0' },
      note: 'from the ridge',
    };
    await server.ask('POST', `/chains/${id}/trials`, trial);
    await server.ask('DELETE', `/chains/${id}`);
    const { trials } = await snapshot();
    expect(trials).toMatchObject([{ ...trial, purpose: 'messages', antenna: 'whip' }]);
    expect(trials[0]?.items.map(({ name }) => name)).toEqual(CHAIN.parts.map(({ name }) => name));
    expect(await server.ask('POST', `/chains/${id}/trials`, trial)).toMatchObject({ status: 404 });
    await server.ask('DELETE', `/trials/${trials[0]?.id}`);
    expect((await snapshot()).trials).toEqual([]);
  });

  it.each([
    ['levelDbfs', 3, '−120 to 0'],
    ['result', 'fine', 'choose the result'],
    ['settings', { a: 1 }, 'at most 200 values'],
  ])('refuses a trial with %s %j', async (field, value, words) => {
    const { id } = await save();
    const trial = { result: 'works', trick: '', settings: {}, note: '', [field]: value };
    expect(await server.ask('POST', `/chains/${id}/trials`, trial)).toMatchObject({
      status: 400,
      body: { fields: { [field]: expect.stringContaining(words) as string } },
    });
  });
});
