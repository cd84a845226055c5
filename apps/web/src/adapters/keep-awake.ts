/**
 * Keeps the screen on while a device is lent, where the browser can (W3C Screen Wake Lock): a sleeping phone forwards
 * nothing. The browser lets go whenever the page is hidden, so it is asked again when the page is shown.
 */
export function keepAwake(): () => void {
  if (!('wakeLock' in navigator)) return () => undefined;
  let lock: WakeLockSentinel | undefined;
  let isWanted = true;
  const ask = (): void => {
    if (document.visibilityState !== 'visible') return;
    navigator.wakeLock.request('screen').then(
      (given) => (isWanted ? (lock = given) : void given.release()),
      () => undefined,
    );
  };
  ask();
  document.addEventListener('visibilitychange', ask);
  return () => {
    isWanted = false;
    document.removeEventListener('visibilitychange', ask);
    void lock?.release();
  };
}
