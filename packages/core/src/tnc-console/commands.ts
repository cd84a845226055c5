/** Commands of a TNC's prompt that key nothing and change nothing when they stand alone (common practice, no source). */
const READS: readonly string[] = [
  'DISPLAY',
  'DISP',
  'HELP',
  'H',
  '?',
  'MHEARD',
  'MH',
  'MYCALL',
  'MY',
  'MYPBBS',
  'MYALIAS',
  'MYNODE',
  'VERSION',
  'VER',
  'STATUS',
  'CSTATUS',
  'CS',
  'TXDELAY',
  'TXD',
  'PACLEN',
  'PAC',
  'MAXFRAME',
  'MAX',
  'FRACK',
  'FR',
  'RETRY',
  'RE',
  'SLOTTIME',
  'PPERSIST',
  'PERSIST',
  'HBAUD',
  'ABAUD',
  'BEACON',
  'UNPROTO',
  'MONITOR',
  'DAYTIME',
  'KISS',
  'PBBS',
];

/** With one word behind it, these still only tell: HELP TXDELAY, DISPLAY TIMING. */
const TELLS_OF: readonly string[] = ['HELP', 'H', '?', 'DISPLAY', 'DISP'];

/**
 * What a typed command may do. reads: it needs no open lock; may key: everything else, also what is not known here, and
 * every letter typed to somebody who is connected.
 */
export function mayKey(typed: string): boolean {
  const words = typed.trim().toUpperCase().split(/\s+/);
  const [command = '', ...rest] = words;
  if (command === '') return false;
  if (rest.length === 0) return !READS.includes(command);
  return !(TELLS_OF.includes(command) && rest.length === 1 && /^[A-Z]+$/.test(rest[0] as string));
}

/** Entering KISS: most want both (common practice, no source); the last makes it so. */
export const ENTER_KISS: readonly string[] = ['KISS ON', 'RESTART'];
/** Leaving it (KISS paper, "Return"): FEND, FF, FEND. */
export const LEAVE_KISS = Uint8Array.of(0xc0, 0xff, 0xc0);
/** From a conversation back to the prompt: Ctrl-C (common practice, no source). */
export const TO_PROMPT = Uint8Array.of(0x03);
