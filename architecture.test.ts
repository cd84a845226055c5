import { readdirSync, readFileSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import { readImports } from './apps/launcher/src/related-tests.js';

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
  commands: ['adapters', 'problems'],
  live: ['adapters'],
  removals: ['adapters', 'live', 'problems'],
  operator: ['commands', 'live', 'problems', 'removals'],
  traffic: [],
  proof: ['adapters', 'database', 'live', 'traffic'],
  links: ['commands', 'adapters', 'database', 'live', 'problems', 'proof', 'removals', 'traffic'],
  levels: ['adapters', 'commands', 'database', 'links', 'live', 'problems', 'proof', 'transmitting'],
  programs: ['database', 'links', 'live', 'problems'],
  kit: ['commands', 'live', 'problems', 'removals'],
  chain: ['commands', 'adapters', 'kit', 'links', 'live', 'problems', 'proof', 'removals'],
  transmitting: [
    'adapters',
    'commands',
    'database',
    'live',
    'problems',
    'links',
    'operator',
    'proof',
    'traffic',
  ],
  sharing: ['adapters', 'links', 'live', 'problems', 'traffic', 'transmitting'],
  record: ['adapters', 'database', 'live', 'problems', 'links', 'operator', 'traffic'],
  stations: ['live', 'record', 'traffic'],
  beacon: [
    'adapters',
    'commands',
    'links',
    'live',
    'operator',
    'problems',
    'record',
    'removals',
    'transmitting',
    'whereabouts',
  ],
  internet: ['adapters', 'live', 'operator', 'problems', 'traffic', 'transmitting'],
  gating: ['adapters', 'internet', 'links', 'live', 'operator', 'problems', 'traffic', 'transmitting'],
  messages: [
    'adapters',
    'beacon',
    'commands',
    'database',
    'internet',
    'links',
    'live',
    'operator',
    'problems',
    'proof',
    'traffic',
    'transmitting',
  ],
  listening: ['adapters', 'links', 'record'],
  field: ['adapters', 'commands', 'live', 'problems', 'removals'],
  departure: ['adapters', 'lan', 'live'],
  'true-time': ['access', 'adapters', 'departure', 'live', 'problems'],
  drills: ['adapters', 'commands', 'live', 'operator', 'problems'],
  backup: ['adapters', 'live', 'mail', 'problems', 'record'],
  gateways: ['adapters', 'commands', 'live', 'problems', 'removals'],
  logbook: ['adapters', 'commands', 'database', 'gateways', 'live', 'problems', 'removals'],
  maps: ['database', 'live', 'problems'],
  'own-objects': [
    'adapters',
    'commands',
    'database',
    'links',
    'live',
    'operator',
    'problems',
    'traffic',
    'transmitting',
  ],
  search: ['adapters', 'operator', 'problems', 'record'],
  watch: ['adapters', 'commands', 'database', 'live', 'operator', 'problems', 'record', 'traffic'],
  whereabouts: ['adapters', 'commands', 'database', 'live', 'problems', 'removals', 'true-time'],
  elevation: ['live', 'problems', 'removals'],
  'path-lab': ['adapters', 'live', 'problems', 'removals'],
  sessions: [
    'adapters',
    'commands',
    'database',
    'links',
    'live',
    'operator',
    'problems',
    'proof',
    'traffic',
    'transmitting',
  ],
  terminal: ['adapters', 'commands', 'database', 'links', 'live', 'problems', 'sessions', 'transmitting'],
  mail: [
    'access',
    'adapters',
    'commands',
    'database',
    'links',
    'live',
    'operator',
    'problems',
    'proof',
    'removals',
    'sessions',
    'stations',
    'traffic',
    'transmitting',
    'true-time',
  ],
  mailbox: [
    'adapters',
    'commands',
    'database',
    'links',
    'live',
    'operator',
    'problems',
    'removals',
    'sessions',
    'transmitting',
  ],
  health: ['adapters', 'database', 'live', 'record', 'traffic'],
};

