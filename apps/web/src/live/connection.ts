import { PULSE, PULSE_EVERY_MS, type LiveEvent } from '@mistpeak/contract/live';
import { askAccess, learnAccess } from './access';
import { useReplaying } from './replaying';
import { showKeptState } from './kept-state';
import { applyEvents, setConnection } from './store';

const RETRY_MS = [500, 1000, 2000, 5000] as const;
/** What comes is drawn at most this often: each drawing of log, lanes and list costs tens of milliseconds. */
const FOLD_EVERY_MS = 80;
/** More frames than that a second, which no eye follows one by one, are drawn less often, so that the page stays at hand. */
const BUSY_FROM = 35;
const FOLD_BUSY_EVERY_MS = 500;
/** Neither an event nor a pulse for so long: the server is silent, though its socket may still stand. */
const SILENT_AFTER_MS = 2 * PULSE_EVERY_MS + 1000;

/** What the stream is made of: for tests, which play the server. */
export interface Stream {
  readonly open: (url: string) => Pick<WebSocket, 'onopen' | 'onmessage' | 'onclose' | 'close'>;
  readonly setTimer: (call: () => void, ms: number) => number;
  readonly clearTimer: (timer: number) => void;
  readonly nowMs: () => number;
  readonly showKept: () => Promise<unknown>;
}

const BROWSERS: Stream = {
  open: (url) => new WebSocket(url),
  setTimer: (call, ms) => window.setTimeout(call, ms),
  clearTimer: (timer) => window.clearTimeout(timer),
  nowMs: () => performance.now(),
  showKept: showKeptState,
};

/** Follows the server's event stream for the life of the page, resuming after the last event seen. */
export function followLive(stream: Stream = BROWSERS): void {
  let epoch = '';
  let since = 0;
  let attempt = 0;
  const waiting: LiveEvent[] = [];
  let isScheduled = false;
  let foldedAtMs = 0;

  let perSecond = 0;

  const foldWaiting = (): void => {
    isScheduled = false;
    const events = waiting.splice(0);
    const seconds = Math.min(1, (stream.nowMs() - foldedAtMs) / 1000);
    const frames = events.filter(({ kind }) => kind === 'frame').length;
    // Smoothed over about a second.
    perSecond += frames - perSecond * seconds;
    foldedAtMs = stream.nowMs();
    // A past hour is on the screens: what happens now comes with the snapshot after it.
    if (!useReplaying.getState().isOn) applyEvents(events);
  };
  const take = (event: LiveEvent): void => {
    epoch = event.epoch;
    since = event.seq;
    waiting.push(event);
    if (isScheduled) return;
    isScheduled = true;
    const pace = perSecond < BUSY_FROM ? FOLD_EVERY_MS : FOLD_BUSY_EVERY_MS;
    stream.setTimer(foldWaiting, Math.max(0, foldedAtMs + pace - stream.nowMs()));
  };
  const connect = (): void => {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const socket = stream.open(`${scheme}://${location.host}/api/v1/live?epoch=${epoch}&since=${since}`);
    let silence = 0;
    const over = (): void => {
      stream.clearTimer(silence);
      socket.onopen = socket.onmessage = socket.onclose = null;
      const isFirst = epoch === '';
      if (!isFirst) setConnection('away');
      // It may be that we are nobody any more: that ends the stream too. Where nobody answers, before the first word of the
      // server, there is nothing to show but what was kept.
      askAccess().catch(() => (isFirst ? stream.showKept() : undefined));
      stream.setTimer(connect, RETRY_MS[Math.min(attempt++, RETRY_MS.length - 1)] ?? 0);
    };
    const listen = (): void => {
      stream.clearTimer(silence);
      silence = stream.setTimer(() => {
        over();
        socket.close();
      }, SILENT_AFTER_MS);
    };
    listen();
    socket.onopen = () => {
      attempt = 0;
      // The first time it is open only with the snapshot: before it, nothing is known, not even who is at the bench.
      if (epoch !== '') setConnection('open');
      learnAccess();
      listen();
    };
    socket.onmessage = ({ data }) => {
      listen();
      if (data !== PULSE) take(JSON.parse(data as string) as LiveEvent);
    };
    socket.onclose = over;
  };
  connect();
}
