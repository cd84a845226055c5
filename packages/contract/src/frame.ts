/** One entry of the record. rawHex is the record; every reading of it is a view that core makes. */
export interface FrameRecord {
  readonly id: string;
  readonly atMs: number;
  readonly linkId: string;
  readonly direction: 'heard' | 'sent';
  readonly port: number;
  readonly rawHex: string;
  /** Set when these octets were no frame: why. rawHex then holds the first of them. */
  readonly discarded?: string;
  /** False until the database has it. */
  readonly stored: boolean;
}
