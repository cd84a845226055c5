import type { ReadLetter } from '@mistpeak/core/mail/letter';

/** The words by which services tell a first password (common practice, no source). */
const PASSWORD =
  /(\bpassword\b(?:\s+(?:is|reads|for\s+\S+\s+is))?\s*[:=]?\s*)(["“']?)([!-~]{4,40}?)\2(?=[\s.,;]|$)/i;
const DOTS = '••••••';

const isFromService = (from: string): boolean =>
  /^(?:SERVICE|SYSTEM|MAIL|POSTMASTER)\b/i.test(from.replace(/^SMTP:/i, ''));

/** The password that a message of the service tells in clear. */
export const passwordIn = ({ from, text }: Pick<ReadLetter, 'from' | 'text'>): string | undefined =>
  isFromService(from) ? PASSWORD.exec(text)?.[3] : undefined;

/** The text with dots in its place. */
export function withoutPassword(letter: Pick<ReadLetter, 'from' | 'text'>): string {
  const password = passwordIn(letter);
  return password === undefined ? letter.text : letter.text.replaceAll(password, DOTS);
}
