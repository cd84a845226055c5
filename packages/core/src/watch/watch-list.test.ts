import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { dutyLogCsv, dutyLogMarkdown, dutyWords, type DutyEntry } from './duty-log.js';
import {
  formatWatchList,
  MOST_WATCHED,
  readLegs,
  readWatchList,
  watchedOf,
  type WatchLine,
} from './watch-list.js';

const DAY = Date.UTC(2026, 3, 18, 9, 30);
const LINE: WatchLine = {
  call: 'QH7CTD-9',
  label: 'Cart D, "peak"',
  group: 'carts',
  contact: '145.500, then 999 0104',
  everyMin: 5,
  stillMin: 30,
  leg: 'peak track',
  offM: 400,
  finish: '29.5684 S 11.4361 W',
  finishRadiusM: 250,
  dueAtMs: Date.UTC(2026, 3, 18, 15, 30),
};

describe('the list as CSV', () => {
  it('is read back as it was written', () => {
    const { stillMin: _, dueAtMs: __, ...plain } = LINE;
    const lines = [LINE, { ...plain, call: 'H3', leg: '', finish: '' }];
    expect(readWatchList(formatWatchList(lines), DAY)).toEqual(lines);
  });

  it('needs no more than the calls, in any order of columns, with semicolons and a mark before it', () => {
    expect(readWatchList('\uFEFFLabel; CALL ;due\nBoat B;qh8btb-8;7:05\n\n', DAY)).toEqual([
      {
        call: 'QH8BTB-8',
        label: 'Boat B',
        group: '',
        contact: '',
        everyMin: 10,
        leg: '',
        offM: 500,
        finish: '',
        finishRadiusM: 300,
        dueAtMs: Date.UTC(2026, 3, 18, 7, 5),
      },
    ]);
  });

  it.each([
    ['label\nCart A', /name the columns/],
    ['call,label\n', /no line but the names/],
    ['call,label\n,Cart A', /line 2: the call is missing/],
    ['call,label\nA,\nB,\nA,', /line 4: A is there twice/],
    ['call,every_min\nA,0', /line 2: every_min ‘0’ is no number above 0/],
    ['call,off_m\nA,far', /off_m ‘far’/],
    ['call,still_min\nA,-1', /still_min ‘-1’/],
    ['call,finish_radius_m\nA,x', /finish_radius_m/],
    ['call,due\nA,tea', /line 2: due ‘tea’ is no time/],
    ['call,finish\nA,there', /line 2: write the place as/],
    [`call\n${Array.from({ length: MOST_WATCHED + 1 }, (_, i) => `Q${i}`).join('\n')}`, /more than 500/],
  ])('refuses %j with its line', (text, reason) => {
    const lines = readWatchList(text, DAY);
    expect(isMalformed(lines) && lines.malformed).toMatch(reason);
  });

  it('nothing crashes it', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        readWatchList(`call,due,finish\n${text}`, DAY);
        readLegs(text, 'x');
        readLegs(`{"type":"Polygon","coordinates":${text}}`, 'x');
      }),
    );
  });

  it('becomes whom the desk looks after; the leg by its name, minutes as milliseconds', () => {
    const leg = { name: 'peak track', kind: 'route' as const, points: [] };
    expect(watchedOf(LINE, [{ ...leg, name: 'other' }, leg])).toEqual({
      call: 'QH7CTD-9',
      label: 'Cart D, "peak"',
      group: 'carts',
      contact: '145.500, then 999 0104',
      everyMs: 300_000,
      stillMs: 1_800_000,
      offM: 400,
      leg,
      finish: {
        place: { latitudeDeg: -29.5684, longitudeDeg: -11.4361 },
        radiusM: 250,
        dueAtMs: LINE.dueAtMs,
      },
    });
    const bare = watchedOf(
      {
        call: 'A',
        label: '',
        group: '',
        contact: '',
        everyMin: 1,
        leg: 'none',
        offM: 1,
        finish: 'nowhere',
        finishRadiusM: 1,
      },
      [leg],
    );
    expect([bare.leg, bare.finish, bare.stillMs]).toEqual([undefined, undefined, undefined]);
  });
});

