import { PULSE, type LiveEvent } from '@mistpeak/contract/live';
import { ALL_WELL } from '@mistpeak/contract/health';
import { followLive, type Stream } from './connection';
import { useLive } from './store';

jest.mock('./access', () => ({
  askAccess: () => Promise.reject(new Error('no server')),
  learnAccess: () => undefined,
}));

type Socket = ReturnType<Stream['open']>;

/** A server that the test plays, and timers that it moves. */
function bench() {
  const sockets: (Socket & { url: string; isClosed: boolean })[] = [];
  const timers: { dueMs: number; call: () => void; id: number }[] = [];
  let nowMs = 0;
  let lastId = 0;
  const stream: Stream = {
    open: (url) => {
      const socket = {
        url,
        isClosed: false,
        onopen: null,
        onmessage: null,
        onclose: null,
        close: () => void (socket.isClosed = true),
      };
      sockets.push(socket);
      return socket;
    },
    setTimer: (call, ms) => {
      timers.push({ dueMs: nowMs + ms, call, id: ++lastId });
      return lastId;
    },
    nowMs: () => nowMs,
    showKept: () => Promise.resolve(shownKept++),
    clearTimer: (id) => {
      const at = timers.findIndex((one) => one.id === id);
      if (at >= 0) timers.splice(at, 1);
    },
  };
  const pass = (ms: number): void => {
    const untilMs = nowMs + ms;
    for (;;) {
      const next = timers.filter(({ dueMs }) => dueMs <= untilMs).sort((a, b) => a.dueMs - b.dueMs)[0];
      if (!next) break;
      nowMs = next.dueMs;
      stream.clearTimer(next.id);
      next.call();
    }
    nowMs = untilMs;
  };
  const last = () => sockets.at(-1) as Socket & { url: string; isClosed: boolean };
  const say = (data: string): void => last().onmessage?.call({} as never, { data } as MessageEvent);
  const event = (seq: number): string =>
    JSON.stringify({ kind: 'health', data: ALL_WELL, epoch: 'e', seq } satisfies LiveEvent);
  return { stream, sockets, pass, last, say, event };
}

beforeAll(() => {
  globalThis.location = { protocol: 'http:', host: 'hut' } as Location;
});

let shownKept = 0;
const connection = (): string => useLive.getState().connection;

describe('what comes', () => {
  const frame = (seq: number): string =>
    JSON.stringify({
      kind: 'frame',
      data: {
        id: `${seq}`,
        atMs: 0,
        linkId: 'a',
        direction: 'heard',
        port: 0,
        origin: 'kiss',
        rawHex: '',
        trouble: 'not AX.25',
        stored: true,
      },
      epoch: 'e',
      seq,
    } satisfies LiveEvent);

  /** How often the page changes in the tenth second of so many frames a second. */
  function changes(perSecond: number): number {
    const { stream, pass, say } = bench();
    followLive(stream);
    let times = 0;
    for (let i = 0; i < 10 * perSecond; i++) {
      if (i === 9 * perSecond) useLive.subscribe(() => times++);
      say(frame(i));
      pass(1000 / perSecond);
    }
    return times;
  }

  it('is drawn twelve times a second at most, and less often where no eye could follow', () => {
    expect(changes(5)).toBe(5);
    expect(changes(20)).toBeGreaterThanOrEqual(10);
    expect(changes(20)).toBeLessThanOrEqual(13);
    expect(changes(50)).toBeLessThanOrEqual(4);
  });

  it('is folded at once after a pause', () => {
    const { stream, pass, say } = bench();
    followLive(stream);
    pass(5000);
    let times = 0;
    useLive.subscribe(() => times++);
    say(frame(1));
    pass(0);
    expect(times).toBe(1);
  });
});

describe('a server that hangs', () => {
  it('is told within ten seconds, its socket is left, and the stream resumes after the last event', () => {
    const { stream, sockets, pass, last, say, event } = bench();
    followLive(stream);
    last().onopen?.call({} as never, {} as Event);
    say(event(7));
    pass(100);
    // As the snapshot does, which comes first.
    useLive.setState({ connection: 'open' });
    for (let i = 0; i < 10; i++) {
      pass(3000);
      say(PULSE);
    }
    expect(connection()).toBe('open');
    const [first] = sockets;
    pass(6999);
    expect(connection()).toBe('open');
    pass(1);
    expect([connection(), first?.isClosed]).toEqual(['away', true]);
    pass(500);
    expect(sockets.map(({ url }) => url)).toEqual([
      'ws://hut/api/v1/live?epoch=&since=0',
      'ws://hut/api/v1/live?epoch=e&since=7',
    ]);
  });

  it('that does not even take the connection is tried again, and what was kept is shown meanwhile', async () => {
    const { stream, sockets, pass } = bench();
    useLive.setState({ connection: 'connecting' });
    const before = shownKept;
    followLive(stream);
    pass(7000);
    await new Promise((resolve) => setTimeout(resolve, 10));
    expect([connection(), shownKept]).toEqual(['connecting', before + 1]);
    pass(500);
    expect(sockets).toHaveLength(2);
    pass(7000 + 1000);
    expect(sockets).toHaveLength(3);
  });
});
