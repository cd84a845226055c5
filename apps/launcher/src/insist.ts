import { randomUUID } from 'node:crypto';

/** The server takes a command that comes again under the same id for the same one. */
export const COMMAND_ID = 'command-id';

const DATABASE_AWAY = 503;
const AGAIN_AFTER_MS = 1000;
const TRIES = 60;

export interface Ways {
  readonly ask: typeof fetch;
  readonly wait: (ms: number) => Promise<void>;
}

const USUAL: Ways = { ask: fetch, wait: (ms) => new Promise((resolve) => setTimeout(resolve, ms)) };

/** A command to the server, given again while its database is away: on a machine that stood still it comes back. It is done once. */
export async function insist(
  url: string,
  { headers, ...init }: RequestInit & { readonly headers?: Record<string, string> },
  { ask, wait }: Ways = USUAL,
): Promise<Response> {
  const same = { ...init, headers: { ...headers, [COMMAND_ID]: randomUUID() } };
  for (let tries = 1; ; tries++) {
    const answer = await ask(url, same);
    if (answer.status !== DATABASE_AWAY || tries === TRIES) return answer;
    await wait(AGAIN_AFTER_MS);
  }
}
