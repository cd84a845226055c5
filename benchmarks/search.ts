import pg from 'pg';
import { encodeFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import type { SearchPage } from '@mistpeak/contract/search';
import { Station } from './station.js';

const FRAMES = Number(process.env.SEARCH_FRAMES ?? 10_000_000);
const STATIONS = 300;
const DAYS = 90;
const DAY_MS = 86_400_000;
const TEMPLATES = 3000;
const ASKED = 15;

const letters = (i: number): string =>
  [i % 26, Math.floor(i / 26) % 26].map((at) => String.fromCharCode(65 + at)).join('');

/** As many kinds of report as a channel has, of many stations; what follows is appended to each. */
function templates(): Buffer[] {
  return Array.from({ length: TEMPLATES }, (_, i) => {
    const call = `QH${i % 10}${letters(i % STATIONS)}A-${i % 15}`;
    const path = i % 3 === 0 ? 'WIDE1-1,WIDE2-1' : i % 3 === 1 ? 'QH1TOP*,WIDE2-1' : 'QH1ANR,QH1TOP*';
    const minutes = String(i % 60).padStart(2, '0');
    const says = ['supplies for hide', 'cliff team walking', 'counting from the water', 'cart on the road'][
      i % 4
    ];
    const line = `${call}>APZMPK,${path}:!29${minutes}.20S/011${minutes}.20W>${says}`;
    return Buffer.from(encodeFrame(parseMonitorText(line) as Ax25Frame));
  });
}

/** The first hundred of all that is kept, newest first, for words that are frequent, rare, of long ago and nowhere. */
export async function searchBenchmark(): Promise<void> {
  const station = await Station.up();
  const client = new pg.Client({ connectionString: station.databaseUrl });
  await client.connect();
  const endMs = Date.now() - 60_000;
  const beginMs = endMs - DAYS * DAY_MS;
  const filled = performance.now();
  await fill(client, beginMs, endMs);
  console.log(`  ${FRAMES} frames in ${((performance.now() - filled) / 1000).toFixed(0)} s`);
  await untilBuilt(client, endMs);
  const size = await client.query<{ size: string }>(
    `SELECT pg_size_pretty(pg_total_relation_size('record_stretch')) AS size`,
  );
  const whole = await client.query<{ size: string }>(
    `SELECT pg_size_pretty(sum(pg_total_relation_size(inhrelid))) AS size FROM pg_inherits WHERE inhparent = 'frames'::regclass`,
  );
  console.log(`  stretches hold ${size.rows[0]?.size}, frames ${whole.rows[0]?.size}`);
  const bare = await times(() =>
    fetch(`${station.address}/api/v1/frames?limit=100`).then((answer) => answer.json()),
  );
  console.log(`  the last hundred, without a word: ${bare}`);
  for (const [what, query] of [
    ['a frequent word', 'words=cart'],
    ['a frequent call', 'words=qh3'],
    ['two words', 'words=cliff walking'],
    ['a word of long ago', 'words=heron'],
    ['a rare word', 'words=gannet'],
    ['a station, by its call', 'station=QH0AAA'],
    ['a number', 'words=no1234567'],
    ['a word that is nowhere', 'words=albatross'],
  ] as const) {
    let found = 0;
    const took = await times(async () => {
      const answer = await fetch(`${station.address}/api/v1/record/search?${encodeURI(query)}`);
      found = ((await answer.json()) as SearchPage).frames.length;
    });
    console.log(`  ${what} (${query}): ${found} found, ${took} (aim 200)`);
  }
  await client.end();
  await station.down();
}

async function times(ask: () => Promise<unknown>): Promise<string> {
  const all: number[] = [];
  for (let i = 0; i < ASKED; i++) {
    const begun = performance.now();
    await ask();
    all.push(performance.now() - begun);
  }
  all.sort((a, b) => a - b);
  return `median ${all[Math.floor(ASKED / 2)]?.toFixed(0)} ms, worst ${all.at(-1)?.toFixed(0)} ms`;
}

async function fill(client: pg.Client, beginMs: number, endMs: number): Promise<void> {
  await client.query('CREATE TEMP TABLE template (i int PRIMARY KEY, raw bytea)');
  await client.query('INSERT INTO template SELECT i, raw FROM unnest($1::int[], $2::bytea[]) AS t (i, raw)', [
    [...Array(TEMPLATES).keys()],
    templates(),
  ]);
  for (let ms = beginMs; ms <= endMs + 31 * DAY_MS; ms += DAY_MS) {
    const from = new Date(ms).toISOString().slice(0, 7);
    const next = new Date(Date.UTC(Number(from.slice(0, 4)), Number(from.slice(5)), 1))
      .toISOString()
      .slice(0, 7);
    await client.query(
      `CREATE TABLE IF NOT EXISTS frames_${from.replace('-', '_')} PARTITION OF frames
       FOR VALUES FROM ('${from}-01T00:00:00Z') TO ('${next}-01T00:00:00Z')`,
    );
  }
  const stepMs = (endMs - beginMs) / FRAMES;
  // A heron in the first tenth only, a gannet four times in all.
  await client.query(
    `INSERT INTO frames (id, heard_at, link_id, direction, port, raw)
     SELECT ('00000000-0000-7000-8000-' || lpad(to_hex(n), 12, '0'))::uuid,
            to_timestamp(($1::float8 + n * $2::float8) / 1000), '00000000-0000-4000-8000-000000000009', 'heard', 0,
            raw || convert_to(' no' || n || CASE WHEN n < $3::bigint / 10 AND n % 7 = 0 THEN ' heron' ELSE '' END
              || CASE WHEN n % ($3::bigint / 4) = 99 THEN ' gannet' ELSE '' END, 'LATIN1')
     FROM generate_series(0, $3::bigint - 1) AS n JOIN template ON template.i = (n * 7919) % ${TEMPLATES}`,
    [beginMs, stepMs, FRAMES],
  );
  await client.query('ANALYZE frames');
}

async function untilBuilt(client: pg.Client, endMs: number): Promise<void> {
  const begun = performance.now();
  for (;;) {
    const { rows } = await client.query<{ to_at: Date | null }>(
      'SELECT max(to_at) AS to_at FROM record_stretch',
    );
    // What is left is less than one stretch.
    if ((rows[0]?.to_at?.getTime() ?? 0) > endMs - (600 * DAYS * DAY_MS) / FRAMES) break;
    await new Promise((resolve) => setTimeout(resolve, 1000));
  }
  const seconds = (performance.now() - begun) / 1000;
  console.log(`  stretches made in ${seconds.toFixed(0)} s, ${Math.round(FRAMES / seconds)} frames/s`);
}
