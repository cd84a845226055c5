import type { LinkFailure } from '@mistpeak/link/failure';
import type { DataChannel } from '@mistpeak/link/sound-setup';
import type { SoundTncSettings } from '@mistpeak/link/sound-tnc';
import type { SoundReport } from '@mistpeak/link/watched-tnc';
import type { Channel } from '@mistpeak/core/wav/one-channel';
import type { KeyAddress } from './key-ports.js';

/** What a sound card of this machine is opened with. */
export interface SoundCardSettings {
  readonly input: string | undefined;
  readonly output: string | undefined;
  readonly hears: Channel;
  readonly sendsOn: DataChannel;
  readonly plays: boolean;
  readonly key: KeyAddress | undefined;
  readonly tnc: SoundTncSettings;
}

export type ToSoundThread =
  | { readonly kind: 'kiss'; readonly octets: Uint8Array }
  | { readonly kind: 'send at'; readonly levelDbfs: number }
  | { readonly kind: 'close' };

export type FromSoundThread =
  | { readonly kind: 'opened' }
  | { readonly kind: 'octets'; readonly octets: Uint8Array }
  | { readonly kind: 'report'; readonly report: SoundReport; readonly atMs: number }
  | { readonly kind: 'failed'; readonly failure: LinkFailure; readonly detail: string };
