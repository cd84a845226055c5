import { readdirSync, readFileSync } from 'node:fs';
import { join, relative, sep } from 'node:path';

/** Who may import whom: docs/architecture.md as data. A place not listed may import nothing of ours. */
const ARROWS: Record<string, readonly string[]> = {
  'packages/core': [],
  'packages/link': ['core'],
  'packages/contract': ['core'],
  'packages/standins': ['core', 'link'],
  'apps/server': ['core', 'link', 'contract'],
  'apps/web': ['core', 'link', 'contract'],
  'apps/tool': ['core'],
  'apps/launcher': ['standins'],
  e2e: ['core', 'link', 'contract', 'standins'],
  benchmarks: ['core', 'link', 'contract', 'standins'],
  mutants: ['core'],
};

/** The server's modules, each with those it may import. live and database know no subject. */
const SERVER_ARROWS: Record<string, readonly string[]> = {
  adapters: [],
  lan: [],
  access: ['adapters', 'database', 'lan', 'problems'],
  problems: ['database'],
  database: ['adapters'],
  live: ['adapters'],
  operator: ['live', 'problems'],
  traffic: [],
  proof: ['adapters', 'database', 'live', 'traffic'],
  links: ['adapters', 'database', 'live', 'problems', 'proof', 'traffic'],
  kit: ['live', 'problems'],
  chain: ['adapters', 'kit', 'links', 'live', 'problems', 'proof'],
  transmitting: ['adapters', 'database', 'live', 'problems', 'links', 'operator', 'proof', 'traffic'],
  sharing: ['adapters', 'links', 'live', 'problems', 'traffic', 'transmitting'],
  record: ['adapters', 'database', 'live', 'problems', 'links', 'traffic'],
  stations: ['live', 'record', 'traffic'],
  beacon: ['live', 'problems', 'operator', 'transmitting'],
  health: ['adapters', 'database', 'live', 'record', 'traffic'],
};

/** Core is pure: time and dice come in as arguments, and no platform is known (lib ES2023 and types [] say the rest). */
const IMPURE =
  /\bDate\.now\b|\bnew Date\(\)|\bMath\.random\b|\bperformance\.|\bcrypto\.|\bprocess\.|from 'node:/;

interface SourceFile {
  readonly path: string;
  readonly text: string;
  readonly imports: readonly string[];
}

function sources(folder: string): SourceFile[] {
  return readdirSync(join(__dirname, folder), { recursive: true, encoding: 'utf8' })
    .filter(
      (name) =>
        /\.tsx?$/.test(name) &&
        !/(?:^|[\\/])(?:dist|node_modules)[\\/]/.test(name) &&
        !name.endsWith('.d.ts'),
    )
    .map((name) => {
      const path = join(folder, name);
      const text = readFileSync(join(__dirname, path), 'utf8');
      return {
        path,
        text,
        imports: [...text.matchAll(/\bfrom '([^']+)'|\bimport\('([^']+)'\)/g)].map(
          (match) => match[1] ?? match[2] ?? '',
        ),
      };
    });
}

const ours = (name: string): string | undefined => /^@mistpeak\/([^/]+)/.exec(name)?.[1];

describe.each(Object.entries(ARROWS))('%s', (place, allowed) => {
  const files = sources(place);

  it('has files', () => expect(files.length).toBeGreaterThan(0));

  it('imports only along the arrows', () => {
    const wrong = files.flatMap(({ path, imports }) =>
      imports
        .filter((name) => ours(name) !== undefined && !allowed.includes(ours(name) as string))
        .map((name) => `${path}: ${name}`),
    );
    expect(wrong).toEqual([]);
  });

  it('reaches into no other place by a relative path', () => {
    const wrong = files.flatMap(({ path, imports }) =>
      imports
        .filter((name) => name.startsWith('.'))
        .filter((name) => relative(place, join(path, '..', name)).startsWith('..'))
        // The end-to-end tests and benchmarks drive the launcher itself.
        .filter(
          (name) =>
            !(
              (place === 'e2e' || place === 'benchmarks' || place === 'mutants') &&
              name.includes('apps/launcher/')
            ),
        )
        .map((name) => `${path}: ${name}`),
    );
    expect(wrong).toEqual([]);
  });
});

describe('apps/server modules', () => {
  const files = sources('apps/server/src').filter(
    ({ path }) =>
      path.split(sep).length > 4 && !path.endsWith('.test.ts') && !path.includes(`${sep}testing${sep}`),
  );

  it.each(Object.entries(SERVER_ARROWS))('%s imports only along its arrows', (room, allowed) => {
    const wrong = files
      .filter(({ path }) => path.split(sep)[3] === room)
      .flatMap(({ path, imports }) => {
        const rooms = imports
          .map((name) => /^\.\.\/([^/]+)\//.exec(name)?.[1])
          .filter((name) => name !== undefined);
        return rooms.filter((name) => !allowed.includes(name)).map((name) => `${path}: ${name}`);
      });
    expect(wrong).toEqual([]);
  });

  it('lists every room', () => {
    const rooms = new Set(files.map(({ path }) => path.split(sep)[3]));
    expect([...rooms].sort()).toEqual(Object.keys(SERVER_ARROWS).sort());
  });
});

describe('apps/web routes', () => {
  it('do not import one another', () => {
    const wrong = sources('apps/web/src/routes').flatMap(({ path, imports }) => {
      const page = path.split(sep)[4];
      return imports
        .filter((name) => /^\.\.\/\w+\//.test(name) && name.split('/')[1] !== page)
        .map((name) => `${path}: ${name}`);
    });
    expect(wrong).toEqual([]);
  });
});

describe('packages/core', () => {
  it('knows no clock, no dice and no platform', () => {
    const impure = sources('packages/core/src')
      .filter(({ path }) => !path.endsWith('.test.ts'))
      .filter(({ text }) => IMPURE.test(text))
      .map(({ path }) => path);
    expect(impure).toEqual([]);
  });
});
