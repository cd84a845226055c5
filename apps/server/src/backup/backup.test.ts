import { gunzipSync, gzipSync } from 'node:zlib';
import {
  BACKUP_TYPE,
  type BackupSummary,
  type BackupTicket,
  type RestoredView,
} from '@mistpeak/contract/backup';
import { MovedServer } from '../testing/moved-server.js';
import { linkTo, makeDatabase, OPERATOR, ServerUp } from '../testing/server-up.js';

const rig = MovedServer.forAllTests();
const PASSPHRASE = 'gannets on the ledge';

async function fetchBackup(from: ServerUp, order: object): Promise<Buffer> {
  const { body } = await from.ask<BackupTicket>('POST', '/backup', order);
  const answer = await fetch(`http://127.0.0.1:${from.port}/api/v1/backup/${body.ticket}`);
  expect(answer.headers.get('content-type')).toBe(BACKUP_TYPE);
  const again = await fetch(`http://127.0.0.1:${from.port}/api/v1/backup/${body.ticket}`);
  expect(again.status).toBe(404);
  return Buffer.from(await answer.arrayBuffer());
}

async function send(to: ServerUp, file: Uint8Array<ArrayBuffer>, type = BACKUP_TYPE) {
  const answer = await fetch(`http://127.0.0.1:${to.port}/api/v1/backup/file`, {
    method: 'POST',
    headers: { 'content-type': type },
    body: file,
  });
  return {
    status: answer.status,
    body: (await answer.json()) as BackupSummary & { fields?: Record<string, string> },
  };
}

/** All that pages are told and may ask for, but for what is of this moment. */
async function everything(server: ServerUp): Promise<unknown> {
  const { body: logbook } = await server.ask<{ entries: { kind: string }[] }>('GET', '/logbook?limit=200');
  const [operator, kit, gateways, mail, field] = await Promise.all(
    ['/operator', '/kit', '/gateways', '/mail', '/field'].map((path) => server.ask('GET', path)),
  );
  return {
    entries: logbook.entries.filter(({ kind }) => kind !== 'change'),
    operator: operator?.body,
    kit: kit?.body,
    gateways: { ...gateways?.body, revision: 0 },
    mail: { ...mail?.body, account: undefined },
    field: field?.body,
  };
}

const linesOf = (file: Buffer): string[] => gunzipSync(file).toString().trimEnd().split('\n');
const fileOf = (lines: readonly string[]): Buffer<ArrayBuffer> => gzipSync(`${lines.join('\n')}\n`);

beforeAll(async () => {
  const { server } = rig;
  await server.ask('POST', '/links', linkTo(9));
  await server.ask('POST', '/gateways/facts', {
    by: 'hand',
    name: '',
    facts: [
      {
        kind: 'mailbox',
        call: '1X2HUT-1',
        frequencyMHz: 144.8,
        mode: '',
        hours: '',
        notes: 'ä "q" \\ \u2028',
      },
    ],
  });
  await server.ask('POST', '/logbook/notes', { words: 'the mast is up', pictureBase64: 'iVBORw0KGgo=' });
  await server.ask('POST', '/logbook/trips', { name: 'Crag', fromMs: 0, place: '', better: '' });
  const { body } = await server.ask<{ settings: object }>('GET', '/mail');
  await server.ask('PUT', '/mail/settings', { ...body.settings, domain: 'mail.example' });
});

it('backup, restored into an empty installation, is equal; packets heard too', async () => {
  const file = await fetchBackup(rig.server, { withFrames: true });
  let other = await ServerUp.on(await makeDatabase(), { clock: rig.clock });
  try {
    const { body: summary } = await send(other, file as Buffer<ArrayBuffer>);
    expect(summary).toMatchObject({ call: OPERATOR.call, withFrames: true, hasSecrets: false });
    const { body } = await other.ask<RestoredView>('POST', '/backup/restore', { id: summary.id });
    expect(body).toEqual({ rows: summary.rows, leftOut: 0, secrets: 'not in it' });
    expect((await other.ask('POST', '/backup/restore', { id: summary.id })).status).toBe(404);
    const { databaseUrl } = other;
    await other.close();
    other = await ServerUp.on(databaseUrl, { clock: rig.clock });
    expect(await everything(other)).toEqual(await everything(rig.server));
    // What counts by itself goes on where it was.
    expect((await other.ask('POST', '/logbook/notes', { words: 'next' })).status).toBe(204);
  } finally {
    await other.close();
  }
});

it('secrets are in it only under a passphrase, sealed, and come out with that one alone', async () => {
  await rig.server.ask('PUT', '/access/password', { role: 'watcher', password: 'a watchful eye' });
  const open = linesOf(await fetchBackup(rig.server, { withFrames: false }));
  const sealed = await fetchBackup(rig.server, { withFrames: false, passphrase: PASSPHRASE });
  for (const lines of [open, linesOf(sealed)])
    expect(lines.some((line) => /"table":"(?:login|role_password)"/.test(line))).toBe(false);
  expect(linesOf(sealed).some((line) => line.startsWith('{"secrets"'))).toBe(true);
  const { body: summary } = await send(rig.server, sealed as Buffer<ArrayBuffer>);
  expect(summary.hasSecrets).toBe(true);
  const before = await everything(rig.server);
  const wrong = await rig.server.ask('POST', '/backup/restore', {
    id: summary.id,
    passphrase: 'another one',
  });
  expect(wrong.body).toMatchObject({ reason: 'passphrase-wrong' });
  expect(await everything(rig.server)).toEqual(before);
  const { body } = await rig.server.ask<RestoredView>('POST', '/backup/restore', {
    id: summary.id,
    passphrase: PASSPHRASE,
  });
  expect(body.secrets).toBe('taken');
  expect((await rig.server.ask('POST', '/backup', { withFrames: true, passphrase: 'short' })).status).toBe(
    400,
  );
});

it('what is damaged, cut off, of a newer Mistpeak or of something else is refused, and nothing is touched', async () => {
  const good = linesOf(await fetchBackup(rig.server, { withFrames: false }));
  const before = await everything(rig.server);
  const changed = good.map((line) => line.replace('the mast is up', 'the mast is on'));
  const newer = good.map((line, i) =>
    i === 0 ? line.replace(/"migration":"[^"]*"/, '"migration":"Later"') : line,
  );
  const version = good.map((line, i) => (i === 0 ? line.replace('"version":1', '"version":2') : line));
  const cases: [Uint8Array<ArrayBuffer>, RegExp][] = [
    [fileOf(changed), /sum does not fit/],
    [fileOf(good.slice(0, -1)), /end is missing/],
    [fileOf([...good.slice(0, 2), ...good.slice(3)]), /sum does not fit/],
    [fileOf(newer), /sum does not fit|newer/],
    [fileOf(version), /newer Mistpeak/],
    [fileOf(['{"a":1}']), /no backup of Mistpeak/],
    [fileOf(['[]']), /no backup of Mistpeak/],
    [new TextEncoder().encode('not even packed'), /cannot be unpacked/],
    [gzipSync(good.join('\n')).subarray(0, 60), /cannot be unpacked|no backup|damaged/],
  ];
  for (const [file, words] of cases) {
    const { status, body } = await send(rig.server, file);
    expect([status, body.fields?.file]).toEqual([400, expect.stringMatching(words)]);
  }
  expect((await send(rig.server, fileOf(good), 'application/octet-stream')).status).toBe(400);
  expect(await everything(rig.server)).toEqual(before);
});
