import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { installService, removeService, UNIT, unitText, verified, word } from './service.js';

const OPTIONS = { user: 'operator', data: '/var/lib/mist peak', port: 7400, lan: true };
const folder = mkdtempSync(join(tmpdir(), 'mistpeak-service-'));
const said = jest.spyOn(console, 'log').mockImplementation(() => undefined);

afterAll(() => rmSync(folder, { recursive: true, force: true }));

// from: systemd.service(5), "Command lines"; systemd.unit(5), "Specifiers"
it.each([
  ['plain', '"plain"'],
  ['a b', '"a b"'],
  ['100%', '"100%%"'],
  ['$HOME', '"$$HOME"'],
  ['a"b\\', '"a\\"b\\\\"'],
])('a word of a command line: %s', (text, written) => expect(word(text)).toBe(written));

it('starts with the machine, as its operator, again whenever it ends, and is ended as by Ctrl-C', () => {
  const text = unitText(OPTIONS);
  for (const line of ['User=operator', 'Restart=always', 'KillSignal=SIGINT', 'WantedBy=multi-user.target'])
    expect(text.split('\n')).toContain(line);
  expect(text).toMatch(
    /^ExecStart=".*\/mistpeak" "start" "--data" "\/var\/lib\/mist peak" "--port" "7400" "--lan"$/m,
  );
  expect(unitText({ ...OPTIONS, port: undefined, lan: false })).toMatch(/"--data" "[^"]*"$/m);
});

it('systemd itself takes it, where it is there', () => {
  const { error } = spawnSync('systemd-analyze', ['--version']);
  const user = execFileSync('id', ['-un'], { encoding: 'utf8' }).trim();
  expect(verified(unitText({ ...OPTIONS, user }))).toBe('');
  if (!error) expect(verified('[Service]\nType=nonsense\n')).not.toBe('');
});

it('is printed before it is written, and taken back', () => {
  expect(installService({ ...OPTIONS, user: 'root' }, folder)).toBe(0);
  expect(readFileSync(join(folder, UNIT), 'utf8')).toBe(said.mock.calls[0]?.[0]);
  expect(removeService(folder)).toBe(0);
  expect(existsSync(join(folder, UNIT))).toBe(false);
  expect(removeService(folder)).toBe(0);
  expect(said).toHaveBeenLastCalledWith('There is no such service.');
});
