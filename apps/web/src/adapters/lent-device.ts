/** A TNC at this browser: octets in and out. closed ends when the device went away, with what the browser said. */
export interface LentDevice {
  readonly name: string;
  readonly receive: (take: (octets: Uint8Array) => void) => void;
  readonly closed: Promise<string>;
  send(octets: Uint8Array): Promise<void>;
  close(): Promise<void>;
  /** What came while it could not be forwarded: who keeps it hands it over later. */
  missed?(octets: Uint8Array): void;
  handOver?(linkId: string): Promise<void>;
}

/** Why a browser cannot lend a device, and what to do instead; undefined if it can. */
export interface CannotLend {
  readonly happened: string;
  readonly means: string;
  readonly try: string;
}

/** Browsers give devices to pages over HTTPS or from this machine only (W3C Secure Contexts). */
export function whyNotSecure(): CannotLend | undefined {
  return window.isSecureContext
    ? undefined
    : {
        happened: 'This page may not use devices.',
        means: 'Browsers give them only to pages that come over HTTPS, or from the same machine.',
        try: 'Start Mistpeak with --lan and open the HTTPS address that it prints, or plug the TNC into its machine.',
      };
}

export const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
