import { stripEscapes } from '../terminal/escapes.js';

/** What a mailbox can be told, by the meaning of its letter (common practice, no source). */
export const COMMANDS = {
  L: { name: 'List', literal: 'L', about: 'what is there' },
  R: { name: 'Read', literal: 'R', about: 'one message, by its number' },
  S: { name: 'Send', literal: 'S', about: 'leave a message: to whom, subject, text, then /EX' },
  K: { name: 'Kill', literal: 'K', about: 'delete one message, by its number' },
  J: { name: 'Heard', literal: 'J', about: 'who was heard there' },
  I: { name: 'Information', literal: 'I', about: 'what station this is' },
  '?': { name: 'Help', literal: '?', about: 'its commands' },
  H: { name: 'Help', literal: 'H', about: 'its commands' },
  B: { name: 'Bye', literal: 'B', about: 'end the session politely' },
} as const;
export type CommandLetter = keyof typeof COMMANDS;

export interface Prompt {
  /** As it stands, without what changes from one to the next. */
  readonly key: string;
  /** Command letters that it shows itself. */
  readonly letters: readonly CommandLetter[];
  /** Octets of memory left, where it says so. */
  readonly memoryLeft?: number;
}

const LONGEST = 80;

/** Whether text that came ends in a prompt: its last words, which wait for a command. */
export function recognisePrompt(text: string): Prompt | undefined {
  const last =
    stripEscapes(text)
      .slice(-400)
      .trimEnd()
      .split(/[\r\n]+/)
      .at(-1)
      ?.trim() ?? '';
  if (last.length > LONGEST || !/(?:>|:|\?|=>)$/.test(last)) return undefined;
  const letters = lettersIn(last);
  // A sentence may end in a colon; a prompt of that kind names its letters or the word.
  if (!last.endsWith('>') && letters.length < 3 && !/\b(?:command|cmd|befehl)\b[^:]*:$/i.test(last))
    return undefined;
  if (/^>+|\s>$/.test(last) && last.replace(/[>\s]/g, '') === '' && last.length > 2) return undefined;
  const memory = memoryLeft(text);
  return { key: keyOf(last), letters, ...(memory === undefined ? {} : { memoryLeft: memory }) };
}

/** Calls, numbers and times in a prompt change; the rest does not. */
const keyOf = (prompt: string): string => prompt.replace(/\d+/g, '#');

/** Letters that stand alone, between commas, slashes or brackets: `(B,K,L,R,S,?)>`, `[L R S K B]>`, `B/L/R >`. */
function lettersIn(prompt: string): CommandLetter[] {
  const parts = prompt.replace(/[>:]+$/, '').split(/[\s,/|()[\]<>{};]+/);
  const alone = parts.filter((part) => part.length === 1 && part.toUpperCase() in COMMANDS);
  return alone.length < 2 ? [] : [...new Set(alone.map((part) => part.toUpperCase() as CommandLetter))];
}

/** Letters that a help text explains: `L)ist`, `(R)ead n`, `[K]ill`, `B - bye`, `S call = send`. */
export function lettersExplained(text: string): CommandLetter[] {
  const found = new Set<CommandLetter>();
  for (const line of stripEscapes(text).split(/[\r\n]+/))
    for (const [, letter = ''] of line.matchAll(
      /(?:^|[\s,;([])([LRSKJIHB?])(?:\)|\](?=\w|\s|$)|\s+(?:n|call|nr|#|<[^>]*>)?\s*(?:-|=|:)\s)/gi,
    ))
      found.add(letter.toUpperCase() as CommandLetter);
  return [...found];
}

/** `32744 bytes free`, `Memory left: 12 KB`. */
export function memoryLeft(text: string): number | undefined {
  const plain = stripEscapes(text).slice(-2000);
  const [, figure = '', unit = ''] =
    /(\d[\d,.]*)\s*(k(?:b|ilo)?)?\s*(?:bytes?|octets?|b)?\s*(?:of memory )?(?:free|left|available)\b/i.exec(
      plain,
    ) ??
    /(?:memory|free|space)[^\d\n]{0,20}[:=]\s*(\d[\d,.]*)\s*(k)?/i.exec(plain) ??
    [];
  if (figure === '') return undefined;
  const octets = Number(figure.replace(/[,.]/g, ''));
  return unit === '' ? octets : octets * 1000;
}
