import { fork } from 'node:child_process';
import { tmpdir } from 'node:os';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { WebSocket } from 'ws';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { repeatByName } from '@mistpeak/core/digipeating/digipeater';
import { inventedFrames, transmission } from '@mistpeak/core/modem/generator/track';
import { seededDice } from '@mistpeak/core/network/dice';
import type { LinkView } from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP, type SoundSetup } from '@mistpeak/contract/sound';
import type { SoundView } from '@mistpeak/contract/sound-view';
import { childFile } from '../adapters/child-file.js';
import { freePort } from '../testing/free-port.js';
import { AIR_HZ, SoundAir } from '../testing/sound-air.js';
import { BEACON, makeDatabase, OPERATOR, ServerUp, TEST_CALL, until } from '../testing/server-up.js';

const soundLink = (name: string, sound: Partial<SoundSetup> = {}) => ({
  name,
  kind: 'sound-card',
  sound: {
    ...USUAL_SOUND_SETUP,
    input: `${name}_in`,
    output: `${name}_out`,
    rateHz: AIR_HZ,
    decoder: 'light',
    keying: 'vox',
    ...sound,
  },
  airRate: 1200,
  txDelayMs: 200,
  persistence: 1,
  slotTimeMs: 20,
  txTailMs: 20,
});

let air: SoundAir;
beforeAll(() => {
  air = new SoundAir(['near', 'far']);
  process.env.ALSA_CONFIG_PATH = air.configuration;
});
afterAll(() => {
  delete process.env.ALSA_CONFIG_PATH;
  air.end();
});

const phaseOf = async (server: ServerUp, id: string): Promise<LinkView> =>
  (await server.ask<LinkView[]>('GET', '/links')).body.find((link) => link.id === id) as LinkView;

/** Until the link is in that phase. */
const phase = (server: ServerUp, id: string, wanted: LinkView['phase']): Promise<LinkView> =>
  until(`${wanted}`, async () => {
    const link = await phaseOf(server, id);
    return link.phase === wanted ? link : undefined;
  });

async function opened(server: ServerUp, settings: ReturnType<typeof soundLink>): Promise<LinkView> {
  const { body } = await server.ask<LinkView>('POST', '/links', settings);
  await server.ask('POST', `/links/${body.id}/open`);
  return body;
}

