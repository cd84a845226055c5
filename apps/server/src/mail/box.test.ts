import { randomUUID } from 'node:crypto';
import type { AddressEntry, MailMessageView, MailRow, WeightView } from '@mistpeak/contract/mail';
import type { MailDesk } from '@mistpeak/contract/mail-session';
import { LETTERS_TYPE } from '@mistpeak/contract/mail-files';
import PostalMime from 'postal-mime';
import { linkedBench } from '../testing/linked-bench.js';
import { OPERATOR, TEST_CALL, until } from '../testing/server-up.js';

const bench = linkedBench();
const ask = <Body = Record<string, unknown>>(
  ...args: [string, string, unknown?]
): Promise<{ status: number; body: Body }> => bench.server.ask<Body>(...args);
const letter = (more: object = {}): object => ({
  to: ['QH7CTA'],
  cc: [],
  subject: 'lamps',
  text: 'two left',
  files: [],
  beyondLatin1: 'utf-8',
  precedence: 'routine',
  onlyInternet: false,
  box: 'outbox',
  ...more,
});
const write = async (more: object = {}): Promise<MailRow> =>
  (await ask<MailRow>('POST', '/mail/messages', letter(more))).body;
const list = async (query: string): Promise<string[]> =>
  (await ask<MailRow[]>('GET', `/mail/messages?${query}`)).body.map(({ subject }) => subject);
const one = async (id: string): Promise<MailMessageView> =>
  (await ask<MailMessageView>('GET', `/mail/messages/${id}`)).body;
const raw = (path: string): Promise<Response> =>
  fetch(`http://127.0.0.1:${bench.server.port}/api/v1/mail/${path}`);
const base64 = (text: string): string => Buffer.from(text, 'latin1').toString('base64');

beforeAll(async () => {
  await ask('PUT', '/operator', OPERATOR);
  const { settings } = (await ask<MailDesk>('GET', '/mail')).body;
  const profile = {
    id: randomUUID(),
    name: 'gateways',
    way: 'packet',
    from: TEST_CALL,
    linkId: bench.link.id,
    gateways: [{ call: '1X9GTE-10', via: '', note: '' }],
    exchanges: 'both',
    tries: 2,
  };
  const { version: _, ...rest } = settings;
  expect(
    await ask('PUT', '/mail/settings', {
      ...rest,
      domain: 'mail.hollin.example',
      auxiliary: ['HUT-1'],
      profiles: [profile],
    }),
  ).toMatchObject({ status: 200 });
});

