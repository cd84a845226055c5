import { create } from 'zustand';
import { KissDecoder } from '@mistpeak/core/kiss/codec';
import type { DecoderName } from '@mistpeak/core/modem/demodulator';
import { encodePcap, type CapturedPacket } from '@mistpeak/core/pcap/pcap';
import type { Channel } from '@mistpeak/core/wav/one-channel';
import type { LinkView } from '@mistpeak/contract/link';
import { USUAL_SOUND_SETUP, whySoundIsRefused, type SoundSetup } from '@mistpeak/contract/sound';
import type { SoundView } from '@mistpeak/contract/sound-view';
import type { SoundReport } from '@mistpeak/link/watched-tnc';
import { tncSettings } from '@mistpeak/link/sound-setup';
import type { CannotLend, LentDevice } from '../adapters/lent-device';
import {
  listSoundDevices,
  openSoundCard,
  whyNoSound,
  wordsOfRefusal,
  type SoundCard,
} from '../adapters/sound/sound-card';
import type { FromSoundWorker, ToSoundWorker } from '../workers/sound-messages';
import { LostSound } from './lost-sound';
import { HeardSound } from './heard-sound';

/** What listens: a sound card of this browser, or a file in its place. */
export interface Listening {
  readonly phase: 'off' | 'opening' | 'listening' | 'reading' | 'read' | 'failed';
  readonly name: string;
  readonly rateHz?: number;
  readonly decoder?: DecoderName;
  /** The decoder that was asked for was too slow here. */
  readonly isSlow: boolean;
  readonly busy?: string | undefined;
  /** Whole seconds that were listened to. */
  readonly seconds: number;
  readonly isKeyed: boolean;
  readonly waiting: number;
  /** Frames that were to be sent and were not. */
  readonly lost: number;
  readonly outputTrouble?: string | undefined;
  readonly trouble?: CannotLend;
  /** Of a file. */
  readonly share?: number;
  /** Sound that never came, whole seconds: the device was busy with something else. */
  readonly lostSeconds: number;
  /** The page slept, so long and until then, and heard nothing. */
  readonly missed?: { readonly fromMs: number; readonly toMs: number };
  readonly linkId?: string | undefined;
}

const OFF: Listening = {
  phase: 'off',
  name: '',
  isSlow: false,
  seconds: 0,
  lostSeconds: 0,
  isKeyed: false,
  waiting: 0,
  lost: 0,
};
/** A gap between two reports that is longer was a sleep. */
const SLEPT_MS = 3000;
const CHANNEL_NUMBER: Record<Channel, number> = { left: 0, right: 1, mix: -1 };
const LOOK_AGAIN_MS = 1000;
/** Packets that wait for a server that is away: days of a busy channel. */
const MOST_KEPT = 20_000;

/** One receiver at this page: its state for the screen, its sound for drawings. */
export class Receiver {
  readonly use = create<Listening>(() => OFF);
  readonly heard = new HeardSound();
  private worker: Worker | undefined;
  private card: SoundCard | undefined;
  private socket: WebSocket | undefined;
  private octetsTo: ((octets: Uint8Array) => void) | undefined;
  private lastReportMs = 0;
  /** Each choice of what is heard, and each stop, is a turn of its own. */
  private turn = 0;
  private lost = new LostSound();

