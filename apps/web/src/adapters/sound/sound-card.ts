import soundPortUrl from './sound-port.worklet?worker&url';
import type { ToSoundPort } from './sound-port.worklet';
import { whyNotSecure, type CannotLend } from '../lent-device';

export interface SoundDevice {
  readonly id: string;
  readonly label: string;
}

/** The sound card of this browser, open: blocks go to and from `port`. */
export interface SoundCard {
  readonly rateHz: number;
  readonly inputName: string;
  /** The other end of the worklet's port, for the worker. */
  readonly port: MessagePort;
  /** Why the output is not the one that was asked for, if so. */
  readonly outputTrouble?: string;
  /** Ends when the input goes away, with words. */
  readonly closed: Promise<string>;
  /** Nothing that waits is played any more. */
  clear(): void;
  /** After a sleep the browser may have stopped the sound. */
  wake(): void;
  close(): void;
}

export interface SoundCardWish {
  readonly inputId?: string | undefined;
  /** Undefined: nothing is played. */
  readonly outputId?: string | undefined;
  readonly plays: boolean;
  /** 0 left, 1 right, -1 both. */
  readonly channel: number;
}

export function whyNoSound(): CannotLend | undefined {
  return (
    whyNotSecure() ??
    (typeof AudioWorkletNode === 'function' && navigator.mediaDevices
      ? undefined
      : {
          happened: 'This browser gives pages no sound input.',
          means: 'It lacks audio worklets or media devices.',
          try: 'Use a newer browser, or the sound card of the machine of Mistpeak.',
        })
  );
}

/** Names are told only once the page was given a microphone. */
export async function listSoundDevices(): Promise<{ inputs: SoundDevice[]; outputs: SoundDevice[] }> {
  const all = await navigator.mediaDevices.enumerateDevices();
  const of = (kind: MediaDeviceKind): SoundDevice[] =>
    all
      .filter((one) => one.kind === kind && one.deviceId !== '')
      .map(({ deviceId, label }) => ({ id: deviceId, label: label || 'sound device' }));
  return { inputs: of('audioinput'), outputs: of('audiooutput') };
}

/** Opens it, with all processing off: what a browser does for voices spoils packets. Rejects with what the browser says. */
export async function openSoundCard({
  inputId,
  outputId,
  plays,
  channel,
}: SoundCardWish): Promise<SoundCard> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: {
      echoCancellation: false,
      noiseSuppression: false,
      autoGainControl: false,
      channelCount: { ideal: 2 },
      ...(inputId && { deviceId: { exact: inputId } }),
    },
  });
  const [track] = stream.getAudioTracks();
  if (!track) throw new Error('the input gives no sound');
  // Who only listens has time, and a buffer that a busy device does not empty.
  const context = new AudioContext({ latencyHint: plays ? 'interactive' : 'playback' });
  try {
    await context.audioWorklet.addModule(soundPortUrl);
    await context.resume();
    const outputTrouble = plays && outputId ? await chooseOutput(context, outputId) : undefined;
    const node = new AudioWorkletNode(context, 'sound-port', {
      numberOfInputs: 1,
      numberOfOutputs: 1,
      outputChannelCount: [2],
      processorOptions: { channel },
    });
    context.createMediaStreamSource(stream).connect(node);
    // Without a way to the output some browsers do not run a worklet: what is not played is taken down to nothing.
    const volume = new GainNode(context, { gain: plays ? 1 : 0 });
    node.connect(volume).connect(context.destination);
    const { port1, port2 } = new MessageChannel();
    const tell = (message: ToSoundPort, ...transfer: Transferable[]): void =>
      node.port.postMessage(message, transfer);
    tell({ port: port2 }, port2);
    return {
      rateHz: context.sampleRate,
      inputName: track.label || 'microphone',
      port: port1,
      ...(outputTrouble !== undefined && { outputTrouble }),
      closed: new Promise((resolve) => (track.onended = () => resolve('the sound input went away'))),
      clear: () => tell({ clear: true }),
      wake: () => void context.resume(),
      close: () => {
        track.stop();
        void context.close();
      },
    };
  } catch (error) {
    track.stop();
    void context.close();
    throw error;
  }
}

/** setSinkId is not offered everywhere (W3C Audio Output Devices): then the sound goes where the browser sends it. */
async function chooseOutput(context: AudioContext, outputId: string): Promise<string | undefined> {
  if (!('setSinkId' in context))
    return 'This browser does not let a page choose the output: choose it in the settings of this device.';
  try {
    await (context as AudioContext & { setSinkId(id: string): Promise<void> }).setSinkId(outputId);
    return undefined;
  } catch (error) {
    return `The browser refused this output (${error instanceof Error ? error.message : String(error)}): the sound goes where it sends all sound.`;
  }
}

/** What the browser's refusal means. */
export function wordsOfRefusal(error: unknown): CannotLend {
  const name = error instanceof DOMException ? error.name : '';
  switch (name) {
    case 'NotAllowedError':
      return {
        happened: 'The browser refused the microphone.',
        means:
          'It asks once for each page, and remembers the answer; a phone asks in its own settings besides.',
        try: 'Allow the microphone for this page: beside the address, or in the settings of the browser. Then press again.',
      };
    case 'NotFoundError':
    case 'OverconstrainedError':
      return {
        happened: 'There is no such sound input.',
        means: 'Nothing is plugged in, or the one that was chosen is not there any more.',
        try: 'Plug the cable in, and choose the input again.',
      };
    case 'NotReadableError':
      return {
        happened: 'The sound input is taken.',
        means: 'Another program holds it, or the system does not give it.',
        try: 'Close the other program, a call or a modem program, and press again.',
      };
    default:
      return {
        happened: 'The sound input did not open.',
        means: `The browser says: ${error instanceof Error ? error.message : String(error)}.`,
        try: 'Unplug it, plug it in again, and press again.',
      };
  }
}
