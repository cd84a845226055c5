import type { FrameRecord } from '@mistpeak/contract/frame';
import type { TallyView } from '@mistpeak/contract/link';

interface Count {
  count: number;
  lastAtMs: number;
}

/** What came in on each link, by reason, so that a quiet channel and a broken cable do not look alike. */
export class Tallies {
  private readonly byLink = new Map<string, Map<string, Count>>();

  clear(): void {
    this.byLink.clear();
  }

  set(linkId: string, reason: string, count: number, lastAtMs: number): void {
    this.of(linkId).set(reason, { count, lastAtMs });
  }

  add({ linkId, trouble, atMs, times = 1 }: FrameRecord): void {
    const reason = trouble ?? 'frame';
    const before = this.of(linkId).get(reason);
    this.set(linkId, reason, (before?.count ?? 0) + times, Math.max(before?.lastAtMs ?? 0, atMs));
  }

  views(): TallyView[] {
    return [...this.byLink.keys()].map((linkId) => this.view(linkId));
  }

  view(linkId: string): TallyView {
    const counts = [...this.of(linkId)];
    const frames = counts.find(([reason]) => reason === 'frame')?.[1];
    return {
      linkId,
      frames: frames?.count ?? 0,
      ...(frames ? { lastAtMs: frames.lastAtMs } : {}),
      troubles: counts
        .filter(([reason]) => reason !== 'frame')
        .map(([reason, count]) => ({ reason, ...count })),
    };
  }

  private of(linkId: string): Map<string, Count> {
    const counts = this.byLink.get(linkId) ?? new Map<string, Count>();
    this.byLink.set(linkId, counts);
    return counts;
  }
}
