import type { AppTask, Band } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';

/** What a purpose asks of both ends of a chain. */
export interface Demand {
  readonly task: AppTask;
  readonly transmits: boolean;
  /** Frames go to and fro by themselves: nobody can press a key for each. */
  readonly isSession: boolean;
  readonly bands: readonly Band[];
}

const VHF: readonly Band[] = ['VHF FM'];

export const DEMANDS: Readonly<Record<Purpose, Demand>> = {
  receive: { task: 'receive', transmits: false, isSession: false, bands: VHF },
  beacon: { task: 'beacon', transmits: true, isSession: false, bands: VHF },
  messages: { task: 'messages', transmits: true, isSession: false, bands: VHF },
  map: { task: 'map', transmits: false, isSession: false, bands: VHF },
  session: { task: 'session', transmits: true, isSession: true, bands: VHF },
  mail: { task: 'mail', transmits: true, isSession: true, bands: VHF },
  'peer mail': { task: 'peer-to-peer mail', transmits: true, isSession: true, bands: VHF },
  'sound mail': {
    task: 'mail by sound modem',
    transmits: true,
    isSession: true,
    bands: ['VHF FM', 'HF SSB'],
  },
};
