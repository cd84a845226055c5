import type { Modulo } from '../ax25/control.js';
import type { AddressField, Ax25Frame } from '../ax25/frame.js';

/** More than these are not at one time on a channel; the longest unheard are forgotten. */
const MOST_KNOWN = 500;

/**
 * Which connections heard on one link count to 127: whether a control field of information and supervision has one octet
 * or two stands nowhere in the frame (AX.25 v2.2, 4.2.1); it follows from how the connection was set up. Who was not heard
 * setting up is taken to count to 7.
 */
export class KnownSessions {
  private readonly extended = new Set<string>();

  /** By SABME it counts to 127; what refuses that, ends it, or sets it up the older way, takes it back. */
  note(frame: Pick<Ax25Frame, 'source' | 'destination' | 'control'>): void {
    const pair = pairOf(frame);
    const { kind } = frame.control;
    if (kind === 'SABME') {
      this.extended.delete(pair);
      this.extended.add(pair);
      if (this.extended.size > MOST_KNOWN)
        this.extended.delete(this.extended.values().next().value as string);
    }
    if (kind === 'SABM' || kind === 'DISC' || kind === 'DM' || kind === 'FRMR') this.extended.delete(pair);
  }

  moduloOf(between: Pick<AddressField, 'source' | 'destination'>): Modulo {
    return this.extended.has(pairOf(between)) ? 128 : 8;
  }
}

const pairOf = ({ source, destination }: Pick<AddressField, 'source' | 'destination'>): string =>
  source < destination ? `${source} ${destination}` : `${destination} ${source}`;
