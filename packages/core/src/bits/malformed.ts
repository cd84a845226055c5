/** Bad input from outside, as a value: why it was refused and the octet (or character) offset where. */
export interface Malformed {
  readonly malformed: string;
  readonly at: number;
}

export function malformed(reason: string, at = 0): Malformed {
  return { malformed: reason, at };
}

export function isMalformed(value: unknown): value is Malformed {
  return typeof value === 'object' && value !== null && 'malformed' in value;
}
