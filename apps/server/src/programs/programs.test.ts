import {
  chmodSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { LinkView } from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP } from '@mistpeak/contract/sound';
import type { ProgramsView, ProgramView } from '@mistpeak/contract/programs';
import { makeDatabase, ServerUp, until } from '../testing/server-up.js';
import { AIR_HZ, SoundAir } from '../testing/sound-air.js';
import { KeptFiles } from './kept-files.js';
import { readPrograms } from './program-file.js';

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'mistpeak-programs-'))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));

describe('the file that describes them', () => {
  const one = { name: 'packet modem', command: ['/usr/bin/modem', '-c', 'x.conf'] };

  it('is a list of names and commands, with a card and a configuration where there is one', () => {
    const all = [
      { ...one, card: 'radio', configuration: { path: '/etc/x.conf', text: 'a' } },
      { name: 'b', command: ['b'] },
    ];
    expect(readPrograms(JSON.stringify(all))).toEqual(all);
    expect(readPrograms('[]')).toEqual([]);
  });

  it.each([
    ['{', 'no JSON'],
    ['{}', 'a list'],
    ['[null]', 'no name'],
    [JSON.stringify([{ name: ' ', command: ['x'] }]), 'no name'],
    [JSON.stringify([{ name: 'x', command: [] }]), 'no command'],
    [JSON.stringify([{ name: 'x', command: 'rm -rf' }]), 'no command'],
    [JSON.stringify([{ name: 'x', command: [1] }]), 'no command'],
    [JSON.stringify([{ ...one, card: 1 }]), 'card is a name'],
    [JSON.stringify([{ ...one, configuration: { path: 'x', text: '' } }]), 'a path from /'],
    [JSON.stringify([{ ...one, configuration: { path: '/x' } }]), 'a path from /'],
    [JSON.stringify([one, one]), 'two programs'],
  ])('%s is refused in words', (text, words) =>
    expect(readPrograms(text)).toMatchObject({ malformed: expect.stringContaining(words) as string }),
  );
});

describe('a configuration that was put in the place of another', () => {
  it('is put back, also by the next start after a crash, and removed where there was none', () => {
    const [there, none] = [join(folder, 'a.conf'), join(folder, 'new', 'b.conf')];
    writeFileSync(there, 'old');
    const files = new KeptFiles(folder);
    files.replace(there, 'ours');
    files.replace(there, 'ours again');
    files.replace(none, 'ours');
    expect(readFileSync(there, 'utf8')).toBe('ours again');
    expect(new KeptFiles(folder).restoreAll()).toEqual([there, none]);
    expect(readFileSync(there, 'utf8')).toBe('old');
    expect(existsSync(none)).toBe(false);
    expect(readdirSync(folder).sort()).toEqual(['a.conf', 'new']);
    files.restore(there);
    expect(files.restoreAll()).toEqual([]);
  });
});

describe('a modem program', () => {
  let air: SoundAir;
  beforeAll(() => {
    air = new SoundAir(['radio']);
    process.env.ALSA_CONFIG_PATH = air.configuration;
  });
  afterAll(() => {
    delete process.env.ALSA_CONFIG_PATH;
    air.end();
  });

  const of = (view: ProgramsView, name: string): ProgramView | undefined =>
    view.programs.find((one) => one.name === name);

  it('finds the card free and its configuration in place; afterwards both are as they were', async () => {
    const [program, configuration] = [join(folder, 'modem.sh'), join(folder, 'modem.conf')];
    // It tells who has the card, and what stands in its configuration.
    writeFileSync(
      program,
      `#!/bin/sh\npgrep -f "arecord.*radio_in" >/dev/null && echo taken || echo free\ncat ${configuration}\nexec sleep 60\n`,
    );
    chmodSync(program, 0o755);
    writeFileSync(configuration, 'of the operator');
    writeFileSync(
      join(folder, 'modem-programs.json'),
      JSON.stringify([
        {
          name: 'packet modem',
          command: [program],
          card: 'radio_in',
          configuration: { path: configuration, text: 'of Mistpeak\n' },
        },
        { name: 'not there', command: [join(folder, 'nothing')] },
      ]),
    );
    const server = await ServerUp.on(await makeDatabase(), { dataFolder: folder });
    try {
      const { body: link } = await server.ask<LinkView>('POST', '/links', {
        name: 'radio',
        kind: 'sound-card',
        sound: { ...USUAL_SOUND_SETUP, input: 'radio_in', rateHz: AIR_HZ, decoder: 'light' },
        airRate: 1200,
        txDelayMs: 200,
        persistence: 1,
        slotTimeMs: 20,
        txTailMs: 20,
      });
      await server.ask('POST', `/links/${link.id}/open`);
      const page = server.follow();
      await page.find('link', ({ phase }) => phase === 'silent');
      await server.ask('POST', '/programs/packet%20modem/start');
      const view = await page.find('programs', (all) => (of(all, 'packet modem')?.said.length ?? 0) === 2);
      expect(of(view, 'packet modem')).toMatchObject({ phase: 'running', said: ['free', 'of Mistpeak'] });
      expect((await server.ask<LinkView[]>('GET', '/links')).body[0]).toMatchObject({ phase: 'closed' });
      await server.ask('POST', '/programs/packet%20modem/stop');
      expect(readFileSync(configuration, 'utf8')).toBe('of the operator');
      await until('the link open again', async () => {
        const [one] = (await server.ask<LinkView[]>('GET', '/links')).body;
        return one?.phase === 'silent' || undefined;
      });
      await server.ask('POST', '/programs/not%20there/start');
      const failed = await page.find('programs', (all) => of(all, 'not there')?.phase === 'failed');
      expect(of(failed, 'not there')?.why).toBe(`there is no program ${join(folder, 'nothing')}`);
      expect(await server.ask('POST', '/programs/other/start')).toMatchObject({ status: 404 });
      page.close();
    } finally {
      await server.close();
    }
  });
});
