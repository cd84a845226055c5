import type { LiveEvent } from '@mistpeak/contract/live';
import { askAccess } from './access';
import { applyEvents, setConnection } from './store';

const RETRY_MS = [500, 1000, 2000, 5000] as const;
/** A busy channel is drawn at most this often: each drawing of log, lanes and list costs tens of milliseconds. */
const FOLD_EVERY_MS = 80;

/** Follows the server's event stream for the life of the page, resuming after the last event seen. */
export function followLive(): void {
  let epoch = '';
  let since = 0;
  let attempt = 0;
  const waiting: LiveEvent[] = [];
  let isScheduled = false;
  let foldedAtMs = 0;

  const foldWaiting = (): void => {
    isScheduled = false;
    foldedAtMs = performance.now();
    applyEvents(waiting.splice(0));
  };
  const take = (event: LiveEvent): void => {
    epoch = event.epoch;
    since = event.seq;
    waiting.push(event);
    if (isScheduled) return;
    isScheduled = true;
    setTimeout(foldWaiting, Math.max(0, foldedAtMs + FOLD_EVERY_MS - performance.now()));
  };
  const connect = (): void => {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const socket = new WebSocket(`${scheme}://${location.host}/api/v1/live?epoch=${epoch}&since=${since}`);
    socket.onopen = () => {
      attempt = 0;
      // The first time it is open only with the snapshot: before it, nothing is known, not even who is at the bench.
      if (epoch !== '') setConnection('open');
      askAccess().catch(() => undefined);
    };
    socket.onmessage = ({ data }) => take(JSON.parse(data as string) as LiveEvent);
    socket.onclose = () => {
      setConnection('away');
      setTimeout(connect, RETRY_MS[Math.min(attempt++, RETRY_MS.length - 1)]);
    };
  };
  connect();
}
