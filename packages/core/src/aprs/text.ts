/** Rounded, padded, and kept within its places. */
export function digits(value: number, width: number): string {
  return String(Math.min(10 ** width - 1, Math.max(0, Math.round(value)))).padStart(width, '0');
}

/** What is left on both sides of something taken out, with one blank between. */
export function joinWords(before: string, after: string): string {
  const [left, right] = [before.trimEnd(), after.trimStart()];
  return left !== '' && right !== '' ? `${left} ${right}` : left + right;
}
