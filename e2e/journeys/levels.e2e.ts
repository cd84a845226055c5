import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { Demodulator } from '@mistpeak/core/modem/demodulator';
import { toHex } from '@mistpeak/core/bits/octets';
import { begin, goTo, logRows, TEST_CALL } from '../pages.js';
import { expectNothingFound, expectNothingFoundInAnyLight } from '../accessibility.js';
import { testBench } from '../bench.js';
import { Running } from '../running.js';
import { CASES, soundOf, writeWav } from '../sound-scenes.js';

const bench = testBench('start');
const FOLDER = mkdtempSync(join(tmpdir(), 'mistpeak-sound-'));

const FLAGS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
];
const fedWith = (file: string) => ({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: [...FLAGS, `--use-file-for-fake-audio-capture=${file}`],
});
test.use({ launchOptions: fedWith(fileOf(CASES[0] as (typeof CASES)[number])) });
test.describe.configure({ mode: 'serial' });

function fileOf({ name, scene }: (typeof CASES)[number]): string {
  const file = join(FOLDER, `${name}.wav`);
  writeWav(file, soundOf(scene));
  return file;
}

/**
 * The first verdict on what the microphone hears; once more while the machine stood still, which breaks sound as no radio does,
 * and is told by the page.
 */
async function firstVerdict(page: Page): Promise<string> {
  const check = page.getByRole('region', { name: 'Receive check' });
  await check.getByRole('button', { name: /^Check/ }).click();
  await expect(check.getByText(/^[4-9] of 20 packets|· [6-9] of 60 s/)).toBeVisible();
  await check.getByRole('button', { name: 'Judge what was heard so far' }).click();
  return check.getByRole('status', { name: 'Verdict' }).locator('p').first().innerText();
}

test.beforeAll(async ({ browser }) => {
  const page = await browser.newPage();
  await page.goto(await bench.running.newAddress());
  await begin(page, bench.running.address);
  await page.close();
});

test('the microphone hears each fault, and the page names it', async ({ page, playwright }) => {
  await page.goto(bench.running.address);
  for (const one of CASES)
    await test.step(one.name, async () => {
      const browser = await playwright.chromium.launch(fedWith(fileOf(one)));
      try {
        const hearing = await browser.newPage();
        await hearing.goto(await bench.running.newAddress());
        await goTo(hearing, 'Levels');
        await hearing.getByRole('button', { name: 'Listen to the microphone or line input' }).click();
        await expect(async () => expect(await firstVerdict(hearing)).toMatch(one.verdict)).toPass();
      } finally {
        await browser.close();
      }
    });
  await goTo(page, 'Levels');
  await expect(page.getByRole('region', { name: 'Results' })).toContainText('The packets are clipped.');
  await expectNothingFoundInAnyLight(page);
});

interface Played {
  readonly left: Float32Array;
  readonly right: Float32Array;
}

/** What the page plays, kept there in blocks of both sides: every way to the output gets a second one into a recorder. */
const RECORD_OUTPUT = (): void => {
  const blocks: (readonly [Float32Array, Float32Array])[] = [];
  Object.assign(globalThis, { blocks });
  const connect = Reflect.get(AudioNode.prototype, 'connect') as (
    this: AudioNode,
    to: AudioNode,
  ) => AudioNode;
  AudioNode.prototype.connect = function (this: AudioNode, to: AudioNode) {
    if (to instanceof AudioDestinationNode && !(this instanceof ScriptProcessorNode)) {
      const context = this.context as AudioContext;
      const stream = context.createMediaStreamDestination();
      connect.call(this, stream);
      const recorder = context.createScriptProcessor(4096, 2, 2);
      recorder.onaudioprocess = ({ inputBuffer }) =>
        void blocks.push([inputBuffer.getChannelData(0).slice(), inputBuffer.getChannelData(1).slice()]);
      connect.call(context.createMediaStreamSource(stream.stream), recorder);
      connect.call(recorder, to);
    }
    return connect.call(this, to);
  } as typeof AudioNode.prototype.connect;
};

