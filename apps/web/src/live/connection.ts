import type { LiveEvent } from '@mistpeak/contract/live';
import { applyEvents, setConnection } from './store';

const RETRY_MS = [500, 1000, 2000, 5000] as const;
/** A hidden page gets no animation frames; it folds this often. */
const HIDDEN_FOLD_MS = 250;

/** Follows the server's event stream for the life of the page, resuming after the last event seen. */
export function followLive(): void {
  let epoch = '';
  let since = 0;
  let attempt = 0;
  const waiting: LiveEvent[] = [];
  let isScheduled = false;

  const foldWaiting = (): void => {
    isScheduled = false;
    applyEvents(waiting.splice(0));
  };
  const take = (event: LiveEvent): void => {
    epoch = event.epoch;
    since = event.seq;
    waiting.push(event);
    if (isScheduled) return;
    isScheduled = true;
    if (document.hidden) setTimeout(foldWaiting, HIDDEN_FOLD_MS);
    else requestAnimationFrame(foldWaiting);
  };
  const connect = (): void => {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const socket = new WebSocket(`${scheme}://${location.host}/api/v1/live?epoch=${epoch}&since=${since}`);
    socket.onopen = () => {
      attempt = 0;
      setConnection('open');
    };
    socket.onmessage = ({ data }) => take(JSON.parse(data as string) as LiveEvent);
    socket.onclose = () => {
      setConnection('away');
      setTimeout(connect, RETRY_MS[Math.min(attempt++, RETRY_MS.length - 1)]);
    };
  };
  connect();
}