describe('a sound card of this machine', () => {
  let server: ServerUp;
  beforeAll(async () => {
    server = await ServerUp.on(await makeDatabase());
  });
  afterAll(() => server.close());

  it('is listed by its name', async () => {
    const { body } = await server.ask<{ inputs: string[]; outputs: string[] }>('GET', '/links/sound-devices');
    expect(body.inputs).toEqual(expect.arrayContaining(['near_in', 'far_in']));
    expect(body.outputs).toEqual(expect.arrayContaining(['near_out', 'far_out']));
  });

  it('is a TNC: what it hears comes in as sound, and a page that looks is told more than ten times a second', async () => {
    const link = await opened(server, soundLink('near'));
    await phase(server, link.id, 'silent');
    const page = server.follow();
    const socket = new WebSocket(`ws://127.0.0.1:${server.port}/api/v1/sound?link=${link.id}`);
    const views: SoundView[] = [];
    socket.on('message', (data: Buffer) => views.push(JSON.parse(data.toString()) as SoundView));
    const [frame] = inventedFrames(1, seededDice(3), { from: 20, to: 20 }) as [Uint8Array];
    air.put(transmission([frame], { rateHz: AIR_HZ, txDelayMs: 300 }));
    const heard = await page.find('frame', ({ origin }) => origin === 'sound');
    expect(heard.linkId).toBe(link.id);
    await phase(server, link.id, 'hearing');
    const packets = (): SoundView['news']['packets'] => views.flatMap(({ news }) => news.packets);
    await until('the packet in view', () => packets()[0]);
    expect(Buffer.from(packets()[0]?.raw ?? '', 'base64').equals(Buffer.from(frame))).toBe(true);
    expect(Math.abs((packets()[0]?.levelDbfs ?? 0) + 12)).toBeLessThan(1);
    const times = views.map(({ atMs }) => atMs);
    expect(times.length / (((times.at(-1) ?? 0) - (times[0] ?? 0)) / 1000)).toBeGreaterThan(10);
    expect(views[0]?.news.stretches[0]?.spectrum).toMatch(/^[A-Za-z0-9+/]+=*$/);
    socket.close();
    page.close();
    await server.ask('POST', `/links/${link.id}/close`);
  });

  it('that is not there is told as such, and so is a key that does not obey', async () => {
    const missing = await opened(server, soundLink('nowhere'));
    expect(await phase(server, missing.id, 'failed')).toMatchObject({ failure: 'no-such-sound' });
    const unkeyed = await opened(
      server,
      soundLink('near', { keying: 'pin', keyDevice: '/dev/shm/not-there/hidraw0', keyPin: 3 }),
    );
    expect(await phase(server, unkeyed.id, 'failed')).toMatchObject({ failure: 'key-failed' });
    for (const { id } of [missing, unkeyed]) await server.ask('POST', `/links/${id}/close`);
  });

  it('of two set-ups that want one card or one line only one is open', async () => {
    const [first, second] = [
      await opened(server, soundLink('far')),
      (await server.ask<LinkView>('POST', '/links', soundLink('far', { output: 'near_out' }))).body,
    ];
    expect(await server.ask('POST', `/links/${second.id}/open`)).toMatchObject({
      status: 409,
      body: { reason: 'set-up-taken', fields: { link: 'far' } },
    });
    const line = { keying: 'line', keyDevice: '/dev/ttyS77', keyLine: 'RTS' } as const;
    const { body: keyed } = await server.ask<LinkView>('POST', '/links', soundLink('near', line));
    const port = await server.ask<LinkView>('POST', '/links', {
      ...soundLink('near'),
      kind: 'serial',
      device: '/dev/ttyS77',
      speed: 9600,
    });
    await server.ask('POST', `/links/${keyed.id}/open`);
    expect(await server.ask('POST', `/links/${port.body.id}/open`)).toMatchObject({ status: 409 });
    for (const { id } of [first, keyed]) await server.ask('POST', `/links/${id}/close`);
    expect(await server.ask('POST', `/links/${second.id}/open`)).toMatchObject({ status: 200 });
    await server.ask('POST', `/links/${second.id}/close`);
  });

  it('a set-up that cannot work is refused in words', async () => {
    const tone = (more: Partial<SoundSetup>) =>
      server.ask('POST', '/links', soundLink('x', { keying: 'tone', sendsOn: 'left', ...more }));
    expect(await tone({ toneHz: 9999 })).toMatchObject({ status: 400 });
    expect(await tone({ toneHz: 11_025 })).toMatchObject({
      status: 400,
      body: { fields: { sound: expect.stringContaining('not carried at 22050') as string } },
    });
    expect(await tone({ toneHz: 11_024, sendsOn: 'both' })).toMatchObject({ status: 400 });
    expect(await tone({ toneHz: 11_024 })).toMatchObject({ status: 201 });
  });
});

it('two Mistpeaks joined by sound alone: a beacon is repeated by a program at the far one, and the echo proves it', async () => {
  const [near, far] = [await ServerUp.on(await makeDatabase()), await ServerUp.on(await makeDatabase())];
  try {
    for (const server of [near, far]) await server.ask('PUT', '/operator', OPERATOR);
    const [ours, theirs] = [await opened(near, soundLink('near')), await opened(far, soundLink('far'))];
    await phase(near, ours.id, 'silent');
    await phase(far, theirs.id, 'silent');
    const port = await freePort();
    await far.ask('PUT', `/links/${theirs.id}/sharing`, {
      isOn: true,
      port,
      reach: 'loopback',
      isReachConfirmed: false,
      isAnnounced: false,
      newMayTransmit: true,
    });
    await far.ask('PUT', `/links/${theirs.id}/lock`, { call: `${TEST_CALL}-2` });
    const digipeater = connect(port, '127.0.0.1');
    const kiss = new KissDecoder();
    digipeater.on('data', (octets: Buffer) => {
      for (const item of kiss.push(octets)) {
        const repeated = 'payload' in item && repeatByName(item.payload, `${TEST_CALL}-2`);
        if (repeated) digipeater.write(encodeKiss({ port: 0, command: 'data', payload: repeated }));
      }
    });
    await near.ask('PUT', '/beacon', { ...BEACON, path: `${TEST_CALL}-2` });
    await near.ask('PUT', `/links/${ours.id}/lock`, { call: `${TEST_CALL}-7` });
    const page = near.follow();
    await page.find('snapshot');
    const id = crypto.randomUUID();
    await near.ask('POST', '/beacon/transmissions', { id, linkId: ours.id });
    const evidence = await page.find('evidence', ({ rung }) => rung === 'repeated');
    expect(evidence.words).toContain(`${TEST_CALL}-2`);
    digipeater.destroy();
    page.close();
  } finally {
    await Promise.all([near.close(), far.close()]);
  }
});

