import { command } from '../api';
import { useAccess } from './access';
import { useLive } from './store';

const EVERY_MS = 10 * 60_000;

/** Tells the server how far its clock is from this device’s: a phone sets itself by its network, a computer in the field may not. */
export function compareTime(): void {
  const compare = async (): Promise<void> => {
    const beganMs = Date.now();
    const { nowMs } = await command<{ nowMs: number }>('GET', '/true-time/now');
    const withinMs = (Date.now() - beganMs) / 2;
    await command('POST', '/true-time/devices', { offByMs: beganMs + withinMs - nowMs, withinMs });
  };
  const again = (): void => {
    // Who may only look tells nothing.
    if (useAccess.getState().role === 'operator') void compare().catch(() => undefined);
  };
  useLive.subscribe(({ connection }, before) => {
    if (connection === 'open' && before.connection !== 'open') again();
  });
  setInterval(again, EVERY_MS);
}