/** What is kept in the page's global object. */
interface Keeps {
  readonly blocks: (readonly [Float32Array, Float32Array])[];
}

const forgetPlayed = (page: Page): Promise<void> =>
  page.evaluate(() => void ((globalThis as unknown as Keeps).blocks.length = 0));

/** Something was played, and over half a second of silence after it; looked for in the page, since minutes of samples are slow to fetch. */
const ended = (page: Page): Promise<boolean> =>
  page.evaluate(() => {
    const { blocks } = globalThis as unknown as Keeps;
    const last = blocks.findLastIndex(([, right]) => right.some((sample) => Math.abs(sample) > 0.01));
    return last >= 0 && blocks.length - last > 6;
  });

async function played(page: Page): Promise<Played> {
  const sides = await page.evaluate(() => {
    const { blocks } = globalThis as unknown as Keeps;
    return ([0, 1] as const).map((side) => {
      const octets = blocks.flatMap((block) => [...new Uint8Array(block[side].buffer)]);
      return btoa(octets.map((octet) => String.fromCharCode(octet)).join(''));
    });
  });
  const [left, right] = sides.map(
    (text) => new Float32Array(Uint8Array.from(Buffer.from(text, 'base64')).buffer),
  );
  return { left: left as Float32Array, right: right as Float32Array };
}

/**
 * Amplitude of one tone in the sound, by correlation over each tenth of a second; the median of them, since a machine that
 * stood still leaves a break in the recording, and with it another phase.
 */
function amplitudeAt(sound: Float32Array, hz: number, rateHz: number): number {
  const length = rateHz / 10;
  const amplitudes = Array.from({ length: Math.floor(sound.length / length) }, (_, k) => {
    let [re, im] = [0, 0];
    sound.slice(k * length, (k + 1) * length).forEach((sample, i) => {
      re += sample * Math.cos((2 * Math.PI * hz * i) / rateHz);
      im += sample * Math.sin((2 * Math.PI * hz * i) / rateHz);
    });
    return (2 * Math.hypot(re, im)) / length;
  }).sort((a, b) => a - b);
  return amplitudes[amplitudes.length >> 1] ?? 0;
}

test('the sound card of this browser is a TNC: it hears, sends, and holds the key by a tone', async ({
  page,
}) => {
  await page.addInitScript(RECORD_OUTPUT);
  await page.goto(bench.running.address);
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Add a link' }).click();
  await page.getByLabel('Name').fill('cable at this browser');
  await page.getByLabel('Kind').selectOption('page-sound');
  await page.getByLabel('The radio is keyed').selectOption('tone');
  await page.getByLabel('Data goes out on').selectOption('left');
  await page.getByLabel('Keying tone, Hz').fill('9000');
  await page.getByRole('button', { name: 'Add the link' }).click();
  await expect(page.getByText('A keying tone is 10000 Hz or more')).toBeVisible();
  await page.getByLabel('Keying tone, Hz').fill('15000');
  await page.getByRole('button', { name: 'Add the link' }).click();
  await page.getByRole('button', { name: 'Open the sound card' }).click();
  await expect(page.getByText(/is lent/)).toBeVisible();
  await goTo(page, 'Air');
  await page.getByRole('radio', { name: 'Log' }).click();
  await expect(logRows(page, 'QH').first()).toBeVisible();

  await test.step('a beacon goes out through the output', async () => {
    await goTo(page, 'Beacon');
    await page.getByLabel('Call with SSID').fill(`${TEST_CALL}-7`);
    await page.getByRole('button', { name: 'Arm the transmitter …' }).click();
    await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
    const hex = (await page.getByTestId('octets').getAttribute('data-hex')) ?? '';
    // A machine that stands still in mid-packet breaks it: then once more, as an operator does.
    await expect(async () => {
      await forgetPlayed(page);
      await page.getByRole('button', { name: 'Send one beacon' }).first().click();
      await expect.poll(() => ended(page), { timeout: 120_000 }).toBe(true);
      const { left } = await played(page);
      const frames = new Demodulator(44_100).push(
        Float32Array.from([...left, ...new Array<number>(44_100).fill(0)]),
      );
      expect(frames.map(({ raw }) => toHex(raw))).toEqual([hex]);
    }).toPass({ timeout: 300_000 });
    const { left, right } = await played(page);
    const from = right.findIndex((sample) => Math.abs(sample) > 0.01);
    // The set-up sends both at -12 dBFS: an amplitude of 0.25.
    const middle = right.slice(from + 4410, from + 4410 + 22_050);
    expect(amplitudeAt(middle, 15_000, 44_100)).toBeCloseTo(0.25, 1);
    expect(amplitudeAt(middle, 1200, 44_100)).toBeLessThan(0.005);
    expect(amplitudeAt(left.slice(from + 4410, from + 26_460), 15_000, 44_100)).toBeLessThan(0.005);
  });
});