  /** Opens the sound card; call it from a click. Rejects when it does not open; the state says why. */
  async listen(setup: SoundSetup, airRate = 1200, linkId?: string): Promise<SoundCard> {
    this.stop();
    const cannot = whyNoSound();
    const refused = whySoundIsRefused(setup);
    if (cannot) return this.fail(cannot);
    this.use.setState({ ...OFF, phase: 'opening', linkId }, true);
    const { turn } = this;
    let card: SoundCard;
    try {
      card = await openSoundCard({
        inputId: await idOf('inputs', setup.input),
        outputId: setup.keying === 'none' ? undefined : await idOf('outputs', setup.output),
        plays: setup.keying !== 'none',
        channel: CHANNEL_NUMBER[setup.hears],
      });
    } catch (error) {
      return this.fail(wordsOfRefusal(error));
    }
    if (turn !== this.turn) {
      // It was stopped, or something else was chosen, while the browser asked.
      card.close();
      throw new Error('it was stopped before the sound card opened');
    }
    this.card = card;
    const settings = tncSettings(setup, card.rateHz, airRate);
    const tooHigh = refused ?? whySoundIsRefused({ ...setup, rateHz: card.rateHz as SoundSetup['rateHz'] });
    if (tooHigh)
      return this.fail({
        happened: 'This set-up does not fit.',
        means: `${tooHigh.charAt(0).toUpperCase()}${tooHigh.slice(1)}.`,
        try: 'Change the set-up of the link.',
      });
    this.begin();
    this.tell({ kind: 'begin', settings, dataChannel: setup.sendsOn, port: card.port }, card.port);
    this.use.setState({
      phase: 'listening',
      name: card.inputName,
      rateHz: card.rateHz,
      ...(settings.decoder && { decoder: settings.decoder }),
      outputTrouble: card.outputTrouble,
    });
    void card.closed.then((words) => {
      if (this.card === card)
        this.fail({
          happened: 'The sound input went away.',
          means: `The browser says: ${words}.`,
          try: 'Plug it in again, and press again.',
        }).catch(() => undefined);
    });
    return card;
  }

  read(file: File, decoder: DecoderName = 'default', channel: Channel = 'mix'): void {
    this.stop();
    this.heard.clear();
    this.begin();
    this.use.setState({ ...OFF, phase: 'reading', name: file.name, decoder, share: 0 }, true);
    this.tell({ kind: 'file', file, decoder, channel });
  }

  /** Looks at a sound card of the server's machine, and again whenever the server comes back. */
  look({ id, settings }: LinkView): void {
    this.stop();
    this.use.setState({
      ...OFF,
      phase: 'listening',
      name: settings.sound?.input ?? 'sound card',
      rateHz: settings.sound?.rateHz ?? 0,
      decoder: settings.sound?.decoder ?? 'default',
      linkId: id,
    });
    this.lastReportMs = 0;
    this.lost = new LostSound();
    const connect = (): void => {
      const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
      const socket = new WebSocket(`${scheme}://${location.host}/api/v1/sound?link=${id}`);
      this.socket = socket;
      socket.onmessage = ({ data }: MessageEvent<string>) => {
        const { atMs, ...report } = soundReport(data);
        this.take({ kind: 'report', report, atMs });
      };
      socket.onclose = () => {
        if (this.socket === socket) setTimeout(() => this.socket === socket && connect(), LOOK_AGAIN_MS);
      };
    };
    connect();
  }

  stop(): void {
    this.turn++;
    const { socket } = this;
    this.socket = undefined;
    socket?.close();
    this.worker?.terminate();
    this.card?.close();
    this.worker = undefined;
    this.card = undefined;
    this.use.setState(OFF, true);
  }

  onOctets(take: (octets: Uint8Array) => void): void {
    this.octetsTo = take;
  }

  send(octets: Uint8Array): void {
    this.tell({ kind: 'kiss', octets });
  }

  sendAt(levelDbfs: number, twistDb: number): void {
    this.tell({ kind: 'send at', levelDbfs, twistDb });
  }

  silence(): void {
    this.tell({ kind: 'silence' });
    this.card?.clear();
  }

  wake(): void {
    this.card?.wake();
  }

