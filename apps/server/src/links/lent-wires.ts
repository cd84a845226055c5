import type { ByteLink } from '@mistpeak/link/byte-link';
import { LinkFailed } from '@mistpeak/link/failure';

/** Wires that pages have brought and that no link has taken yet. */
export class LentWires {
  private readonly waiting = new Map<string, ByteLink>();

  bring(linkId: string, wire: ByteLink): void {
    void this.waiting.get(linkId)?.close();
    this.waiting.set(linkId, wire);
  }

  /** Rejects with LinkFailed while no page lends its device. */
  take(linkId: string): Promise<ByteLink> {
    const wire = this.waiting.get(linkId);
    this.waiting.delete(linkId);
    return wire ? Promise.resolve(wire) : Promise.reject(new LinkFailed('page-away'));
  }
}