describe('writing', () => {
  it('a posted letter waits, with its size as it would go; twice the same command is one letter', async () => {
    const id = randomUUID();
    const post = (): Promise<Response> =>
      fetch(`http://127.0.0.1:${bench.server.port}/api/v1/mail/messages`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'command-id': id },
        body: JSON.stringify(
          letter({ to: ['qh7cta', 'kitchen@hollin.example'], cc: ['QH8CLA@mail.hollin.example'] }),
        ),
      });
    await Promise.all([post(), post()]);
    await post();
    const [row, ...others] = (await ask<MailRow[]>('GET', '/mail/messages?box=outbox')).body;
    expect(others).toEqual([]);
    expect(row).toMatchObject({
      id,
      from: TEST_CALL,
      to: ['QH7CTA', 'SMTP:kitchen@hollin.example', 'QH8CLA'],
      isRead: true,
      version: 1,
    });
    expect(row?.mid).toMatch(/^[A-Z0-9]{12}$/);
    expect((await one(id)).headers.map(([name]) => name)).toEqual([
      'Mid',
      'Date',
      'Type',
      'From',
      'To',
      'To',
      'Cc',
      'Subject',
      'Mbo',
      'Body',
    ]);
  });

  it.each([
    [{ to: [] }, 'to', 'to whom'],
    [{ to: [TEST_CALL.toLowerCase()] }, 'to', 'nobody can mail himself'],
    [{ to: ['QH7CTA'], cc: ['HUT-1'] }, 'cc', 'nobody can mail himself'],
    [{ to: ['a b@hollin.example'] }, 'to', 'no address'],
    [{ to: ['QH7CTA'], precedence: 'soon' }, 'precedence', 'choose'],
  ] as const)('is not posted half: %#', async (more, field, words) => {
    expect(await ask('POST', '/mail/messages', letter(more))).toMatchObject({
      status: 400,
      body: { fields: { [field]: expect.stringContaining(words) } },
    });
    // A draft may be half.
    if (field !== 'precedence')
      expect((await ask('POST', '/mail/messages', letter({ ...more, box: 'drafts' }))).status).toBe(201);
  });

  it('a draft keeps every sign; posted, they become what was chosen; who had begun with another version is told', async () => {
    const draft = await write({
      box: 'drafts',
      text: '5 € ☂',
      beyondLatin1: 'question marks',
      subject: 'signs',
    });
    expect(await one(draft.id)).toMatchObject({ text: '5 € ☂', beyondLatin1: 'question marks' });
    const again = letter({
      text: '5 € ☂',
      beyondLatin1: 'question marks',
      subject: 'signs',
      version: draft.version,
    });
    const { body } = await ask<MailRow>('PUT', `/mail/messages/${draft.id}`, again);
    expect(body).toMatchObject({ box: 'outbox', version: 2, mid: draft.mid });
    expect((await one(draft.id)).text).toBe('5 ? ?');
    expect(await ask('PUT', `/mail/messages/${draft.id}`, again)).toMatchObject({
      status: 409,
      body: { reason: 'changed-meanwhile' },
    });
  });

  it('from a further address, not before a time, only by the internet', async () => {
    const row = await write({
      from: 'HUT-1',
      afterMs: 4_000_000_000_000,
      onlyInternet: true,
      precedence: 'flash',
      subject: 'later',
    });
    expect(row).toMatchObject({
      from: 'HUT-1',
      afterMs: 4_000_000_000_000,
      onlyInternet: true,
      precedence: 'flash',
    });
    expect((await write({ from: 'QH7CTA', subject: 'not mine' })).from).toBe(TEST_CALL);
  });

  it('that takes longer than the operator allows is not posted, and can be kept', async () => {
    const noise = Array.from({ length: 300_000 }, (_, i) =>
      String.fromCharCode((Math.imul(i, 2654435761) >>> 24) & 0xff),
    ).join('');
    const heavy = { files: [{ name: 'map.png', base64: base64(noise) }], subject: 'heavy' };
    expect(await ask('POST', '/mail/messages', letter(heavy))).toMatchObject({
      status: 409,
      body: { reason: 'too-heavy' },
    });
    const draft = await write({ ...heavy, box: 'drafts' });
    expect(await one(draft.id)).toMatchObject({ fileNames: [{ name: 'map.png', octets: 300_000 }] });
    const file = await raw(`messages/${draft.id}/files/0`);
    expect(Buffer.from(await file.arrayBuffer()).toString('latin1')).toBe(noise);
    expect([file.headers.get('content-type'), file.headers.get('content-disposition')]).toEqual([
      'application/octet-stream',
      'attachment; filename=map.png',
    ]);
    expect((await raw(`messages/${draft.id}/files/1`)).status).toBe(404);
    expect((await ask('POST', '/mail/messages', letter({ ...heavy, onlyInternet: true }))).status).toBe(201);
  });
});

it('is weighed before anything is sent: what each file costs, what the addresses look like', async () => {
  const { body } = await ask<WeightView>('POST', '/mail/weigh', {
    ...letter({
      to: ['QH7CTB', TEST_CALL, 'QTH'],
      text: '41 € '.repeat(200),
      files: [{ name: 'a.txt', base64: base64('gannets '.repeat(400)) }],
    }),
    box: undefined,
  });
  expect(body.pace).toMatchObject({ from: 'reckoning', sessions: 0 });
  expect(body.packedOctets).toBeLessThan(body.octets / 5);
  expect(body.ms).toBeCloseTo(
    (1000 * (body.packedOctets + 2 * Math.ceil(body.packedOctets / 250) + 5 + 8 + 34)) /
      body.pace.octetsPerSecond,
    0,
  );
  expect(body.files).toMatchObject([{ name: 'a.txt', octets: 3200 }]);
  expect(body.files[0]?.packedOctets).toBeLessThan(200);
  expect(body.sessionMs).toBeGreaterThan(body.ms + body.pace.setUpMs);
  expect(body.beyondLatin1).toEqual(['€']);
  expect(body.addresses).toEqual({
    QH7CTB: { meant: ['QH7CTA'] },
    [TEST_CALL]: { trouble: expect.stringContaining('himself') },
    QTH: { doubt: expect.stringContaining('not the form of a call') },
  });
});

