import { checksNamed, checksTouchedBy, chooseChecks, type Journey } from './choose-checks.js';

const FILES = [
  'packages/core/src/kiss/codec.test.ts',
  'e2e/journeys/kiss-peer.e2e.ts',
  'e2e/journeys/air.e2e.ts',
];
const IMPORTS = new Map([['apps/tool/src/tool.test.ts', ['apps/tool/src/kiss.ts']]]);
const JOURNEYS: Journey[] = [
  { file: 'e2e/journeys/kiss-peer.e2e.ts', text: "goTo(page, 'TNC'); goTo(page, 'Beacon')" },
  { file: 'e2e/journeys/call-signs.e2e.ts', text: "goTo(page, 'Call signs')" },
];

test('without a name every suite runs whole', () => {
  expect(chooseChecks([]).map(({ suite }) => suite)).toEqual([
    'format',
    'types',
    'types-web',
    'lint',
    'unit',
    'browser',
  ]);
});

test('a suite, or a piece of a path, chooses the tests and journeys that bear it', () => {
  expect(checksNamed(['types'], FILES)).toEqual([{ suite: 'types', more: [] }]);
  expect(checksNamed(['kiss'], FILES)).toEqual([
    { suite: 'unit', more: ['packages/core/src/kiss/codec.test.ts'] },
    { suite: 'browser', more: ['e2e/journeys/kiss-peer.e2e.ts'] },
  ]);
  expect(checksNamed(['air'], FILES)).toEqual([{ suite: 'browser', more: ['e2e/journeys/air.e2e.ts'] }]);
});

test('a name that no test bears is refused with the names there are', () => {
  expect(() => checksNamed(['kiss', 'moon'], FILES)).toThrow(/the name moon.*format, types/);
});

const browserOf = (...changed: string[]): readonly string[] =>
  checksTouchedBy(changed, JOURNEYS, IMPORTS).find(({ suite }) => suite === 'browser')?.more ?? [];

test('a changed page or room of the server touches the journeys that name it', () => {
  expect(browserOf('apps/web/src/routes/beacon/beacon-page.tsx')).toEqual(['e2e/journeys/kiss-peer.e2e.ts']);
  expect(browserOf('apps/web/src/routes/call-signs/plan.tsx')).toEqual(['e2e/journeys/call-signs.e2e.ts']);
  expect(browserOf('apps/server/src/beacon/beacon.ts')).toEqual(['e2e/journeys/kiss-peer.e2e.ts']);
});

test('what all stand on touches every journey; a journey touches itself; a test or a text touches none', () => {
  expect(browserOf('packages/core/src/kiss/codec.ts')).toHaveLength(2);
  expect(browserOf('e2e/journeys/call-signs.e2e.ts')).toEqual(['e2e/journeys/call-signs.e2e.ts']);
  expect(browserOf('packages/core/src/kiss/codec.test.ts', 'benchmarks/map.ts', 'README.md')).toEqual([]);
});

test('a changed text is only looked at for its form; changed code for its types and related tests too', () => {
  expect(checksTouchedBy(['README.md'], JOURNEYS, IMPORTS)).toEqual([
    { suite: 'format', more: ['README.md'] },
  ]);
  const code = checksTouchedBy(['apps/tool/src/kiss.ts'], JOURNEYS, IMPORTS);
  expect(code.map(({ suite }) => suite)).toEqual(['format', 'types', 'types-web', 'lint', 'unit']);
  expect(code.at(-1)?.more).toEqual(['apps/tool/src/tool.test.ts']);
});
