import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { toLatin1 } from '@mistpeak/core/bits/octets';
import { compress } from '@mistpeak/core/lzhuf/lzhuf';
import { runMailTrial } from '@mistpeak/core/mail-trial/trial';
import { seededDice } from '@mistpeak/core/network/dice';
import { computedParameters, termsOf } from '@mistpeak/core/throughput/session-parameters';
import { throughput } from '@mistpeak/core/throughput/throughput';
import type { MailRow } from '@mistpeak/contract/mail';
import type { MailDesk, MailRunDetail, MailRunView } from '@mistpeak/contract/mail-session';
import { ConnectedEnd } from '@mistpeak/standins/connected/connected-end';
import { MailServer } from '@mistpeak/standins/mail/mail-server';
import { MailService } from '@mistpeak/standins/mail/mail-service';
import { RadioChannel } from '@mistpeak/standins/radio-channel/radio-channel';
import { KissTnc } from '@mistpeak/standins/tnc/kiss-tnc';
import { systemClock } from '@mistpeak/standins/world/system-clock';
import type { Child } from '../apps/launcher/src/child.js';
import { Cluster } from '../apps/launcher/src/cluster.js';
import { startServer } from '../apps/launcher/src/run.js';
import { BENCHMARK_CALL } from './station.js';

const LINK = { airRate: 1200, txDelayMs: 300, txTailMs: 20, persistence: 0.25, slotTimeMs: 100 };
const GATEWAY = '1X9GTE-10';
const PASSWORD = 'benchmark';
const SEEDS = 1000;
const KEPT = 10_000;
const IMPORTED_AT_ONCE = 2000;
const KILLS = 10;
const [BY_RADIO, BY_TCP] = [randomUUID(), randomUUID()];

/** Packing beside a general library; the exchange by its seeds; a session beside its link; the box; kill -9. */
export async function mailBenchmark(): Promise<void> {
  packing();
  trials();
  const rig = await Rig.up();
  try {
    await rig.session();
    await rig.searches();
    await rig.kills();
  } finally {
    await rig.down();
  }
}

/** A day's letters of the count: words, numbers, and a share of what does not pack. */
function letters(octets: number): Uint8Array {
  const dice = seededDice(11);
  const words = [
    'terns',
    'gannets',
    'on',
    'nests',
    'fog',
    'since',
    'four',
    'hide',
    'lamps',
    'the',
    'cart',
    'comes',
    'at',
    'soup',
    'ridge',
  ];
  let text = '';
  while (text.length < octets)
    text +=
      dice() < 0.1
        ? `${Math.floor(dice() * 1e6).toString(36)} `
        : `${words[Math.floor(dice() * words.length)]}${dice() < 0.12 ? '.\r\n' : ' '}`;
  return new Uint8Array(Buffer.from(text.slice(0, octets), 'latin1'));
}

function packing(): void {
  const plain = letters(2_000_000);
  compress(plain.subarray(0, 200_000));
  const timed = (work: () => { length: number }): { ms: number; octets: number } => {
    const beganMs = performance.now();
    const { length: octets } = work();
    return { ms: performance.now() - beganMs, octets };
  };
  const ours = timed(() => compress(plain));
  const general = timed(() => deflateRawSync(plain));
  const rate = (ms: number): number => plain.length / 1000 / ms;
  console.log(
    `  LZHUF packs ${rate(ours.ms).toFixed(2)} MB/s (aim 1) to ${((100 * ours.octets) / plain.length).toFixed(1)} %; deflate ${rate(general.ms).toFixed(1)} MB/s to ${((100 * general.octets) / plain.length).toFixed(1)} %: ratio ${(general.ms / ours.ms).toFixed(2)}`,
  );
}

function trials(): void {
  const found = Array.from({ length: SEEDS }, (_, i) => runMailTrial(i + 1));
  const faulty = found.filter(({ faults }) => faults.length > 0).length;
  const sum = (of: 'delivered' | 'broken' | 'crashes' | 'resumed'): number =>
    found.reduce((all, one) => all + one[of], 0);
  console.log(
    `  ${SEEDS} seeds of the exchange: ${faulty} faulty (aim 0); ${sum('delivered')} letters, ${sum('broken')} links broken, ${sum('crashes')} ends killed, ${sum('resumed')} letters went on where they broke`,
  );
  if (faulty > 0) process.exitCode = 1;
}

class Rig {
  private readonly channel = new RadioChannel(systemClock, seededDice(7), () => -60);
  private readonly tnc = new KissTnc({
    channel: this.channel,
    clock: systemClock,
    dice: seededDice(3),
    name: 'operator',
  });
  private readonly service = new MailService(systemClock, seededDice(5));
  private readonly mailServer = new MailServer(this.service);
  private readonly gateway: ConnectedEnd;
  private server!: Child & { readonly port: number };
  private mailPort = 0;
  private linkId = '';

