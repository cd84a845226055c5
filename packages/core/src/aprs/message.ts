import { malformed, type Malformed } from '../bits/malformed.js';
import { readQueryAnswer } from './query-answer.js';
import { readDirectedQuery } from './query.js';
import type { AprsReport, AprsType, Message } from './report.js';
import { readTelemetryDefinition } from './telemetry.js';

/** 1.0.1, "Messages, bulletins and announcements"; reply-acks after the 1.1 addendum. */
const ADDRESSEE_WIDTH = 9;
/** "Message format": up to 67 characters, none of them `|`, `~` or `{`. */
export const LONGEST_MESSAGE = 67;
const NUMBERED = /^(.*)\{([A-Za-z0-9]{1,5})(?:(\})([A-Za-z0-9]{0,5}))?\s*$/s;
const RECEIPT = /^(ack|rej)([A-Za-z0-9]{1,5})(?:\}([A-Za-z0-9]{0,5}))?\s*$/;

export function encodeMessage(addressee: string, text: string, number?: string, replyAck?: string): string {
  const tail = number === undefined ? '' : `{${number}${replyAck === undefined ? '' : `}${replyAck}`}`;
  return `:${addressee.padEnd(ADDRESSEE_WIDTH)}:${text}${tail}`;
}

/** The same form acknowledges and rejects; replyAck: the newest number of theirs that is acknowledged too. */
export function encodeReceipt(type: 'ack' | 'rej', { addressee, number, replyAck }: Message): string {
  return encodeMessage(addressee, `${type}${number ?? ''}${replyAck === undefined ? '' : `}${replyAck}`}`);
}

export function encodeAck(addressee: string, number: string): string {
  return encodeReceipt('ack', { addressee, number });
}

/** info with its type octet. */
export function readMessage(info: string): AprsReport | Malformed {
  if (info[1 + ADDRESSEE_WIDTH] !== ':') return malformed('the addressee is not padded to 9 characters', 10);
  const addressee = info.slice(1, 1 + ADDRESSEE_WIDTH).trimEnd();
  const body = info.slice(2 + ADDRESSEE_WIDTH);
  const receipt = RECEIPT.exec(body);
  if (receipt) {
    const replyAck = receipt[3] ? { replyAck: receipt[3] } : {};
    const message = { addressee, number: receipt[2] as string, ...replyAck };
    return { type: receipt[1] as AprsType, message };
  }
  const numbered = NUMBERED.exec(body);
  const text = numbered ? (numbered[1] as string) : body;
  const number = numbered ? { number: numbered[2] as string } : {};
  // Empty: the brace alone, which says that the sender takes reply-acks.
  const replyAck = numbered?.[3] === undefined ? {} : { replyAck: numbered[4] ?? '' };
  return { ...kindOf(addressee, text), message: { addressee, text, ...number, ...replyAck } };
}

/** What the addressee and the text make of it: a bulletin, a telemetry definition, a query to one station. */
function kindOf(addressee: string, text: string): AprsReport {
  const bulletin = /^BLN([0-9A-Z])(.{0,5})$/.exec(addressee);
  if (bulletin) {
    const [id, group] = [bulletin[1] as string, bulletin[2] as string];
    const type = /\d/.test(id) ? 'bulletin' : 'announcement';
    return { type, bulletin: { id, ...(group === '' ? {} : { group }) } };
  }
  // "National Weather Service bulletins": the weather service's own addressees.
  if (/^NWS[-_]/.test(addressee))
    return { type: 'bulletin', bulletin: { id: 'NWS', group: addressee.slice(4) } };
  const telemetryDefinition = readTelemetryDefinition(text);
  if (telemetryDefinition) return { type: 'telemetry-definition', telemetryDefinition };
  const query = readDirectedQuery(text);
  if (query) return { type: 'message', query };
  const queryAnswer = readQueryAnswer(text);
  return queryAnswer ? { type: 'message', queryAnswer } : { type: 'message' };
}
