import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { connect, createServer, type AddressInfo, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { seededDice } from '@mistpeak/core/network/dice';
import { computedParameters, termsOf } from '@mistpeak/core/throughput/session-parameters';
import { throughput } from '@mistpeak/core/throughput/throughput';
import type { SessionView } from '@mistpeak/contract/sessions';
import { ConnectedEnd } from '@mistpeak/standins/connected/connected-end';
import { RadioChannel, type RadioSet } from '@mistpeak/standins/radio-channel/radio-channel';
import { KissTnc } from '@mistpeak/standins/tnc/kiss-tnc';
import { systemClock } from '@mistpeak/standins/world/system-clock';
import type { Child } from '../apps/launcher/src/child.js';
import { Cluster } from '../apps/launcher/src/cluster.js';
import { startServer } from '../apps/launcher/src/run.js';
import { BENCHMARK_CALL } from './station.js';

const LINK = { airRate: 1200, txDelayMs: 300, txTailMs: 20, persistence: 0.25, slotTimeMs: 100 };
/** As the island's stations: a stand-in takes demo calls and no others need be used. */
const FAR = '1X9FAR';
const OCTETS = 8000;
const KEYSTROKES = 8;
const KILLS = 5;

/** A channel on which every receiver loses that share of the frames. */
class LossyChannel extends RadioChannel {
  loss = 0;
  private readonly throws = seededDice(2);

  override attach(set: RadioSet): void {
    const hear = set.hear?.bind(set);
    if (!hear) return super.attach(set);
    super.attach({
      name: set.name,
      hear: (raw) => (this.throws() >= this.loss ? hear(raw) : undefined),
    });
  }
}

/**
 * The terminal's whole path, in real time at 1200 Bd: page's request, server, database, KISS, channel, far end, and back. Its
 * throughput against core's own reckoning; a keystroke's way to the wire against a bare request; and kill -9.
 */
export async function terminalBenchmark(): Promise<void> {
  const rig = await Rig.up();
  try {
    for (const [loss, aim] of [
      [0, 90],
      [0.1, 75],
    ] as const)
      await rig.measure(loss, aim);
    await rig.keystrokes();
    await rig.kills();
  } finally {
    await rig.down();
  }
}

class Rig {
  private readonly channel = new LossyChannel(systemClock, seededDice(7), () => -60);
  private readonly tnc = new KissTnc({
    channel: this.channel,
    clock: systemClock,
    dice: seededDice(3),
    name: 'operator',
  });
  private readonly far: ConnectedEnd;
  private heard = 0;
  private heardText = '';
  private lastHeardMs = 0;
  private wireAtMs: number | undefined;
  private tap!: Server;
  private server!: Child & { readonly port: number };
  private linkId = '';

  private constructor(
    private readonly folder: string,
    private readonly cluster: Cluster,
    private readonly databaseUrl: string,
  ) {
    this.far = new ConnectedEnd(this.channel, systemClock, FAR, () => ({ line: (text) => this.note(text) }));
  }

  static async up(): Promise<Rig> {
    const folder = mkdtempSync(join(tmpdir(), 'mistpeak-benchmark-'));
    chmodSync(folder, 0o755);
    const cluster = new Cluster(folder);
    const rig = new Rig(folder, cluster, await cluster.start());
    const port = await rig.listen(await rig.tnc.listen(0));
    await rig.startServer();
    await rig.ask('PUT', '/operator', OPERATOR);
    const link = { name: 'benchmark', kind: 'network', host: '127.0.0.1', port, ...LINK };
    rig.linkId = (await rig.ask<{ id: string }>('POST', '/links', link)).id;
    await rig.ask('POST', `/links/${rig.linkId}/open`);
    await rig.arm();
    return rig;
  }

  async down(): Promise<void> {
    await this.server.stop();
    this.far.end();
    this.tap.close();
    await this.tnc.close();
    this.cluster.remove();
    rmSync(this.folder, { recursive: true, force: true });
  }

  async measure(loss: number, aim: number): Promise<void> {
    this.channel.loss = loss;
    const id = await this.call();
    this.heard = 0;
    const begunMs = performance.now();
    // Lines, so that the far end hands them on as they come.
    const text = `${'x'.repeat(99)}\r`.repeat(OCTETS / 100);
    await this.say(id, text);
    await until(() => this.heard >= OCTETS);
    const rate = (1000 * OCTETS) / (this.lastHeardMs - begunMs);
    const { parameters, quality } = await this.view(id);
    const choice = { packetOctets: parameters.packetOctets, window: parameters.window8 };
    const reckoned = throughput({ ...termsOf(LINK, 0, false), frameLoss: loss }, choice);
    console.log(
      `  ${OCTETS} octets at ${Math.round(loss * 100)} % loss: ${rate.toFixed(0)} octets/s, core reckons ${reckoned.toFixed(0)}: ${Math.round((100 * rate) / reckoned)} % (aim ${aim} %); ${quality.framesResent} of ${quality.framesSent} frames sent again`,
    );
    this.channel.loss = 0;
    await this.end(id);
  }

  async keystrokes(): Promise<void> {
    const id = await this.call();
    const taken: number[] = [];
    const bare: number[] = [];
    for (let i = 0; i < KEYSTROKES; i++) {
      await pause(4000);
      const bareMs = performance.now();
      await this.ask('GET', '/beacon');
      bare.push(performance.now() - bareMs);
      this.wireAtMs = undefined;
      const pressedMs = performance.now();
      await this.say(id, 'x');
      await until(() => this.wireAtMs !== undefined);
      taken.push((this.wireAtMs ?? 0) - pressedMs);
    }
    const [key, request] = [median(taken), median(bare)];
    console.log(
      `  keystroke to wire: ${key.toFixed(1)} ms (aim 30), a bare request ${request.toFixed(1)} ms: ratio ${(key / request).toFixed(1)}; the longest of ${KEYSTROKES}: ${Math.max(...taken).toFixed(1)} ms`,
    );
    await this.end(id);
  }

  /** Nothing that the page was shown as acknowledged is missing at the far end, and nothing acknowledged is missing here. */
  async kills(): Promise<void> {
    let faults = 0;
    for (let i = 0; i < KILLS; i++) {
      const id = await this.call();
      this.heardText = '';
      const lines = Array.from(
        { length: 40 },
        (_, line) => `${String(line).padStart(4, '0')}${'y'.repeat(45)}`,
      );
      await this.say(id, lines.map((line) => `${line}\r`).join(''));
      await pause(6000 + i * 1500);
      const shown = (await this.view(id)).confirmedOctets;
      this.server.process.kill('SIGKILL');
      await pause(500);
      await this.startServer();
      await until(async () => (await this.view(id)).endedAtMs !== undefined);
      const kept = await this.view(id);
      const arrived = this.heardText.length;
      if (shown > arrived || kept.confirmedOctets - lostOf(kept) > arrived) faults++;
      if (
        !lines
          .map((line) => `${line}\r`)
          .join('')
          .startsWith(this.heardText)
      )
        faults++;
      await until(() =>
        this.arm().then(
          () => true,
          () => false,
        ),
      );
      // The far end is told that the link is over, and this end hears that it was.
      await until(() => !this.far.isBusy());
      await pause(4000);
    }
    const client = new pg.Client({ connectionString: this.databaseUrl });
    await client.connect();
    const { rows } = await client.query<{ lost: string }>(
      "SELECT count(*) AS lost FROM session WHERE view->>'outcome' LIKE 'lost:%'",
    );
    await client.end();
    console.log(
      `  ${KILLS} times kill -9 in mid-session: ${faults} faulty (aim 0), ${rows[0]?.lost} told as lost, the far end let go of each time`,
    );
    if (faults > 0) process.exitCode = 1;
  }

  private note(text: string): void {
    this.heard += text.length + 1;
    this.heardText += `${text}\r`;
    this.lastHeardMs = performance.now();
  }

  /** Between server and TNC, so that the moment of writing is seen. */
  private listen(tncPort: number): Promise<number> {
    this.tap = createServer((socket) => {
      const far = connect(tncPort, '127.0.0.1');
      socket.setNoDelay(true);
      socket.on('data', (octets: Buffer) => {
        this.wireAtMs ??= performance.now();
        far.write(octets);
      });
      far.pipe(socket);
      for (const [one, other] of [
        [socket, far],
        [far, socket],
      ] as const) {
        one.on('error', () => one.destroy());
        one.on('close', () => other.destroy());
      }
    });
    return new Promise((resolve) =>
      this.tap.listen(0, '127.0.0.1', () => resolve((this.tap.address() as AddressInfo).port)),
    );
  }

  private async startServer(): Promise<void> {
    this.server = await startServer({
      MISTPEAK_DATABASE_URL: this.databaseUrl,
      MISTPEAK_PORT: '0',
      MISTPEAK_TRUSTS_LOOPBACK: '1',
    });
  }

  private arm(): Promise<unknown> {
    return this.ask('PUT', `/links/${this.linkId}/lock`, { call: BENCHMARK_CALL });
  }

  private async call(): Promise<string> {
    const { id } = await this.ask<SessionView>('POST', '/sessions', {
      from: BENCHMARK_CALL,
      to: FAR,
      via: '',
      linkId: this.linkId,
      parameters: computedParameters(LINK, 0),
    });
    await until(async () => (await this.view(id)).phase === 'connected');
    return id;
  }

  private view(id: string): Promise<SessionView> {
    return this.ask<SessionView>('GET', `/sessions/${id}`);
  }

  private say(id: string, text: string): Promise<unknown> {
    return this.ask('POST', `/sessions/${id}/say`, { base64: Buffer.from(text).toString('base64') });
  }

  private async end(id: string): Promise<void> {
    await this.ask('POST', `/sessions/${id}/disconnect`);
    await until(async () => (await this.view(id)).endedAtMs !== undefined);
    await until(() => !this.far.isBusy());
  }

  private async ask<Answer>(method: string, path: string, body?: unknown): Promise<Answer> {
    const response = await fetch(`http://127.0.0.1:${this.server.port}/api/v1${path}`, {
      method,
      headers: {
        'command-id': randomUUID(),
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    if (!response.ok) throw new Error(`${method} ${path}: ${text}`);
    return (text === '' ? undefined : JSON.parse(text)) as Answer;
  }
}

const OPERATOR = {
  call: BENCHMARK_CALL,
  region: 'europe-africa',
  units: 'metric',
  coordinates: 'decimal',
  place: '29.6 S 11.4 W',
};

const lostOf = ({ lost }: SessionView): number =>
  lost.reduce((sum, { fromOctet, toOctet }) => sum + toOctet - fromOctet, 0);

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

async function until(isSo: () => boolean | Promise<boolean>): Promise<void> {
  for (const begunMs = performance.now(); performance.now() - begunMs < 300_000; await pause(5))
    if (await isSo()) return;
  throw new Error('it did not come');
}

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1] ?? NaN;
