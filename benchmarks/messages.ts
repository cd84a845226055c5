import { createServer, type AddressInfo, type Socket } from 'node:net';
import pg from 'pg';
import { runTrial } from '@mistpeak/core/message-trial/trial';
import { seededDice } from '@mistpeak/core/network/dice';
import { Timetable } from '@mistpeak/core/network/timetable';
import { INTERNET_SIDE } from '@mistpeak/contract/frame';
import { bareInsert } from './ingest.js';
import { Station } from './station.js';

const SECONDS = 20;
/** At most this many lines on their way. */
const WINDOW = 5000;
const STATIONS = 300;

/** Trials of two books of messages, and lines of the internet side into PostgreSQL. */
export async function messagesBenchmark(): Promise<void> {
  trials();
  const station = await Station.up();
  const rate = await readLines(station);
  const bare = await bareInsert(station.databaseUrl);
  await station.down();
  console.log(
    `  lines of the internet side stored: ${Math.round(rate)}/s for ${SECONDS} s (aim 5000/s), a bare INSERT ${Math.round(bare)} rows/s: ratio ${(rate / bare).toFixed(2)}`,
  );
}

/** Against a bare timetable with as many appointments as a trial has events. */
function trials(): void {
  const many = 300;
  const begun = performance.now();
  let faults = 0;
  for (let seed = 1; seed <= many; seed++) faults += runTrial(seed).faults.length;
  const ours = many / ((performance.now() - begun) / 1000);
  const EVENTS = 300;
  const plainBegun = performance.now();
  for (let seed = 1; seed <= many; seed++) {
    const dice = seededDice(seed);
    const clock = new Timetable();
    for (let i = 0; i < EVENTS; i++) clock.after(dice() * 1000, () => undefined);
    clock.advance(1000);
  }
  const plain = many / ((performance.now() - plainBegun) / 1000);
  console.log(
    `  ${Math.round(ours)} seeds/s of two books over a bad channel with crashes, ${faults} faults; a bare timetable of ${EVENTS} appointments ${Math.round(plain)}/s: ratio ${(ours / plain).toFixed(2)}`,
  );
}

async function readLines({ address, databaseUrl }: Station): Promise<number> {
  const sockets: Socket[] = [];
  const server = createServer((socket) => {
    sockets.push(socket);
    socket.on('error', () => socket.destroy());
    socket.write('# a server of the benchmark\r\n');
    socket.once('data', () => socket.write('# logresp 1X9TST verified, server BENCH1\r\n'));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const settings = {
    isOn: true,
    host: '127.0.0.1',
    port: (server.address() as AddressInfo).port,
    call: '1X9TST',
    isVerified: true,
    filter: '',
    sends: false,
  };
  const answer = await fetch(`${address}/api/v1/internet/settings`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(settings),
  });
  if (!answer.ok) throw new Error(await answer.text());
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const count = async (): Promise<number> => {
    const { rows } = await client.query<{ sum: string | null }>(
      'SELECT sum(count) FROM tally WHERE link_id = $1',
      [INTERNET_SIDE],
    );
    return Number(rows[0]?.sum ?? 0);
  };
  while ((await (await fetch(`${address}/api/v1/internet`)).text()).includes('"phase":"in"') === false)
    await new Promise((resolve) => setTimeout(resolve, 50));
  let [sent, stored] = [0, 0];
  const begun = performance.now();
  while (performance.now() - begun < SECONDS * 1000) {
    const room = Math.max(0, WINDOW - (sent - stored));
    const lines = Array.from({ length: room }, () => lineOf(sent++)).join('');
    if (lines !== '') sockets[0]?.write(lines);
    stored = await count();
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  while (stored < sent) stored = await count();
  const rate = sent / ((performance.now() - begun) / 1000);
  await client.end();
  sockets.forEach((socket) => socket.destroy());
  server.close();
  return rate;
}

const lineOf = (i: number): string =>
  `1X9C${String(i % STATIONS)
    .padStart(2, '0')
    .slice(
      -2,
    )}-9>APZMPK,1X9DIG*,qAR,1X9GTE-10:!2935.${String(i % 100).padStart(2, '0')}S/01122.20W>038/018line ${i}\r\n`;
