import { ask, drillOf, name } from '@mistpeak/core/drills/drill';
import { scoreOf } from '@mistpeak/core/drills/score';
import type { DrillsView } from '@mistpeak/contract/drills';
import { MovedServer } from '../testing/moved-server.js';

const rig = MovedServer.forAllTests();
const ENDED = { seed: 7, faults: ['path'], tests: ['echo', 'sheet'], named: ['path'] };
const keep = (more: object = {}): Promise<{ status: number; body: DrillsView }> =>
  rig.server.ask('POST', '/drills', { ...ENDED, ...more });

it('what a drill came to is reckoned by the server, and kept in order', async () => {
  await keep();
  const { body } = await keep({ named: ['held'] });
  const drill = ask(ask(drillOf(['path'], 7), 'echo'), 'sheet');
  expect(body.results).toMatchObject([
    { faults: ['path'], named: ['path'], tests: 2, score: scoreOf(name(drill, ['path'])) },
    { named: ['held'], score: scoreOf(name(drill, ['held'])) },
  ]);
  expect((await rig.server.ask<DrillsView>('GET', '/drills')).body).toEqual(body);
});

it.each([
  ['faults', { faults: ['gremlins'] }],
  ['faults', { faults: [] }],
  ['faults', { faults: ['path', 'held', 'clock'] }],
  ['tests', { tests: ['prayer'] }],
  ['named', { named: ['gremlins'] }],
  ['seed', { seed: 1.5 }],
])('what is not known is refused: %s', async (_, more) => expect((await keep(more)).status).toBe(400));
