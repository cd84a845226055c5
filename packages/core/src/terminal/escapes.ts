/**
 * Screen commands in text (ECMA-48, 5th edition: control sequences of CSI, parameters, a final character; control strings
 * of OSC, DCS and the like up to ST). A transcript is no screen: colour and weight are kept, the rest is let go. Text is
 * any string; a command that is cut at its end is taken for one that will be whole with what comes next.
 */
export const COLOURS = ['black', 'red', 'green', 'yellow', 'blue', 'magenta', 'cyan', 'white'] as const;
export type Colour = (typeof COLOURS)[number];

export interface Style {
  readonly colour?: Colour;
  readonly isBold?: boolean;
  readonly isUnderlined?: boolean;
}

/** A stretch of text of one style. */
export interface Stretch {
  readonly text: string;
  readonly style: Style;
}

export const PLAIN: Style = {};

// ESC [ or the one-octet CSI, then parameters 30–3F, intermediates 20–2F, a final 40–7E (5.4).
const SEQUENCE = /(?:\u001b\[|\u009b)([0-?]*)[ -/]*([@-~])/y;
// OSC, DCS, SOS, PM, APC: up to ST or, as many do, BEL (5.6); no longer than anything sensible.
const STRING = /\u001b[\]PX^_][^\u0007\u001b]{0,400}(?:\u0007|\u001b\\)/y;
// Two- and three-character escapes (5.3).
const SHORT = /\u001b[ -/]*[0-~]/y;
// What may still become one of these.
const UNFINISHED = /\u001b(?:\[[0-?]{0,40}[ -/]{0,4}|[\]PX^_][^\u0007\u001b]{0,400}\u001b?|[ -/]{0,4})?$/y;
const IS_CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001a\u001c-\u001f\u007f]/;

/** Text as stretches, and the style that goes on behind it. */
export function interpretEscapes(
  text: string,
  from: Style = PLAIN,
): { readonly stretches: readonly Stretch[]; readonly style: Style } {
  const stretches: Stretch[] = [];
  let style = from;
  let gathered = '';
  const close = (): void => {
    if (gathered !== '') stretches.push({ text: gathered, style });
    gathered = '';
  };
  for (let at = 0; at < text.length;) {
    const command = commandAt(text, at);
    if (!command) {
      const letter = text[at] as string;
      if (!IS_CONTROL.test(letter)) gathered += letter;
      at++;
      continue;
    }
    if (command.rendition !== undefined) {
      close();
      style = withRendition(style, command.rendition);
    }
    at = command.end;
  }
  close();
  return { stretches, style };
}

/** Without any of them. */
export const stripEscapes = (text: string): string =>
  interpretEscapes(text)
    .stretches.map((stretch) => stretch.text)
    .join('');

function commandAt(
  text: string,
  at: number,
): { readonly end: number; readonly rendition?: string } | undefined {
  const letter = text[at];
  if (letter !== '\u001b' && letter !== '\u009b') return undefined;
  SEQUENCE.lastIndex = at;
  const sequence = SEQUENCE.exec(text);
  if (sequence) {
    const end = at + sequence[0].length;
    return sequence[2] === 'm' ? { end, rendition: sequence[1] ?? '' } : { end };
  }
  for (const form of [STRING, UNFINISHED, SHORT]) {
    form.lastIndex = at;
    const found = form.exec(text);
    if (found) return { end: at + found[0].length };
  }
  return { end: at + 1 };
}

/** SGR, "Select graphic rendition" (8.3.117): 0 nothing, 1 bold, 4 underlined, 22 and 24 not, 30–37 and 90–97 colours, 39 none. */
function withRendition(before: Style, parameters: string): Style {
  let style = before;
  const codes = parameters.split(';').map(Number);
  for (let i = 0; i < codes.length; i++) {
    const code = codes[i] as number;
    // 38 and 48 are followed by a colour of their own kind (5;n or 2;r;g;b): let go.
    if (code === 38 || code === 48) i += codes[i + 1] === 5 ? 2 : 4;
    else style = withCode(style, code);
  }
  return style;
}

function withCode(style: Style, code: number): Style {
  if (code === 0) return PLAIN;
  if (code === 1) return { ...style, isBold: true };
  if (code === 4) return { ...style, isUnderlined: true };
  if (code === 22) return { ...style, isBold: false };
  if (code === 24) return { ...style, isUnderlined: false };
  const { colour: _, ...uncoloured } = style;
  if (code === 39) return uncoloured;
  const colour = COLOURS[code >= 90 ? code - 90 : code - 30];
  return colour === undefined || code < 30 ? style : { ...style, colour };
}
