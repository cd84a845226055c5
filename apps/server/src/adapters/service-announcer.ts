import { hostname } from 'node:os';
import { Bonjour } from 'bonjour-service';

/** The service type under which network TNCs are found (common practice, from memory; RFC 6763 for its form). */
export const KISS_SERVICE = 'kiss-tnc';

/** Announces a TCP port by multicast DNS (RFC 6762, 6763) until stopped. Without a network it announces to nobody. */
export function announceKiss(name: string, port: number): () => Promise<void> {
  // A failing socket must not end the program: nobody finds us, that is all.
  const bonjour = new Bonjour({}, () => undefined);
  bonjour.publish({ name: `${name} on ${hostname()}`, type: KISS_SERVICE, protocol: 'tcp', port });
  return () => new Promise((resolve) => bonjour.unpublishAll(() => (bonjour.destroy(), resolve())));
}