/** The rooms of core, each with those it may import; what only its tests import does not count. */
const CORE_ARROWS: Record<string, readonly string[]> = {
  adif: [],
  aprs: ['bits', 'callsign', 'geo', 'units'],
  ax25: ['bits', 'callsign'],
  beacon: [
    'aprs',
    'ax25',
    'bits',
    'callsign',
    'digipeating',
    'geo',
    'machine',
    'path-lab',
    'tracks',
    'units',
  ],
  bits: [],
  callsign: ['bits'],
  chain: ['kit', 'proof'],
  'command-words': ['machine'],
  'channel-access': ['kiss', 'kit', 'machine'],
  diagnosis: ['ax25', 'bits', 'digipeating', 'faults', 'kit', 'logbook', 'network', 'port-voice', 'proof'],
  digipeating: ['ax25', 'bits', 'callsign', 'machine'],
  departure: ['kit'],
  drills: ['bits', 'callsign', 'faults', 'network'],
  exposure: [],
  faults: ['network'],
  gateways: ['bits', 'callsign', 'geo', 'stations', 'units', 'voice-list'],
  geo: ['bits'],
  hdlc: [],
  internet: ['ax25', 'bits', 'callsign', 'digipeating', 'machine'],
  kiss: [],
  kit: ['bits'],
  levels: ['ax25', 'bits', 'digipeating', 'hdlc', 'modem'],
  lzhuf: ['bits'],
  machine: [],
  mail: ['bits', 'callsign', 'geo', 'lzhuf', 'machine', 'terminal'],
  'mail-trial': ['bits', 'lzhuf', 'machine', 'mail', 'network'],
  mailbox: ['bits', 'callsign', 'machine'],
  'mailbox-visit': ['bits', 'callsign', 'machine', 'terminal'],
  'message-trial': ['aprs', 'bits', 'machine', 'messages', 'network'],
  messages: ['aprs', 'bits', 'callsign', 'machine'],
  modem: ['ax25', 'bits', 'hdlc'],
  network: ['hdlc', 'machine'],
  'own-calls': ['ax25', 'callsign', 'digipeating'],
  'path-lab': ['ax25', 'bits', 'callsign', 'digipeating', 'geo', 'hdlc', 'machine', 'network', 'propagation'],
  pcap: ['bits'],
  'port-voice': ['ax25', 'bits', 'kiss'],
  power: [],
  proof: [],
  propagation: ['geo'],
  services: ['aprs', 'messages'],
  'session-trial': ['digipeating', 'hdlc', 'machine', 'network', 'sessions'],
  sessions: ['ax25', 'bits', 'callsign', 'hdlc', 'machine'],
  sharing: ['ax25', 'digipeating', 'kiss', 'machine'],
  sheet: ['callsign', 'chain', 'digipeating', 'kit', 'proof'],
  stations: ['aprs', 'ax25', 'bits', 'digipeating', 'geo', 'internet'],
  terminal: ['bits', 'machine', 'throughput'],
  throughput: ['hdlc', 'kiss', 'sessions'],
  'tnc-console': ['bits'],
  tracks: ['bits', 'geo'],
  transmitting: ['ax25', 'bits', 'digipeating', 'machine'],
  'true-time': [],
  units: [],
  logbook: ['geo'],
  listening: ['aprs', 'ax25', 'bits', 'callsign', 'digipeating', 'geo', 'path-lab', 'tracks', 'units'],
  'own-objects': ['aprs', 'geo', 'machine'],
  pmtiles: ['bits'],
  'voice-list': ['geo', 'stations'],
  watch: ['bits', 'geo', 'machine', 'tracks'],
  wav: ['bits'],
};

