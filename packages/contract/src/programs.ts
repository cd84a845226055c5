/** Another modem program of this machine, as the file in the data folder describes it. */
export interface ProgramView {
  readonly name: string;
  readonly command: readonly string[];
  readonly phase: 'stopped' | 'starting' | 'running' | 'stopping' | 'failed';
  /** The sound card that it takes; links that have it open let go of it first. */
  readonly card?: string;
  /** What it wrote last. */
  readonly said: readonly string[];
  /** Of `failed`: why, in words. */
  readonly why?: string;
}

export interface ProgramsView {
  readonly programs: readonly ProgramView[];
  /** Where they are described; no command writes it. */
  readonly file: string;
  /** What of the file could not be read. */
  readonly trouble?: string;
}
