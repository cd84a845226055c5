import { SoundWatch, type SoundNews } from '@mistpeak/core/levels/sound-watch';
import type { SpectrumShape } from '@mistpeak/core/levels/spectrum';
import { BELL_202 } from '@mistpeak/core/modem/tones';
import { SoundTnc, type SoundOut, type SoundTncHost, type SoundTncSettings } from './sound-tnc.js';

/** What a page is told of a sound card in operation, ten times a second or more often. */
export interface SoundReport {
  readonly news: SoundNews;
  /** So much was listened to when it was made: the times of the news count from there back. */
  readonly heardMs: number;
  /** So much sound passed, listened to or not: if the clock goes faster, some of it was lost. */
  readonly passedMs: number;
  readonly shape: SpectrumShape;
  readonly busy?: string;
  readonly isKeyed: boolean;
  readonly waiting: number;
  /** Frames that were to be sent and were not, since the beginning. */
  readonly lost: number;
}

/** A sound card as a TNC, and all that is worth seeing of what it hears. */
export class WatchedTnc extends SoundTnc {
  private readonly watch: SoundWatch;
  private readonly rateHz: number;
  private listenedMs = 0;
  private passedMs = 0;
  private lost = 0;

  constructor(settings: SoundTncSettings, host: Omit<SoundTncHost, 'listened' | 'lost'>) {
    const watch = new SoundWatch(settings.rateHz, (settings.modulation ?? BELL_202).baud);
    super(settings, {
      ...host,
      listened: (samples, busy, frames) => {
        this.listenedMs += (1000 * samples.length) / settings.rateHz;
        watch.push(samples, busy, frames);
      },
      lost: () => this.lost++,
    });
    this.watch = watch;
    this.rateHz = settings.rateHz;
  }

  override run(input: Float32Array): SoundOut {
    this.passedMs += (1000 * input.length) / this.rateHz;
    return super.run(input);
  }

  report(): SoundReport {
    const { busy, isKeyed, waiting, lost } = this;
    return {
      news: this.watch.take(),
      heardMs: this.listenedMs,
      passedMs: this.passedMs,
      shape: this.watch.shape,
      ...(busy && { busy }),
      isKeyed,
      waiting,
      lost,
    };
  }
}
