import { malformed, type Malformed } from '../bits/malformed.js';

/** Destination of our own packets: an experimental software identifier (1.0.1, "Generic APRS destination addresses"). */
export const OWN_DESTINATION = 'APZMPK';

/** Room behind a plain position, the largest of all forms (1.0.1, "Position data formats"). */
const LONGEST_COMMENT = 43;

/** Printable ASCII without `|` and `~`, which the reference reserves for TNC channel switching. */
export function parseComment(text: string): string | Malformed {
  const bad = /[^ -{}]/.exec(text);
  if (bad)
    return malformed(
      `"${bad[0]}" cannot be sent in a comment: use plain letters, digits and signs`,
      bad.index,
    );
  if (text.length > LONGEST_COMMENT)
    return malformed(`a comment has at most ${LONGEST_COMMENT} characters here`, LONGEST_COMMENT);
  return text;
}