/** What the page plays is what its next input hears: a second receiver beside the radio. */
const HEAR_OUTPUT = (): void => {
  let heard: MediaStream | undefined;
  const connect = Reflect.get(AudioNode.prototype, 'connect') as (
    this: AudioNode,
    to: AudioNode,
  ) => AudioNode;
  AudioNode.prototype.connect = function (this: AudioNode, to: AudioNode) {
    if (to instanceof AudioDestinationNode && !heard) {
      const stream = (this.context as AudioContext).createMediaStreamDestination();
      connect.call(this, stream);
      heard = stream.stream;
    }
    return connect.call(this, to);
  } as typeof AudioNode.prototype.connect;
  const ask = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
  navigator.mediaDevices.getUserMedia = (wanted) => (heard ? Promise.resolve(heard.clone()) : ask(wanted));
};

test('what is sent is judged by a second receiver: level and keying tone', async ({ page }) => {
  await page.addInitScript(HEAR_OUTPUT);
  await page.goto(bench.running.address);
  await goTo(page, 'Levels');
  await page.getByRole('button', { name: 'Listen as cable at this browser' }).click();
  await expect(page.getByText(/[1-9] s heard/)).toBeVisible();
  await page.getByRole('link', { name: 'Transmit', exact: true }).click();
  const check = page.getByRole('region', { name: 'Transmit check' });
  await check.getByRole('button', { name: 'Listen with it' }).click();
  await expect(check.getByRole('button', { name: 'Stop it' })).toBeVisible();
  const lock = check.getByRole('button', { name: 'Receive only' });
  if (await lock.isVisible()) {
    await lock.click();
    await page.getByRole('button', { name: 'Arm the transmitter', exact: true }).click();
  }
  // Nothing but a machine that stood still can break a packet here; then no level is advised, and it is sent again.
  await expect(async () => {
    await check.getByRole('button', { name: 'Send 5 steps' }).click();
    await expect(check.getByRole('status', { name: 'Verdict' })).toBeHidden({ timeout: 5000 });
    await expect(check.getByRole('status', { name: 'Verdict' })).toBeVisible({ timeout: 120_000 });
    await expect(check.getByRole('button', { name: /Let the link send at|The link sends so/ })).toBeVisible({
      timeout: 1000,
    });
  }).toPass({ timeout: 300_000 });
  await expect(check.getByRole('row', { name: /−6 dBFS/ })).toContainText(/−[5-8] dBFS/);

  await test.step('the keying tone of 15 kHz is not heard beside the data', async () => {
    await page.getByRole('link', { name: 'Keying tone' }).click();
    const tone = page.getByRole('region', { name: 'Keying tone' });
    await tone.getByRole('button', { name: 'Send 4 packets and listen' }).click();
    await expect(tone.getByRole('status', { name: 'Verdict' })).toContainText(
      'The keying tone is not heard.',
    );
  });
});