describe('keeping', () => {
  it('is found by any words in it, by their beginnings, in any box', async () => {
    await write({
      subject: 'Evening tally',
      text: 'Forty-one Guillemots near hide 3\nand the fog',
      box: 'drafts',
    });
    expect(await list('words=guille fog')).toEqual(['Evening tally']);
    expect(await list('words=guille%20rain')).toEqual([]);
    expect(await list('box=drafts&words=TALLY')).toEqual(['Evening tally']);
    expect(await list('box=outbox&words=tally')).toEqual([]);
    expect(await list(`words=${encodeURIComponent("'); DROP & | !")}`)).toEqual([]);
  });

  it('goes into folders and back; what was sent is not posted again, and what came is no draft', async () => {
    const { id } = await write({ subject: 'to be moved', box: 'drafts' });
    expect(await ask('POST', `/mail/messages/${id}/move`, { box: 'inbox' })).toMatchObject({ status: 400 });
    expect(await ask('POST', `/mail/messages/${id}/move`, { box: 'folder', folder: ' ' })).toMatchObject({
      status: 400,
      body: { field: 'folder' },
    });
    expect(
      (await ask<MailRow>('POST', `/mail/messages/${id}/move`, { box: 'folder', folder: 'Count' })).body,
    ).toMatchObject({ box: 'folder', folder: 'Count' });
    expect((await ask<MailDesk>('GET', '/mail')).body.folders).toEqual(['Count']);
    expect(await list('box=folder&folder=Count')).toEqual(['to be moved']);
    expect(await ask('POST', `/mail/messages/${id}/move`, { box: 'outbox' })).toMatchObject({ status: 400 });
    expect((await ask<MailRow>('PUT', `/mail/messages/${id}/read`, { isRead: false })).body.isRead).toBe(
      false,
    );
  });

  it('removed can be had back; out of the outbox it goes at once', async () => {
    const { id } = await write({ subject: 'not after all' });
    expect((await ask('DELETE', `/mail/messages/${id}`)).status).toBe(204);
    expect(await list('box=outbox')).not.toContain('not after all');
    const page = bench.server.follow();
    const { removals } = await page.find('snapshot');
    page.close();
    await ask('POST', `/removals/${removals.find(({ words }) => words.includes('not after all'))?.id}/back`);
    expect(await list('box=drafts')).toContain('not after all');
  });

  it('is read by a general MIME library as .eml, and an mbox of it comes back letter by letter', async () => {
    const row = await write({
      subject: 'Grüße',
      text: 'From here\n>From there\n5 €',
      files: [{ name: 'kärtchen.bin', base64: base64('\x00\xff\r\n') }],
      cc: ['QH8CLA'],
      box: 'drafts',
    });
    const mail = await PostalMime.parse(
      Buffer.from(await (await raw(`messages/${row.id}/eml`)).arrayBuffer()),
    );
    expect(mail).toMatchObject({
      subject: 'Grüße',
      text: 'From here\n>From there\n5 €\n',
      from: { address: `${TEST_CALL}@radio.invalid` },
      cc: [{ address: 'QH8CLA@radio.invalid' }],
    });
    expect(
      mail.attachments.map(({ filename, content }) => [
        filename,
        Buffer.from(content as ArrayBuffer).toString('latin1'),
      ]),
    ).toEqual([['kärtchen.bin', '\x00\xff\r\n']]);
    const mbox = Buffer.from(await (await raw('export?box=drafts')).arrayBuffer());
    expect(mbox.toString('latin1').match(/^From /gm)?.length).toBe((await list('box=drafts')).length);
    const take = async (octets: Buffer): Promise<unknown> =>
      (
        await fetch(`http://127.0.0.1:${bench.server.port}/api/v1/mail/import?folder=Old`, {
          method: 'POST',
          headers: { 'content-type': LETTERS_TYPE },
          body: new Uint8Array(octets),
        })
      ).json();
    const { taken } = (await take(mbox)) as { taken: number };
    expect(taken).toBe((await list('box=drafts')).length);
    expect(await take(mbox)).toEqual({ taken: 0, known: taken, unreadable: 0 });
    const back = (await ask<MailRow[]>('GET', '/mail/messages?folder=Old')).body.find(
      ({ subject }) => subject === 'Grüße',
    ) as MailRow;
    expect(await one(back.id)).toMatchObject({
      text: 'From here\n>From there\n5 €',
      cc: ['QH8CLA'],
      fileNames: [{ name: 'kärtchen.bin', octets: 4 }],
    });
    expect(await take(Buffer.from('nothing of the kind'))).toEqual({ taken: 0, known: 0, unreadable: 1 });
  });

  it('offers everybody written to, and stations heard', async () => {
    bench.peer.send(
      'c000' +
        'a2a0a6404040e0' +
        '62b072869ca8e1' +
        '03f0' +
        Buffer.from('!2937.92S/01124.30W-x').toString('hex') +
        'c0',
    );
    const found = await until('a station', async () => {
      const { body } = await ask<AddressEntry[]>('GET', '/mail/addresses');
      return body.some(({ from }) => from === 'stations') ? body : undefined;
    });
    expect(found.filter(({ from }) => from === 'mail').map(({ address }) => address)).toEqual(
      expect.arrayContaining(['QH7CTA', 'SMTP:kitchen@hollin.example']),
    );
  });
});

