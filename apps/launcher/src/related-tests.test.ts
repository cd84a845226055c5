import { HOME } from './home.js';
import { readImports, touchedBy } from './related-tests.js';

test('what a file touches is found through every import, the nearest first', () => {
  const imports = new Map([
    ['a.ts', []],
    ['b.ts', ['a.ts']],
    ['b.test.ts', ['b.ts']],
    ['c.ts', ['b.ts', 'd.ts']],
    ['d.ts', ['c.ts']],
    ['e.ts', []],
  ]);
  expect([...touchedBy(imports, ['a.ts'])]).toEqual([
    ['a.ts', 0],
    ['b.ts', 1],
    ['b.test.ts', 2],
    ['c.ts', 2],
    ['d.ts', 3],
  ]);
});

test('imports are read in every form, across packages too', () => {
  const files = [
    'packages/core/src/kiss/codec.ts',
    'packages/core/src/kiss/commands.ts',
    'packages/link/src/frame-link.ts',
    'apps/launcher/src/related-tests.test.ts',
    'apps/launcher/src/related-tests.ts',
    'apps/launcher/src/home.ts',
  ];
  const imports = readImports(HOME, files);
  expect(imports.get('packages/link/src/frame-link.ts')).toEqual([
    'packages/core/src/kiss/codec.ts',
    'packages/core/src/kiss/commands.ts',
  ]);
  expect(imports.get('apps/launcher/src/related-tests.test.ts')).toEqual([
    'apps/launcher/src/home.ts',
    'apps/launcher/src/related-tests.ts',
  ]);
});