describe('programs in the place of ALSA’s', () => {
  const folder = mkdtempSync(join(tmpdir(), 'mistpeak-alsa-'));
  const path = process.env.PATH ?? '';
  let server: ServerUp;
  beforeAll(async () => {
    server = await ServerUp.on(await makeDatabase());
    process.env.PATH = `${folder}:${path}`;
  });
  afterAll(async () => {
    process.env.PATH = path;
    await server.close();
    rmSync(folder, { recursive: true });
  });

  /** What arecord does instead. */
  const recorder = (script: string): void => {
    writeFileSync(join(folder, 'arecord'), `#!/bin/sh\n${script}\n`);
    chmodSync(join(folder, 'arecord'), 0o755);
  };

  it.each([
    ['busy', 'echo "arecord: main:831: audio open error: Device or resource busy" >&2; exit 1', 'sound-busy'],
    [
      'of another rate',
      'echo "arecord: set_params:1345: Rate 22050Hz not available for capture" >&2; exit 1',
      'sound-rate',
    ],
    [
      'unplugged',
      'head -c 200000 /dev/zero; echo "arecord: pcm_read:2221: read error: No such device" >&2; exit 1',
      'sound-gone',
    ],
    ['killed', 'head -c 200000 /dev/zero; kill -9 $$', 'sound-gone'],
  ])('a card that is %s is told as such', async (name, script, failure) => {
    recorder(script);
    const link = await opened(server, soundLink('near', { keying: 'none' }));
    const failed = await until(failure, async () => {
      const one = await phaseOf(server, link.id);
      return one.failure === failure ? one : undefined;
    });
    expect([name, failed.phase]).toEqual([name, 'failed']);
    await server.ask('POST', `/links/${link.id}/close`);
  });
});

it('a pin that was left set is let go at the next start, also where the link is not opened', async () => {
  const folder = mkdtempSync('/dev/shm/mistpeak-key-');
  const device = join(folder, 'hidraw0');
  writeFileSync(device, '');
  const url = await makeDatabase();
  try {
    const before = await ServerUp.on(url);
    await before.ask('POST', '/links', soundLink('near', { keying: 'pin', keyDevice: device, keyPin: 3 }));
    await before.close();
    expect(readFileSync(device)).toHaveLength(0);
    const after = await ServerUp.on(url);
    expect(readFileSync(device).toString('hex')).toBe('0000000400');
    await after.close();
  } finally {
    rmSync(folder, { recursive: true });
  }
});

it('the key is let go when the process that asked for it is killed', async () => {
  const folder = mkdtempSync('/dev/shm/mistpeak-key-');
  const device = join(folder, 'hidraw0');
  const holder = join(folder, 'holder.mjs');
  writeFileSync(device, '');
  writeFileSync(
    holder,
    `import { fork } from 'node:child_process';
     const child = fork(${JSON.stringify(childFile('sound/key-child'))}, { execArgv: [] });
     child.on('message', () => { child.send({ kind: 'down', limitMs: 60000 }); process.send('down'); });
     child.send({ kind: 'open', address: { kind: 'pin', device: ${JSON.stringify(device)}, pin: 3 } });`,
  );
  try {
    const reports = (): string => (existsSync(device) ? readFileSync(device).toString('hex') : '');
    const parent = fork(holder, { execArgv: [] });
    await until('the key down', () => reports().endsWith('0000040400') || undefined);
    expect(reports()).toBe('00000004000000040400');
    parent.kill('SIGKILL');
    await until('the key up', () => reports().endsWith('0000000400') || undefined);
  } finally {
    rmSync(folder, { recursive: true });
  }
});