describe('legs from files', () => {
  const line = [
    [-11.4, -29.6],
    [-11.41, -29.61, 300],
  ];
  const ring = [...line, [-11.42, -29.6], line[0]];
  const feature = (type: string, coordinates: unknown, name?: string) => ({
    type: 'Feature',
    properties: name === undefined ? null : { name },
    geometry: { type, coordinates },
  });

  it('lines are routes, rings are areas, each by its name', () => {
    const features = [
      feature('LineString', line, 'peak track'),
      feature('Polygon', [ring, ring], 'bay'),
      feature('MultiLineString', [line, line]),
      feature('MultiPolygon', [[ring]], 'bay'),
      feature('Point', line[0], 'hut'),
    ];
    const legs = readLegs(JSON.stringify({ type: 'FeatureCollection', features }), 'day 2');
    expect(
      isMalformed(legs) ? legs : legs.map(({ name, kind, points }) => [name, kind, points.length]),
    ).toEqual([
      ['peak track', 'route', 2],
      ['bay', 'area', 3],
      ['day 2', 'route', 2],
      ['day 2 (2)', 'route', 2],
      ['bay (2)', 'area', 3],
    ]);
    expect(!isMalformed(legs) && legs[0]?.points[1]).toEqual({ latitudeDeg: -29.61, longitudeDeg: -11.41 });
  });

  it('a bare geometry does, and so does GPX', () => {
    expect(readLegs(JSON.stringify({ type: 'LineString', coordinates: line }), 'way')).toMatchObject([
      { name: 'way' },
    ]);
    const gpx =
      '<gpx><rte><name>ridge</name><rtept lat="-29.6" lon="-11.4"/><rtept lat="-29.5" lon="-11.4"/></rte></gpx>';
    expect(readLegs(gpx, 'file')).toEqual([
      {
        name: 'ridge',
        kind: 'route',
        points: [
          { latitudeDeg: -29.6, longitudeDeg: -11.4 },
          { latitudeDeg: -29.5, longitudeDeg: -11.4 },
        ],
      },
    ]);
  });

  it.each([
    ['nothing', /neither GPX nor GeoJSON/],
    ['{"type":"Point","coordinates":[0,0]}', /no line and no area/],
    ['{"type":"LineString","coordinates":[[0,91]]}', /\[0,91\] is no place/],
    ['{"type":"LineString","coordinates":[]}', /no coordinates/],
    ['<kml/>', /no GPX file/],
  ])('refuses %s', (text, reason) => {
    const legs = readLegs(text, 'x');
    expect(isMalformed(legs) && legs.malformed).toMatch(reason);
  });
});

describe('the duty log', () => {
  const entries: DutyEntry[] = [
    { id: '1', atMs: DAY, kind: 'begun', words: '' },
    {
      id: '2',
      atMs: DAY + 1000,
      kind: 'raised',
      call: 'QH7CTD-9',
      label: 'Cart D',
      need: 'overdue',
      words: '',
    },
    { id: '3', atMs: DAY + 2000, kind: 'message', call: 'QH8CLA-7', words: '=12 gannets | all\nwell' },
  ];

  it('speaks of alarms in words', () => {
    expect(entries.map(dutyWords)).toEqual([
      'watch begun',
      'alarm: is overdue',
      'message – =12 gannets | all\nwell',
    ]);
  });

  it('as CSV, what looks like a formula being none', () => {
    expect(dutyLogCsv(entries).split('\r\n')).toEqual([
      'time,call,label,what,alarm,words',
      '2026-04-18T09:30:00.000Z,,,watch begun,,',
      '2026-04-18T09:30:01.000Z,QH7CTD-9,Cart D,alarm,overdue,',
      `2026-04-18T09:30:02.000Z,QH8CLA-7,,message,,"'=12 gannets | all well"`,
      '',
    ]);
  });

  it('as a table of Markdown', () => {
    expect(dutyLogMarkdown('Seabird Count', entries)).toBe(
      [
        '# Duty log: Seabird Count',
        '',
        '| UTC | who | what |',
        '|---|---|---|',
        '| 2026-04-18 09:30:00 |  | watch begun |',
        '| 2026-04-18 09:30:01 | Cart D, QH7CTD-9 | alarm: is overdue |',
        '| 2026-04-18 09:30:02 | QH8CLA-7 | message – =12 gannets \\| all well |',
        '',
      ].join('\n'),
    );
  });
});
