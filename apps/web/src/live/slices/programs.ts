import type { ProgramsEvents } from '@mistpeak/contract/live/programs';
import type { ProgramsView } from '@mistpeak/contract/programs';
import type { Slice } from './slice';

export interface ProgramsState {
  /** Other modem programs of the server's machine. */
  readonly programs: ProgramsView;
}

export const programs: Slice<ProgramsState, keyof ProgramsEvents> = {
  empty: { programs: { programs: [], file: '' } },
  ofSnapshot: ({ programs }) => ({ programs }),
  on: { programs: (_, programs) => ({ programs }) },
};