test('an output that the browser refuses is told, and the sound goes on', async ({ page }) => {
  await page.addInitScript(() => {
    Reflect.set(AudioContext.prototype, 'setSinkId', () =>
      Promise.reject(new DOMException('not for this page', 'NotAllowedError')),
    );
  });
  await page.goto(bench.running.address);
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Change' }).click();
  const output = page.getByLabel('Sound to');
  // The names of the devices are told to pages that may hear.
  await expect(page.locator('#sound-outputs option')).not.toHaveCount(0);
  await output.fill((await page.locator('#sound-outputs option').last().textContent()) ?? '');
  await page.getByRole('button', { name: 'Save the link' }).click();
  await goTo(page, 'Levels');
  await page.getByRole('button', { name: 'Listen as cable at this browser' }).click();
  await expect(page.getByText('The browser refused this output (not for this page)')).toBeVisible();
  await expect(page.getByText(/[1-9] s heard/)).toBeVisible();
});

test('while Mistpeak is away the page goes on hearing, and hands over later with the times', async ({
  page,
}) => {
  await page.goto(await bench.running.newAddress());
  // Here the browser keeps no page for later: this one is fetched before the server goes.
  await goTo(page, 'Levels');
  await goTo(page, 'TNC');
  await page.getByRole('button', { name: 'Open the sound card' }).click();
  await expect(page.getByText(/is lent/)).toBeVisible();
  await bench.running.stop();
  const awayMs = Date.now();
  await expect(page.getByRole('alert').first()).toContainText('Mistpeak does not answer.');
  await goTo(page, 'Levels');
  const packets = page.getByRole('region', { name: 'Packets' }).getByRole('row');
  const before = await packets.count();
  await expect.poll(() => packets.count()).toBeGreaterThan(before + 3);
  const backMs = Date.now();
  bench.running = await Running.start('start', bench.running.data);
  const handedOver = (): Promise<number> =>
    page.evaluate(
      async ([fromMs, toMs]) => {
        const answer = await fetch('/api/v1/frames?limit=200').catch(() => undefined);
        const frames = answer?.ok ? ((await answer.json()) as { origin: string; atMs: number }[]) : [];
        return frames.filter(({ origin, atMs }) => origin === 'capture' && atMs >= fromMs && atMs <= toMs)
          .length;
      },
      [awayMs, backMs] as const,
    );
  await expect.poll(handedOver).toBeGreaterThan(2);
});

test('a phone that slept says what it missed, and has kept what it heard before', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  // What a sleeping phone does to the sound of a page, and undoes when it wakes.
  await page.addInitScript(() => {
    globalThis.AudioContext = class extends AudioContext {
      constructor(options?: AudioContextOptions) {
        super(options);
        (globalThis as unknown as { sound: AudioContext }).sound = this;
      }
    };
  });
  await page.goto(`${bench.running.address}/levels`);
  await page.getByRole('button', { name: 'Listen to the microphone or line input' }).click();
  const packets = page.getByRole('region', { name: 'Packets' }).getByRole('row');
  await expect.poll(() => packets.count()).toBeGreaterThan(2);
  const before = await packets.count();
  const turn = (what: 'suspend' | 'resume'): Promise<void> =>
    page.evaluate((how) => (globalThis as unknown as { sound: AudioContext }).sound[how](), what);
  await turn('suspend');
  await new Promise((resolve) => setTimeout(resolve, 6000));
  await turn('resume');
  await expect(page.getByText(/The page slept and heard nothing from \d\d:\d\d:\d\d to/)).toBeVisible();
  expect(await packets.count()).toBeGreaterThanOrEqual(before);
  // It goes on hearing.
  await expect.poll(() => packets.count()).toBeGreaterThan(before);
});

test('a recording in place of the microphone, on a phone; what is none is refused in words', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${await bench.running.newAddress()}`);
  await page.goto(`${bench.running.address}/levels`);
  await page.getByLabel('Recording').setInputFiles(fileOf(CASES[0] as (typeof CASES)[number]));
  await expect(page.getByText('good.wav is read')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Packets' }).getByRole('row').nth(4)).toBeVisible();
  await expectNothingFound(page);
  await page.getByLabel('Recording').setInputFiles({
    name: 'notes.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('no sound at all'),
  });
  await expect(page.getByText('This file could not be read.')).toBeVisible();
});
