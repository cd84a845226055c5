import { COMMAND_ID } from '@mistpeak/contract/command-id';
import { command, problemOf, Refused, sendFile } from './api';
import { setConnection } from './live/store';

interface Asked {
  readonly url: string;
  readonly id: string | undefined;
  readonly signal: AbortSignal;
  readonly answer: (status: number, body?: unknown) => Promise<void>;
  readonly answerInPart: (status: number, text: string) => Promise<void>;
  readonly answerStrangely: (status: number, text: string) => Promise<void>;
  readonly breakOff: () => Promise<void>;
}

/** The server, played by the test. */
let asked: Asked[];
let nowMs = 0;
const settle = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

beforeEach(() => {
  asked = [];
  nowMs += 1_000_000;
  jest.spyOn(performance, 'now').mockImplementation(() => nowMs);
  jest.spyOn(globalThis, 'fetch').mockImplementation((input, init) => {
    let resolve: (response: Response) => void = () => undefined;
    let reject: (error: Error) => void = () => undefined;
    const promise = new Promise<Response>((take, refuse) => ([resolve, reject] = [take, refuse]));
    const signal = init?.signal ?? new AbortController().signal;
    signal.addEventListener('abort', () => reject(new Error('given up')));
    asked.push({
      url: input as string,
      id: (init?.headers as Record<string, string> | undefined)?.[COMMAND_ID],
      signal,
      answer: (status, body) => {
        resolve(new Response(body === undefined ? null : JSON.stringify(body), { status }));
        return settle();
      },
      answerInPart: (status, text) => {
        const body = new ReadableStream({
          start: (line) => line.enqueue(new TextEncoder().encode(text)),
          pull: (line) => line.error(new Error('cut')),
        });
        resolve(new Response(body, { status }));
        return settle();
      },
      answerStrangely: (status, text) => {
        resolve(new Response(text, { status }));
        return settle();
      },
      breakOff: () => {
        reject(new Error('cut'));
        return settle();
      },
    });
    return promise;
  });
});
afterEach(() => jest.restoreAllMocks());

const beacon = (): Promise<unknown> => command('POST', '/beacon', { linkId: 'a' });
const idOf = (at: number): string | undefined => asked[at]?.id;

describe('a command', () => {
  it('pressed twice is asked once, while it is on its way and just after', async () => {
    const presses = [beacon(), beacon()];
    await asked[0]?.answer(200, { ok: 1 });
    nowMs += 600;
    presses.push(beacon());
    expect(await Promise.all(presses)).toEqual([{ ok: 1 }, { ok: 1 }, { ok: 1 }]);
    expect(asked).toHaveLength(1);
    nowMs += 1;
    void beacon();
    expect(asked).toHaveLength(2);
    expect(idOf(1)).not.toBe(idOf(0));
    await asked[1]?.answer(204);
  });

  it('is another after a different one, and with other contents', async () => {
    const open = command('POST', '/open');
    await asked[0]?.answer(204);
    void command('POST', '/close');
    await asked[1]?.answer(204);
    void command('POST', '/open');
    void command('POST', '/open', {});
    expect(asked.map(({ url }) => url)).toEqual([
      '/api/v1/open',
      '/api/v1/close',
      '/api/v1/open',
      '/api/v1/open',
    ]);
    for (const one of asked.slice(2)) await one.answer(204);
    await open;
  });

  it('that had no answer keeps its id until it has one', async () => {
    const first = beacon();
    await asked[0]?.breakOff();
    await expect(first).rejects.toMatchObject({ problem: { reason: 'server-away' } });
    const second = beacon();
    expect(idOf(1)).toBe(idOf(0));
    await asked[1]?.answer(409, { reason: 'changed-meanwhile', happened: 'so' });
    await expect(second).rejects.toBeInstanceOf(Refused);
    void beacon().catch(() => undefined);
    expect(idOf(2)).not.toBe(idOf(0));
    await asked[2]?.answer(204);
  });

  it('that was refused is asked again at once', async () => {
    const first = beacon();
    await asked[0]?.answer(400, { reason: 'field-refused', happened: 'so' });
    await first.catch((error: unknown) => expect(problemOf(error).reason).toBe('field-refused'));
    void beacon();
    expect(asked).toHaveLength(2);
    await asked[1]?.answer(204);
  });

  it('to a silent server is given up: after ten seconds, after two while it is known to be away', async () => {
    const patience = jest.spyOn(AbortSignal, 'timeout');
    const first = beacon();
    setConnection('away');
    void command('GET', '/links').catch(() => undefined);
    setConnection('open');
    expect(patience.mock.calls).toEqual([[10_000], [2000]]);
    await asked[0]?.breakOff();
    await expect(first).rejects.toMatchObject({ problem: { happened: 'Mistpeak does not answer.' } });
    await asked[1]?.answer(200, []);
  });

  it('that its page can give up waits as long as the page does', async () => {
    const patience = jest.spyOn(AbortSignal, 'timeout');
    const page = new AbortController();
    const listening = command('POST', '/listening', {}, page.signal);
    expect(patience).not.toHaveBeenCalled();
    page.abort();
    await expect(listening).rejects.toBeInstanceOf(Refused);
    const again = command('POST', '/listening', {}, new AbortController().signal);
    await asked[1]?.answer(200, {});
    await again;
    // Done, it can be asked anew at once.
    void command('POST', '/listening', {}, new AbortController().signal);
    expect(asked).toHaveLength(3);
    await asked[2]?.answer(200, {});
  });

  it.each([
    ['cut off', '{"role":'],
    ['cut off at a place where it could end', '[]'],
    ['cut off before its first word', ''],
  ])('whose answer was %s has none, and keeps its id', async (_, text) => {
    const isAway = { problem: { reason: 'server-away' } };
    const told = expect(beacon()).rejects.toMatchObject(isAway);
    await asked[0]?.answerInPart(200, text);
    await told;
    void beacon();
    expect(idOf(1)).toBe(idOf(0));
    await asked[1]?.answer(204);
    const alsoTold = expect(sendFile('PUT', '/maps/a', new Blob(['a']), 'text/plain')).rejects.toMatchObject(
      isAway,
    );
    await asked[2]?.answerInPart(200, text);
    await alsoTold;
  });

  it('that is answered with nothing, or by a stranger', async () => {
    const done = beacon();
    await asked[0]?.answer(201);
    expect(await done).toBeUndefined();
    for (const [status, text] of [
      [200, '<html>'],
      [502, '<html>'],
      [500, ''],
    ] as const) {
      const strange = command('GET', '/links');
      const told = expect(strange).rejects.toMatchObject({ problem: { reason: 'server-away' } });
      await asked.at(-1)?.answerStrangely(status, text);
      await told;
    }
  });

  it('that only asks has no id, and is asked each time', async () => {
    void command('GET', '/links');
    void command('GET', '/links');
    expect(asked.map(({ id }) => id)).toEqual([undefined, undefined]);
    for (const one of asked) await one.answer(200, []);
  });
});
