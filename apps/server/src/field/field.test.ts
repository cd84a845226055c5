import type { FieldSettings, FieldView } from '@mistpeak/contract/field';
import { MovedServer } from '../testing/moved-server.js';
import { ServerUp, until } from '../testing/server-up.js';

const rig = MovedServer.forAllTests();
const SETTINGS: FieldSettings = {
  bank: { chemistry: 'lead-acid', ampHours: 40, cells: 6 },
  loads: [{ name: 'computer', amps: 0.5, sharePercent: 100 }],
  panelW: 20,
  skyPercent: 60,
  wires: [{ name: 'radio', oneWayM: 4, areaMm2: 4, amps: 8 }],
  antenna: {
    frequencyMHz: 144.8,
    powerW: 25,
    gainDbi: 3,
    feedLossDb: 1,
    keyedPercent: 5,
    rule: 'FCC',
    group: 'public',
    isHandheld: false,
  },
};
const RESTED = { kind: 'rested', volts: 12.3, restedHours: 6, wasCharged: false, note: 'before breakfast' };
const keep = (reading: object): Promise<{ status: number; body: FieldView & { fields?: object } }> =>
  rig.server.ask('POST', '/field/readings', reading);

const view = async (): Promise<FieldView> => (await rig.server.ask<FieldView>('GET', '/field')).body;

it('a reading before the battery is told is refused in words', async () => {
  expect(await keep(RESTED)).toMatchObject({ status: 400, body: { fields: { kind: /tell first/ } } });
});

it('is kept by version: who began with another is told', async () => {
  const first = await rig.server.ask<FieldView>('PUT', '/field', SETTINGS);
  expect(first.body.settings).toEqual({ ...SETTINGS, version: 1 });
  expect((await rig.server.ask('PUT', '/field', { ...SETTINGS, version: 1, panelW: 40 })).status).toBe(200);
  expect((await rig.server.ask('PUT', '/field', { ...SETTINGS, version: 1 })).status).toBe(409);
  await until('the page to be told', () => rig.latest('field')?.settings?.panelW === 40 || undefined);
  expect((await view()).settings).toMatchObject({ panelW: 40, version: 2 });
});

it.each([
  ['bank', { bank: { chemistry: 'potato', ampHours: 40, cells: 6 } }],
  ['bank', { bank: undefined }],
  ['loads', { loads: [{ name: ' ', amps: 1, sharePercent: 5 }] }],
  ['wires', { wires: [{ name: 'radio', oneWayM: 0, areaMm2: 4, amps: 8 }] }],
  ['antenna', { antenna: { ...SETTINGS.antenna, powerW: 2001 } }],
  ['skyPercent', { skyPercent: 101 }],
])('what makes no sense is refused at its field: %s', async (_, change) => {
  const { status } = await rig.server.ask('PUT', '/field', { ...SETTINGS, ...change });
  expect(status).toBe(400);
});

it('a loaded voltage is refused as a measure, at its field', async () => {
  expect(await keep({ ...RESTED, restedHours: 1 })).toMatchObject({
    status: 400,
    body: { fields: { volts: /measure it after 4 h/ } },
  });
  expect(await keep({ kind: 'counted', takenAh: 50, wasCharged: false, note: '' })).toMatchObject({
    status: 400,
    body: { fields: { takenAh: /more than the whole bank/ } },
  });
});

it('readings are kept with their time, in order; one that is removed can be brought back', async () => {
  await keep(RESTED);
  rig.clock.pass(3_600_000);
  const { body } = await keep({ kind: 'counted', takenAh: 20, wasCharged: false, note: '' });
  expect(body.readings.map(({ kind }) => kind)).toEqual(['rested', 'counted']);
  const [first, second] = body.readings;
  expect(((second?.atMs ?? 0) - (first?.atMs ?? 0)) / 3_600_000).toBeCloseTo(1, 2);
  await rig.server.ask('DELETE', `/field/readings/${first?.id}`);
  expect((await view()).readings).toHaveLength(1);
  const leaving = await until('the removal', () => rig.latest('removals')?.[0]);
  expect(leaving.words).toBe('a reading of the battery');
  await rig.server.ask('POST', `/removals/${encodeURIComponent(leaving.id)}/back`, {});
  expect((await view()).readings).toEqual(body.readings);
});

it('all of it is there after a restart', async () => {
  const before = await view();
  rig.page.close();
  await rig.server.close();
  rig.server = await ServerUp.on(rig.server.databaseUrl, { clock: rig.clock });
  rig.page = rig.server.follow();
  expect(await view()).toEqual(before);
});
