/** How far a search may go: how many joints may break, how many parts may be missing. */
export interface Bounds {
  readonly breaks: number;
  readonly missing: number;
}