  private constructor(
    private readonly folder: string,
    private readonly cluster: Cluster,
    private readonly databaseUrl: string,
  ) {
    this.service.open(BENCHMARK_CALL, PASSWORD);
    this.gateway = new ConnectedEnd(this.channel, systemClock, GATEWAY, (caller, line) => {
      let session: ReturnType<MailService['session']> | undefined;
      return {
        connected: () =>
          void (session = this.service.session(GATEWAY, caller, {
            say: (octets) => line.ask(toLatin1(octets)),
            hangUp: line.hangUp,
          })),
        data: (octets) => session?.hear(octets),
        confirmed: () => session?.moved(),
        line: () => undefined,
        ended: () => session?.lost(),
      };
    });
  }

  static async up(): Promise<Rig> {
    const folder = mkdtempSync(join(tmpdir(), 'mistpeak-benchmark-'));
    chmodSync(folder, 0o755);
    const cluster = new Cluster(folder);
    const rig = new Rig(folder, cluster, await cluster.start());
    rig.mailPort = await rig.mailServer.listen(0);
    await rig.startServer();
    await rig.ask('PUT', '/operator', {
      call: BENCHMARK_CALL,
      region: 'europe-africa',
      units: 'metric',
      coordinates: 'decimal',
      place: '29.632 S 11.405 W',
    });
    const link = {
      name: 'benchmark',
      kind: 'network',
      host: '127.0.0.1',
      port: await rig.tnc.listen(0),
      ...LINK,
    };
    rig.linkId = (await rig.ask<{ id: string }>('POST', '/links', link)).id;
    await rig.ask('POST', `/links/${rig.linkId}/open`);
    const { settings } = await rig.ask<MailDesk>('GET', '/mail');
    const usual = { from: BENCHMARK_CALL, exchanges: 'both', tries: 3 };
    await rig.ask('PUT', '/mail/settings', {
      ...settings,
      version: undefined,
      profiles: [
        {
          ...usual,
          id: BY_RADIO,
          name: 'radio',
          way: 'packet',
          linkId: rig.linkId,
          gateways: [{ call: GATEWAY, via: '', note: '' }],
        },
        {
          ...usual,
          id: BY_TCP,
          name: 'tcp',
          way: 'tcp',
          host: '127.0.0.1',
          port: rig.mailPort,
          word: '',
          gateways: [],
        },
      ],
    });
    return rig;
  }

