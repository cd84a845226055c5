import type { DepartureView } from '@mistpeak/contract/departure';
import { linkedBench } from '../testing/linked-bench.js';
import { MovedClock } from '../testing/moved-clock.js';
import { ServerUp, until } from '../testing/server-up.js';
import type { Machine } from './machine.js';

const clock = new MovedClock();
let [boot, address, service] = ['a', '10.0.0.5', false];
const machine: Machine = {
  bootId: () => boot,
  uptimeS: () => 48,
  addresses: () => [address],
  freeGb: () => 12,
  startsByItself: () => service,
};
const bench = linkedBench({ clock, machine });

const view = async (): Promise<DepartureView> =>
  (await bench.server.ask<DepartureView>('GET', '/departure')).body;

async function startAgain(): Promise<void> {
  await bench.server.close();
  bench.server = await ServerUp.on(bench.databaseUrl, { clock, machine });
}

it('what is done by hand is ticked with its time, taken back, and cleared for the next trip', async () => {
  const ticked = await bench.server.ask<DepartureView>('PUT', '/departure/ticks', {
    id: 'licence',
    isDone: true,
  });
  expect(ticked.body.done.licence).toBeCloseTo(clock.nowMs(), -4);
  await bench.server.ask('PUT', '/departure/ticks', { id: 'antenna', isDone: true });
  await bench.server.ask('PUT', '/departure/ticks', { id: 'licence', isDone: false });
  expect(Object.keys((await view()).done)).toEqual(['antenna']);
  expect((await bench.server.ask<DepartureView>('DELETE', '/departure/ticks')).body.done).toEqual({});
});

it('the computer tells whether it starts Mistpeak by itself', async () => {
  expect((await view()).startsByItself).toBe(false);
  service = true;
  expect((await view()).startsByItself).toBe(true);
});

it('a power cut: with another boot it came up by itself, with its link, its address, locked', async () => {
  const asked = await bench.server.ask<DepartureView>('POST', '/departure/power-cut');
  expect(asked.body.asked).toMatchObject({ bootId: 'a', addresses: ['10.0.0.5'] });
  expect(asked.body.asked?.links).toHaveLength(1);
  boot = 'b';
  await startAgain();
  const cut = await until('the judgement', async () => {
    clock.pass(2000);
    return (await view()).cut;
  });
  expect(cut).toMatchObject({
    wasCutOff: true,
    secondsFromBoot: 48,
    hasSameAddress: true,
    isLockClosed: true,
  });
  expect(cut.links.every(({ isOpen }) => isOpen)).toBe(true);
  expect((await view()).asked).toBeUndefined();
});

it('with the same boot only Mistpeak was ended; a link that stays shut is waited for, then told', async () => {
  await bench.server.ask('POST', '/departure/power-cut');
  await bench.peer.close();
  address = '10.0.0.6';
  await startAgain();
  clock.pass(80_000);
  expect((await view()).asked).toBeDefined();
  const cut = await until('the judgement', async () => {
    clock.pass(4000);
    const { asked, cut } = await view();
    return asked ? undefined : cut;
  });
  expect(cut).toMatchObject({ wasCutOff: false, hasSameAddress: false });
  expect(cut.links[0]?.isOpen).toBe(false);
});

it('can be given up before', async () => {
  await bench.server.ask('POST', '/departure/power-cut');
  expect(
    (await bench.server.ask<DepartureView>('DELETE', '/departure/power-cut')).body.asked,
  ).toBeUndefined();
});
