import { mkdtempSync, readFileSync, rmSync, writeFileSync, existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Beside } from './beside.js';

const folder = mkdtempSync(join(tmpdir(), 'mistpeak-beside-'));
const told = join(folder, 'told');
/** In the place of a launcher: says how it was started, and ends as one does. */
const script = join(folder, 'launcher.mjs');
writeFileSync(
  script,
  `import { appendFileSync } from 'node:fs';
   const say = (words) => appendFileSync(${JSON.stringify(told)}, words + '\\n');
   process.on('SIGTERM', () => { say('told to stop'); process.exit(0); });
   if (process.env.MISTPEAK_ENDS_WITH_INPUT) process.stdin.resume().once('end', () => process.exit(0));
   say(process.argv.slice(2).join(' '));`,
);
afterAll(() => rmSync(folder, { recursive: true }));
const lines = (): string[] => (existsSync(told) ? readFileSync(told, 'utf8').trim().split('\n') : []);
async function untilLines(count: number): Promise<string[]> {
  for (let tries = 0; tries < 3000 && lines().length < count; tries++)
    await new Promise((resolve) => setTimeout(resolve, 20));
  return lines();
}

it('a practice world beside is a demo in a folder below; begun twice it is one; stopped, it can be begun anew', async () => {
  jest.spyOn(console, 'log').mockImplementation(() => undefined);
  const beside = new Beside(folder, 4321, script);
  await beside.stop();
  beside.begin();
  beside.begin();
  const started = `demo --data ${join(folder, 'practice')} --port 4321`;
  expect(await untilLines(1)).toEqual([started]);
  await beside.stop();
  expect(await untilLines(2)).toEqual([started, 'told to stop']);
  beside.begin();
  expect(await untilLines(3)).toEqual([started, 'told to stop', started]);
  await beside.stop();
});
