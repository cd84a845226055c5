import { COMMAND_ID, insist } from './insist.js';

/** A server that answers with these one after the other, the last for good. */
function server(...answers: readonly number[]) {
  const ids = new Set<string>();
  let asked = 0;
  let waitedMs = 0;
  return {
    ask: (_: unknown, init?: RequestInit) => {
      ids.add((init?.headers as Record<string, string> | undefined)?.[COMMAND_ID] as string);
      return Promise.resolve(new Response(null, { status: answers[asked++] ?? (answers.at(-1) as number) }));
    },
    wait: (ms: number) => Promise.resolve(void (waitedMs += ms)),
    told: () => ({ asked, waitedMs, ids: ids.size }),
  };
}

it.each([
  ['at once', [200], 200, { asked: 1, waitedMs: 0, ids: 1 }],
  ['refused is refused', [400], 400, { asked: 1, waitedMs: 0, ids: 1 }],
  ['the database comes back: the same command', [503, 503, 201], 201, { asked: 3, waitedMs: 2000, ids: 1 }],
  ['it stays away', [503], 503, { asked: 60, waitedMs: 59_000, ids: 1 }],
] as const)('%s', async (_, answers, status, told) => {
  const far = server(...answers);
  expect((await insist('http://127.0.0.1/x', { method: 'PUT' }, far)).status).toBe(status);
  expect(far.told()).toEqual(told);
});
