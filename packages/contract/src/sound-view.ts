import type { HeardPacket, Stretch } from '@mistpeak/core/levels/sound-watch';
import type { Hum } from '@mistpeak/core/levels/hum';
import type { SpectrumShape } from '@mistpeak/core/levels/spectrum';

/** One report of a sound card at the server, octets as base64. atMs: the clock's time at the end of what was heard. */
export interface SoundView {
  readonly atMs: number;
  readonly heardMs: number;
  readonly passedMs: number;
  readonly shape: SpectrumShape;
  readonly busy?: string;
  readonly isKeyed: boolean;
  readonly waiting: number;
  readonly lost: number;
  readonly news: {
    readonly stretches: readonly (Omit<Stretch, 'spectrum'> & { readonly spectrum: string })[];
    readonly packets: readonly (Omit<HeardPacket, 'raw'> & { readonly raw: string })[];
    readonly hum: readonly Hum[];
  };
}
