import type * as SheetTicks from './sheet-ticks';

/** A browser’s memory, as far as it is used. */
const memory = new Map<string, string>();
Object.assign(globalThis, {
  window: globalThis,
  localStorage: {
    getItem: (key: string) => memory.get(key) ?? null,
    setItem: (key: string, value: string) => void memory.set(key, value),
    removeItem: (key: string) => void memory.delete(key),
  },
});

const answer = (status: number): Response =>
  new Response(JSON.stringify({ happened: 'x', status }), {
    status,
    headers: { 'content-type': 'application/json' },
  });

const taken = (body: string): Response =>
  new Response(JSON.stringify({ ...(JSON.parse(body) as object), chainId: 'c', atMs: 7 }), { status: 201 });

let ticks: typeof SheetTicks;
const sent: string[] = [];
let server: (body: string) => Response | undefined = taken;

beforeAll(async () => {
  globalThis.fetch = ((_: string, { body }: { body: string }) => {
    const given = server(body);
    if (!given) return Promise.reject(new TypeError('no server'));
    sent.push((JSON.parse(body) as { stepId: string }).stepId);
    return Promise.resolve(given);
  }) as typeof fetch;
  ticks = await import('./sheet-ticks');
});

const tick = (stepId: string): void => ticks.tickStep('c', { stepId, isDone: true, measured: '', note: '' });
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 5));
const waiting = (): string[] =>
  ticks.useSheetMemory.getState().waiting.map(({ settings }) => settings.stepId);

describe('ticks of a setup sheet', () => {
  it('go to the server at once, and wait no longer', async () => {
    tick('a');
    expect(waiting()).toEqual(['a']);
    await settle();
    expect([sent, waiting()]).toEqual([['a'], []]);
  });

  it('stay ticked while the event of them is on its way', async () => {
    const { useLive } = await import('./store');
    expect(useLive.getState().ticks.get('c a')).toMatchObject({ isDone: true, atMs: 7 });
  });

  it('wait while there is no server, in their order, also over a reload', async () => {
    server = () => undefined;
    tick('b');
    tick('c');
    await settle();
    expect(waiting()).toEqual(['b', 'c']);
    expect(memory.get('sheet-memory')).toContain('"stepId":"c"');
    server = taken;
    await ticks.sendWaiting();
    expect([sent, waiting()]).toEqual([['a', 'b', 'c'], []]);
  });

  it('that the server cannot take now wait; those that it refuses for good do not', async () => {
    server = () => answer(503);
    tick('d');
    await settle();
    expect(waiting()).toEqual(['d']);
    server = (body) => (body.includes('"d"') ? answer(404) : taken(body));
    tick('e');
    await settle();
    expect(waiting()).toEqual([]);
  });

  it('keep what is half written', () => {
    const key = ticks.draftKey('c', 'squelch');
    ticks.writeDraft(key, { measured: '', note: 'flutters' });
    expect(ticks.useSheetMemory.getState().drafts[key]).toEqual({ measured: '', note: 'flutters' });
    expect(memory.get('sheet-memory')).toContain('flutters');
  });
});
