import type { DecoderName } from '@mistpeak/core/modem/demodulator';
import type { Channel } from '@mistpeak/core/wav/one-channel';
import type { DataChannel } from '@mistpeak/link/sound-setup';
import type { SoundTncSettings } from '@mistpeak/link/sound-tnc';
import type { SoundReport } from '@mistpeak/link/watched-tnc';

export type ToSoundWorker =
  | {
      readonly kind: 'begin';
      readonly settings: SoundTncSettings;
      readonly dataChannel: DataChannel;
      /** To the worklet: blocks of samples come, blocks to play go. */
      readonly port: MessagePort;
    }
  | { readonly kind: 'file'; readonly file: Blob; readonly decoder: DecoderName; readonly channel: Channel }
  | { readonly kind: 'kiss'; readonly octets: Uint8Array }
  | { readonly kind: 'send at'; readonly levelDbfs: number; readonly twistDb: number }
  | { readonly kind: 'silence' };

export type FromSoundWorker =
  /** atMs: the clock's time at the end of what was heard. */
  | { readonly kind: 'report'; readonly report: SoundReport; readonly atMs: number }
  | { readonly kind: 'octets'; readonly octets: Uint8Array }
  /** It cannot keep up: from now on the light decoder. */
  | { readonly kind: 'slow' }
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'file done'; readonly seconds: number }
  | { readonly kind: 'failed'; readonly words: string };
