import { stripEscapes } from './escapes.js';

/** What a far computer asks for, told by its last words before it waits. */
export type Asked =
  | { readonly kind: 'password' }
  | { readonly kind: 'one-time password'; readonly challenge: string };

const PASSWORD =
  /(?:pass ?(?:word|phrase|code)|passwd|kennwort|contraseña|mot de passe)[^\n]{0,20}[:?>][ \t]*$/i;
/** What stands behind a challenge, or in a line under it. */
const RESPONSE = /(?:response|answer|s\/key|otp)[^\n]{0,20}[:?>][ \t]*$/i;
/** RFC 2289, "Form of Output": otp-<algorithm> <sequence> <seed>, and further words. */
const CHALLENGE = /\botp-(?:md[45]|sha1)\s+\d{1,4}\s+[a-z0-9]{1,16}\b/i;

/** From the last words that came, whether whole lines or not: the end that still waits for an answer. */
export function whatIsAsked(text: string): Asked | undefined {
  const lines = stripEscapes(text)
    .slice(-400)
    .trimEnd()
    .split(/[\r\n]+/);
  const last = lines.at(-1) ?? '';
  const [challenge] = CHALLENGE.exec(lines.slice(-3).join('\n')) ?? [];
  if (challenge !== undefined && (last.includes(challenge) || RESPONSE.test(last) || PASSWORD.test(last)))
    return { kind: 'one-time password', challenge };
  return PASSWORD.test(last) ? { kind: 'password' } : undefined;
}
