/** Which way it came: from a TNC, from a sound modem, from the internet side, out of a capture; or it is ours. */
export const ORIGINS = ['kiss', 'sound', 'internet', 'capture', 'own'] as const;
export type Origin = (typeof ORIGINS)[number];

/** In the place of a link: the internet side, of which there is one. */
export const INTERNET_SIDE = '00000000-0000-4000-8000-000000000001';

/** What was measured when it was heard; nothing where nobody can measure, as behind a TNC. */
export interface Measures {
  readonly levelDbfs?: number;
  /** The upper tone over the lower one. */
  readonly twistDb?: number;
  readonly snrDb?: number;
  readonly preambleMs?: number;
  /** Bits that were put right. */
  readonly repairs?: number;
}

/** One entry of the record. rawHex is the record; every reading of it is a view that core makes. */
export interface FrameRecord {
  readonly id: string;
  readonly atMs: number;
  readonly linkId: string;
  readonly direction: 'heard' | 'sent';
  /** The KISS port, 0–15. */
  readonly port: number;
  readonly origin: Origin;
  readonly rawHex: string;
  /** In the place of rawHex, which is empty: a line of the internet side. */
  readonly line?: string;
  readonly measures?: Measures;
  /** The numbers of its connection go to 127: its control field has two octets. Left out: to 7. */
  readonly modulo?: 128;
  /** Why these octets could not be read; absent when they could. */
  readonly trouble?: Trouble;
  /** Only with a scrap: so many of that kind within a second, of which this is the first. */
  readonly times?: number;
  /** False until the database has it. */
  readonly stored: boolean;
}

/** These are scraps: rawHex holds at most its first 256 octets, and they were no KISS data frame. */
export const SCRAPS = [
  'outside a frame',
  'bad escape',
  'too long',
  'unknown command',
  'unexpected command',
  'empty frame',
  'bad parameter',
  'cut off',
] as const;
export const NOT_AX25 = 'not AX.25';
export const NOT_APRS = 'not APRS';

export type Trouble = (typeof SCRAPS)[number] | typeof NOT_AX25 | typeof NOT_APRS;

export function isScrap({ trouble }: Pick<FrameRecord, 'trouble'>): boolean {
  return trouble !== undefined && trouble !== NOT_AX25 && trouble !== NOT_APRS;
}

/** What became of a capture: frames now in the record, and what was no data frame or had no believable time. */
export interface CaptureTaken {
  readonly taken: number;
  readonly refused: number;
}

/** The media type of a capture that is sent here. */
export const CAPTURE_TYPE = 'application/vnd.tcpdump.pcap';
