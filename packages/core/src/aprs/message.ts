import { malformed, type Malformed } from '../bits/malformed.js';
import type { AprsReport, AprsType } from './report.js';

/** 1.0.1, "Messages, bulletins and announcements"; reply-acks after the 1.1 addendum. */
const ADDRESSEE_WIDTH = 9;
const NUMBERED = /^(.*?)\{([A-Za-z0-9]{1,5})(?:(\})([A-Za-z0-9]{0,5}))?$/s;

export function encodeMessage(addressee: string, text: string, number?: string): string {
  return `:${addressee.padEnd(ADDRESSEE_WIDTH)}:${text}${number === undefined ? '' : `{${number}`}`;
}

export function encodeAck(addressee: string, number: string): string {
  return encodeMessage(addressee, `ack${number}`);
}

/** info with its type octet. */
export function readMessage(info: string): AprsReport | Malformed {
  if (info[1 + ADDRESSEE_WIDTH] !== ':') return malformed('the addressee is not padded to 9 characters', 10);
  const addressee = info.slice(1, 1 + ADDRESSEE_WIDTH).trimEnd();
  const body = info.slice(2 + ADDRESSEE_WIDTH);
  const receipt = /^(ack|rej)([A-Za-z0-9]{1,5})(?:\}([A-Za-z0-9]{0,5}))?\s*$/.exec(body);
  if (receipt) {
    const replyAck = receipt[3] ? { replyAck: receipt[3] } : {};
    return {
      type: receipt[1] as AprsType,
      message: { addressee, number: receipt[2] as string, ...replyAck },
    };
  }
  const numbered = NUMBERED.exec(body);
  const text = numbered ? (numbered[1] as string) : body;
  const number = numbered ? { number: numbered[2] as string } : {};
  const replyAck = numbered?.[4] ? { replyAck: numbered[4] } : {};
  return { type: typeOf(addressee, text), message: { addressee, text, ...number, ...replyAck } };
}

function typeOf(addressee: string, text: string): AprsType {
  if (/^(PARM|UNIT|EQNS|BITS)\./.test(text)) return 'telemetry-definition';
  if (/^BLN\d/.test(addressee)) return 'bulletin';
  if (/^BLN[A-Z]$/.test(addressee)) return 'announcement';
  return 'message';
}