  private begin(): void {
    const worker = new Worker(new URL('../workers/sound.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<FromSoundWorker>) => this.take(data);
    this.worker = worker;
    this.lastReportMs = 0;
    this.lost = new LostSound();
  }

  private tell(message: ToSoundWorker, ...transfer: Transferable[]): void {
    this.worker?.postMessage(message, transfer);
  }

  private take(message: FromSoundWorker): void {
    switch (message.kind) {
      case 'report': {
        const { report, atMs } = message;
        this.heard.take(report, atMs);
        const { busy, isKeyed, waiting, lost } = report;
        const is = this.use.getState();
        const slept = this.lastReportMs > 0 && atMs - this.lastReportMs > SLEPT_MS;
        if (slept && is.phase === 'listening')
          this.use.setState({ missed: { fromMs: this.lastReportMs, toMs: atMs } });
        this.lastReportMs = atMs;
        const seconds = Math.floor(report.heardMs / 1000);
        const lostSeconds = Math.floor(this.lost.note(atMs, report.passedMs) / 1000);
        const now = { busy, isKeyed, waiting, lost, seconds, lostSeconds };
        if (Object.entries(now).some(([key, value]) => is[key as keyof typeof now] !== value))
          this.use.setState(now);
        return;
      }
      case 'octets':
        return this.octetsTo?.(message.octets);
      case 'slow':
        return this.use.setState({ decoder: 'light', isSlow: true });
      case 'progress':
        return this.use.setState({ share: message.share });
      case 'file done':
        return this.use.setState({ phase: 'read', share: 1 });
      case 'failed':
        return void this.fail({
          happened: 'This file could not be read.',
          means: `${message.words.charAt(0).toUpperCase()}${message.words.slice(1)}.`,
          try: 'Save the recording as WAV, 8 to 32 bits, and drop it here.',
        }).catch(() => undefined);
    }
  }

  private fail(trouble: CannotLend): Promise<never> {
    this.stop();
    this.use.setState({ phase: 'failed', trouble });
    return Promise.reject(new Error(trouble.happened));
  }
}

/** The radio's receiver, and a second one that judges what is sent. */
export const RECEIVER = new Receiver();
export const SECOND_RECEIVER = new Receiver();

/** The sound card of this browser belongs to a link: whatever else sounds here may go on the air. */
export function useFeedsRadio(): boolean {
  return RECEIVER.use(({ phase, linkId }) => phase === 'listening' && linkId !== undefined);
}

function soundReport(text: string): SoundReport & { readonly atMs: number } {
  const { news, ...view } = JSON.parse(text) as SoundView;
  return {
    ...view,
    news: {
      hum: news.hum,
      stretches: news.stretches.map((one) => ({ ...one, spectrum: fromBase64(one.spectrum) })),
      packets: news.packets.map((one) => ({ ...one, raw: fromBase64(one.raw) })),
    },
  };
}

const fromBase64 = (text: string): Uint8Array =>
  Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));

/** Devices are remembered by their names: the ids of a browser are its own. */
async function idOf(side: 'inputs' | 'outputs', name: string | undefined): Promise<string | undefined> {
  if (!name) return undefined;
  const devices = await listSoundDevices();
  return devices[side].find(({ label }) => label === name)?.id;
}

/** The sound card of this browser as a TNC that a link can use. Call it from a click. */
export async function lentSoundCard({ id, settings }: LinkView): Promise<LentDevice> {
  const card = await RECEIVER.listen(settings.sound ?? USUAL_SOUND_SETUP, settings.airRate, id);
  const kiss = new KissDecoder();
  let kept: CapturedPacket[] = [];
  const wake = (): void => {
    if (document.visibilityState === 'visible') RECEIVER.wake();
  };
  document.addEventListener('visibilitychange', wake);
  return {
    name: card.inputName,
    receive: (take) => RECEIVER.onOctets(take),
    closed: card.closed,
    send: (octets) => Promise.resolve(RECEIVER.send(octets)),
    close: () => {
      document.removeEventListener('visibilitychange', wake);
      RECEIVER.stop();
      return Promise.resolve();
    },
    missed: (octets) => {
      for (const item of kiss.push(octets))
        if ('payload' in item && item.command === 'data' && kept.length < MOST_KEPT)
          kept.push({ atMs: Date.now(), packet: Uint8Array.of(0, ...item.payload) });
    },
    handOver: async (linkId) => {
      if (kept.length === 0) return;
      const waiting = kept;
      kept = [];
      const body = encodePcap(waiting) as Uint8Array<ArrayBuffer>;
      const answer = await fetch(`/api/v1/links/${linkId}/captures`, {
        method: 'POST',
        headers: { 'content-type': 'application/vnd.tcpdump.pcap' },
        body,
      }).catch(() => undefined);
      if (!answer?.ok) kept = [...waiting, ...kept];
    },
  };
}