describe('settings', () => {
  const change = async (more: object): Promise<{ status: number; body: Record<string, unknown> }> => {
    const { version: _, ...settings } = (await ask<MailDesk>('GET', '/mail')).body.settings;
    return ask('PUT', '/mail/settings', { ...settings, ...more });
  };
  const profile = (more: object): object => ({
    profiles: [
      {
        id: randomUUID(),
        name: 'x',
        way: 'packet',
        from: TEST_CALL,
        linkId: bench.link.id,
        gateways: [{ call: '1X9GTE-10', via: '', note: '' }],
        exchanges: 'both',
        tries: 2,
        ...more,
      },
    ],
  });
  const schedule = {
    isOn: true,
    everyMinutes: 30,
    atTimes: [],
    fromHour: 0,
    toHour: 0,
    allowsAutomatic: false,
  };

  it.each([
    [() => profile({ from: 'QH7CTA' }), 'not your call'],
    [() => profile({ gateways: [] }), 'whom does it call'],
    [() => profile({ gateways: [{ call: '1X9GTE-10', via: 'A,B,C,D,E,F,G,H,I', note: '' }] }), '1X9GTE-10'],
    [() => profile({ way: 'tcp', gateways: [] }), 'host and port'],
    [() => profile({ way: 'modem', modem: 'none' }), 'choose a modem program'],
    [() => profile({ radio: 'none' }), 'no radio none'],
    [() => profile({ linkId: randomUUID() }), 'was removed'],
    [() => profile({ schedule }), 'local rules'],
    [() => ({ listening: { isOn: true, ssid: 0, allowsAutomatic: false } }), 'local rules'],
    [() => ({ listening: { isOn: true, ssid: 0, allowsAutomatic: true } }), 'choose a link'],
    [
      () => ({
        radios: [
          {
            name: 'r',
            at: '/dev/x',
            speed: 9600,
            ending: 'CR',
            words: { set: 'SEND', ask: 'F', frequencyIs: 'F{hz}' },
          },
        ],
      }),
      'without a frequency',
    ],
  ])('is refused with the reason: %#', async (more, words) => {
    const { status, body } = await change(more());
    expect([status, JSON.stringify(body.fields ?? '')]).toEqual([400, expect.stringContaining(words)]);
  });

  it('of another version is refused', async () => {
    expect(await change({ version: 0 })).toMatchObject({ status: 409 });
  });
});
