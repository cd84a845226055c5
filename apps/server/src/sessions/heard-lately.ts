const KEPT = 20;

/** By link: who was heard there last, and when. */
export class HeardLately {
  private readonly heard = new Map<string, Map<string, number>>();

  note(linkId: string, call: string, atMs: number): void {
    const there = this.heard.get(linkId) ?? new Map<string, number>();
    this.heard.set(linkId, there);
    there.delete(call);
    there.set(call, atMs);
    const [oldest] = there.keys();
    if (there.size > KEPT && oldest !== undefined) there.delete(oldest);
  }

  /** The last first, each with its time. */
  words(linkId: string): string[] {
    return [...(this.heard.get(linkId) ?? [])]
      .reverse()
      .map(([call, atMs]) => `${call.padEnd(10)} ${new Date(atMs).toISOString().slice(11, 16)} UTC`);
  }
}
