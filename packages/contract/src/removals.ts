/** What was removed can be brought back for so long. */
export const BACK_FOR_MS = 60_000;

/** Something that was just removed. words: what it was, in the operator's words; untilMs: by the server's clock. */
export interface RemovalView {
  readonly id: string;
  readonly words: string;
  readonly untilMs: number;
}
