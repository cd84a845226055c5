import { octetText } from '../bits/octets.js';
import { LONGEST_MESSAGE, encodeMessage, readMessage } from '../aprs/message.js';

/** 1.0.1, "Message format": none of these. */
const FORBIDDEN = /[|~{]/;
/** A carriage return or anything else without a picture ends or garbles the line of some programs. */

const CONTROL = /[\u0000-\u001f\u007f]/;

/** How many octets a text takes on the air (UTF-8; 1.2 addendum, "Unicode"; from memory). */
export function octetsOf(text: string): number {
  return octetText(text).length;
}

/** What is wrong with the text of a message to that addressee; undefined: it may go out. */
export function troubleWithText(to: string, text: string): string | undefined {
  if (text.trim() === '') return 'write something';
  const bad = FORBIDDEN.exec(text);
  if (bad) return `“${bad[0]}” may not stand in a message: receivers read it as a mark of their own`;
  if (CONTROL.test(text)) return 'a line break or a control character may not stand in a message';
  const octets = octetsOf(text);
  if (octets > LONGEST_MESSAGE)
    return `${octets} octets, ${octets - LONGEST_MESSAGE} too many: at most ${LONGEST_MESSAGE}`;
  const read = readMessage(encodeMessage(to, octetText(text)));
  if ('type' in read && (read.type === 'ack' || read.type === 'rej'))
    return 'it would be read as an acknowledgement: begin with another word';
  return undefined;
}