  async down(): Promise<void> {
    await this.server.stop();
    this.gateway.end();
    await this.mailServer.close();
    await this.tnc.close();
    this.cluster.remove();
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** One letter that hardly packs, over a channel without loss, against what core reckons for such a link. */
  async session(): Promise<void> {
    await until(() =>
      this.ask('PUT', `/links/${this.linkId}/lock`, { call: BENCHMARK_CALL }).then(
        () => true,
        () => false,
      ),
    );
    await this.post(6000);
    const run = await this.over(await this.start(BY_RADIO));
    const { octetsPerSecond = 0, octetsOut = 0 } = run.attempts[0] ?? {};
    const parameters = computedParameters(LINK, 0);
    const reckoned = throughput(
      { ...termsOf(LINK, 0, false), frameLoss: 0 },
      { packetOctets: parameters.packetOctets, window: parameters.window8 },
    );
    console.log(
      `  a session with ${octetsOut} octets out: ${octetsPerSecond.toFixed(0)} octets/s, its link by core’s reckoning ${reckoned.toFixed(0)}: ${Math.round((100 * octetsPerSecond) / reckoned)} % (${run.attempts[0]?.result})`,
    );
  }

  async searches(): Promise<void> {
    for (let at = 0; at < KEPT; at += IMPORTED_AT_ONCE) {
      const dice = seededDice(at + 1);
      const mbox = Array.from({ length: IMPORTED_AT_ONCE }, (_, i) => {
        const text = toLatin1(letters(200 + Math.floor(dice() * 1200)));
        return `From x\nFrom: cart${i % 40}@hollin.example\nTo: ${BENCHMARK_CALL}@radio.invalid\nSubject: tally ${at + i}\nDate: Sun, 03 May 2026 18:40:00 +0000\n\nnumber${at + i} ${text.slice(Math.floor(dice() * 100)).replace(/\r/g, '')}\n\n`;
      }).join('');
      const answer = await fetch(`http://127.0.0.1:${this.server.port}/api/v1/mail/import?folder=Old`, {
        method: 'POST',
        headers: { 'content-type': 'application/mbox' },
        body: mbox,
      });
      if (!answer.ok) throw new Error(await answer.text());
    }
    for (const words of ['number7777', 'gannets', 'ridge soup tally 99']) {
      const taken: number[] = [];
      const bare: number[] = [];
      for (let i = 0; i < 9; i++) {
        bare.push(await this.timed('/beacon'));
        taken.push(await this.timed(`/mail/messages?words=${encodeURIComponent(words)}`));
      }
      const found = (await this.ask<MailRow[]>('GET', `/mail/messages?words=${encodeURIComponent(words)}`))
        .length;
      console.log(
        `  “${words}” in ${KEPT} letters: ${median(taken).toFixed(1)} ms (aim 100), ${found} shown; a bare request ${median(bare).toFixed(1)} ms`,
      );
    }
  }

  /** Ten times in mid-session, by TCP: each letter is there once, on either side. */
  async kills(): Promise<void> {
    const before = new Set(this.service.handedIn());
    const posted: string[] = [];
    for (let i = 0; i < KILLS; i++) {
      for (let n = 0; n < 4; n++) posted.push((await this.post(40_000)).mid);
      for (let n = 0; n < 4; n++)
        this.service.leave(BENCHMARK_CALL, `kill ${i} ${n}`, toLatin1(noise(20_000, i * 4 + n)));
      await this.start(BY_TCP).catch(() => undefined);
      await pause(15 + i * 12);
      this.server.process.kill('SIGKILL');
      await pause(300);
      await this.startServer();
    }
    await this.over(await this.start(BY_TCP));
    await this.over(await this.start(BY_TCP));
    const handed = this.service.handedIn().filter((mid) => !before.has(mid));
    const came = (await this.ask<MailRow[]>('GET', '/mail/messages?box=inbox')).filter(({ subject }) =>
      subject.startsWith('kill '),
    );
    const subjects = new Set(came.map(({ subject }) => subject));
    const left = await this.ask<MailRow[]>('GET', '/mail/messages?box=outbox');
    const isWell =
      handed.length === posted.length &&
      came.length === 4 * KILLS &&
      subjects.size === came.length &&
      left.length === 0;
    console.log(
      `  ${KILLS} times kill -9 in mid-session: ${handed.length} of ${posted.length} letters handed in, ${came.length} of ${4 * KILLS} received, ${came.length - subjects.size} doubled, ${left.length} left: ${isWell ? 'none lost, none doubled' : 'FAULTY'}`,
    );
    if (!isWell) process.exitCode = 1;
  }

  private post(octets: number): Promise<MailRow> {
    const file = {
      name: 'map.bin',
      base64: Buffer.from(noise(octets, Math.floor(performance.now()))).toString('base64'),
    };
    return this.ask<MailRow>('POST', '/mail/messages', {
      to: ['1X9CTA'],
      cc: [],
      subject: `letter ${performance.now()}`,
      text: '',
      files: [file],
      beyondLatin1: 'utf-8',
      precedence: 'routine',
      onlyInternet: false,
      box: 'outbox',
    });
  }

  private async start(profileId: string): Promise<string> {
    return (await this.ask<MailRunView>('POST', '/mail/sessions', { profileId, password: PASSWORD })).id;
  }

  private async over(id: string): Promise<MailRunView> {
    let last: MailRunView | undefined;
    await until(async () => {
      last = (await this.ask<MailRunDetail>('GET', `/mail/sessions/${id}`)).run;
      return last.phase === 'over';
    });
    return last as MailRunView;
  }

  private async startServer(): Promise<void> {
    this.server = await startServer({
      MISTPEAK_DATABASE_URL: this.databaseUrl,
      MISTPEAK_PORT: '0',
      MISTPEAK_DATA: this.folder,
      MISTPEAK_TRUSTS_LOOPBACK: '1',
    });
  }

  private async timed(path: string): Promise<number> {
    const beganMs = performance.now();
    await this.ask('GET', path);
    return performance.now() - beganMs;
  }

  private async ask<Answer>(method: string, path: string, body?: unknown): Promise<Answer> {
    const answer = await fetch(`http://127.0.0.1:${this.server.port}/api/v1${path}`, {
      method,
      ...(body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    });
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${method} ${path}: ${text}`);
    return (text === '' ? undefined : JSON.parse(text)) as Answer;
  }
}

function noise(octets: number, seed: number): Uint8Array {
  const dice = seededDice(seed);
  return Uint8Array.from({ length: octets }, () => 32 + Math.floor(dice() * 90));
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

async function until(isSo: () => boolean | Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 6000; tries++) {
    if (await isSo()) return;
    await pause(50);
  }
  throw new Error('it did not come');
}
