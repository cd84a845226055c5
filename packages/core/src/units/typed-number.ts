/** A number as people type it, with a comma or a point, a minus or a hyphen; NaN where it is none or nothing. */
export function typedNumber(text: string): number {
  const plain = text.trim().replace(',', '.').replace(/^[−–]/, '-');
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : NaN;
}
