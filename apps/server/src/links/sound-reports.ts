import type { ReportTaker } from '../adapters/sound/sound-card.js';

/** What the sound cards of this machine hear, told to whoever looks at one. */
export class SoundReports {
  private readonly takers = new Map<string, Set<ReportTaker>>();

  tell(linkId: string, ...report: Parameters<ReportTaker>): void {
    for (const taker of this.takers.get(linkId) ?? []) taker(...report);
  }

  /** Returns how to stop. */
  listen(linkId: string, taker: ReportTaker): () => void {
    const takers = this.takers.get(linkId) ?? new Set();
    this.takers.set(linkId, takers.add(taker));
    return () => takers.delete(taker);
  }
}
