import type { ProgramsView } from '../programs.js';

export interface ProgramsSnapshot {
  readonly programs: ProgramsView;
}

export interface ProgramsEvents {
  programs: ProgramsView;
}
