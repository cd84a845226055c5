/** Asks the browser for leave to show notices; call it from a click. */
export async function askForNotices(): Promise<boolean> {
  return typeof Notification !== 'undefined' && (await Notification.requestPermission()) === 'granted';
}

/** Without a sound: the browser may have one of its own otherwise. */
export function showNotice(words: string): void {
  new Notification('Mistpeak', { body: words, silent: true });
}

export function playTone(): void {
  const context = new AudioContext();
  const tone = new OscillatorNode(context, { frequency: 660 });
  const volume = new GainNode(context, { gain: 0.1 });
  tone.connect(volume).connect(context.destination);
  tone.start();
  tone.stop(context.currentTime + 0.2);
  tone.onended = () => void context.close();
}
