/** 1.0.1, "Base 91 notation": digits are the characters from `!` on, the first the most significant. */
export const BASE_91_DIGIT = '[!-{]';
const FIRST = 33;

/** Kept within the width: below 0 is 0, too large is the largest. */
export function base91(value: number, width: number): string {
  let text = '';
  let rest = Math.min(91 ** width - 1, Math.max(0, value));
  for (let i = 0; i < width; i++) {
    text = String.fromCharCode(FIRST + (rest % 91)) + text;
    rest = Math.floor(rest / 91);
  }
  return text;
}

export function fromBase91(text: string): number {
  let value = 0;
  for (let i = 0; i < text.length; i++) value = value * 91 + text.charCodeAt(i) - FIRST;
  return value;
}