/** The rooms of the page. Routes import no other route; the frame alone stands round them. */
const WEB_ARROWS: Record<string, readonly string[]> = {
  adapters: [],
  live: ['adapters', 'workers'],
  pieces: ['live'],
  forms: ['live', 'pieces'],
  frame: ['forms', 'live', 'pieces', 'routes'],
  routes: ['adapters', 'forms', 'live', 'pieces', 'workers'],
  workers: ['adapters'],
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

/** The files of the rooms at a place that are no tests, with the room of each. */
function roomFiles(place: string): (SourceFile & { readonly room: string })[] {
  return sources(place)
    .filter(({ path }) => !path.includes('.test.') && !path.includes(`${sep}testing${sep}`))
    .filter(({ path }) => relative(place, path).includes(sep))
    .map((file) => ({ ...file, room: relative(place, file.path).split(sep)[0] ?? '' }));
}

describe.each([
  ['apps/server/src', SERVER_ARROWS],
  ['packages/core/src', CORE_ARROWS],
  ['apps/web/src', WEB_ARROWS],
])('the rooms of %s', (place, arrows) => {
  const files = roomFiles(place);

  it('are all listed', () =>
    expect([...new Set(files.map(({ room }) => room))].sort()).toEqual(Object.keys(arrows).sort()));

  it.each(Object.entries(arrows))('%s imports only along its arrows', (room, allowed) => {
    const wrong = files
      .filter((file) => file.room === room)
      .flatMap(({ path, imports }) =>
        imports
          .filter((name) => name.startsWith('.'))
          .map((name) => relative(place, join(path, '..', name)).split(sep))
          // What lies beside the rooms belongs to none.
          .filter((parts) => parts.length > 1 && parts[0] !== room && !allowed.includes(parts[0] ?? ''))
          .map((parts) => `${path}: ${parts.join('/')}`),
      );
    expect(wrong).toEqual([]);
  });

  it('do not stand in a circle', () => expect(circles(new Map(Object.entries(arrows)))).toEqual([]));
});

describe('apps/web routes', () => {
  it('do not import one another, in whatever form', () => {
    const place = 'apps/web/src/routes';
    const wrong = roomFiles(place).flatMap(({ path, room, imports }) =>
      imports
        .filter((name) => name.startsWith('.'))
        .map((name) => relative(place, join(path, '..', name)).split(sep)[0] ?? '')
        .filter((other) => other !== '..' && other !== room)
        .map((other) => `${path}: ${other}`),
    );
    expect(wrong).toEqual([]);
  });
});

describe('files', () => {
  it('do not import one another in a circle', () => {
    const all = Object.keys(ARROWS).flatMap((place) => sources(place));
    const imports = readImports(
      __dirname,
      all.map(({ path }) => path),
    );
    expect(circles(imports)).toEqual([]);
  });

  it('would be told of a circle', () => {
    const graph = new Map([
      ['a', ['b']],
      ['b', ['c', 'd']],
      ['c', ['a']],
      ['d', ['d2']],
    ]);
    expect(circles(graph)).toEqual([['a', 'b', 'c']]);
  });
});

/** Each group whose members can all be reached from one another, once, sorted. */
function circles(graph: ReadonlyMap<string, readonly string[]>): string[][] {
  const reach = new Map([...graph.keys()].map((from) => [from, reachedFrom(from, graph)]));
  const found = new Map<string, string[]>();
  for (const [from, there] of reach) {
    if (!there.has(from)) continue;
    const group = [...there].filter((other) => reach.get(other)?.has(from)).sort();
    found.set(group.join(' '), group);
  }
  return [...found.values()];
}

function reachedFrom(from: string, graph: ReadonlyMap<string, readonly string[]>): Set<string> {
  const there = new Set(graph.get(from));
  // A Set gives what is added while it is gone through.
  for (const one of there) for (const next of graph.get(one) ?? []) there.add(next);
  return there;
}

describe('packages/core', () => {
  it('knows no clock, no dice and no platform', () => {
    const impure = sources('packages/core/src')
      .filter(({ path }) => !path.endsWith('.test.ts'))
      .filter(({ text }) => IMPURE.test(text))
      .map(({ path }) => path);
    expect(impure).toEqual([]);
  });
});
