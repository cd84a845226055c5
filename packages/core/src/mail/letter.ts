import { encodeText } from '../terminal/charset.js';
import { headerOf, headersOf, type Header, type MailFile, type MailMessage } from './message.js';
import { fileName, headerText, read, readableHeader } from './words.js';

/** What somebody writes; addresses as they travel. */
export interface Letter {
  readonly mid: string;
  /** ms since 1970. */
  readonly dateMs: number;
  readonly from: string;
  readonly to: readonly string[];
  readonly cc: readonly string[];
  readonly subject: string;
  /** Lines end with LF. */
  readonly text: string;
  readonly files: readonly MailFile[];
  /** The call of the station that it begins at (Mbo). */
  readonly origin: string;
  /** What happens to letters that ISO-8859-1 lacks: UTF-8, declared, or question marks. */
  readonly beyondLatin1: 'utf-8' | 'question marks';
}

const CHARSET_HEADER = 'Content-Type';

/** Letters that ISO-8859-1, the set of this mail, lacks; each once. */
export const beyondLatin1 = (text: string): readonly string[] => encodeText(text, 'ISO-8859-1').lost;

/** CR LF at line ends; the body in ISO-8859-1, or UTF-8 that is declared where it was chosen and is needed. */
export function writeLetter({
  mid,
  dateMs,
  from,
  to,
  cc,
  subject,
  text,
  files,
  origin,
  beyondLatin1: choice,
}: Letter): MailMessage {
  const lines = text.replace(/\r\n?|\n/g, '\r\n');
  const isUtf8 = choice === 'utf-8' && beyondLatin1(lines).length > 0;
  const { octets } = encodeText(lines, isUtf8 ? 'UTF-8' : 'ISO-8859-1');
  const headers: Header[] = [
    ['Mid', mid],
    ['Date', dateText(dateMs)],
    ['Type', 'Private'],
    ['From', from],
    ...to.map((one) => ['To', one]),
    ...cc.map((one) => ['Cc', one]),
    ['Subject', headerText(subject)],
    ['Mbo', origin],
    ...(isUtf8 ? [[CHARSET_HEADER, 'text/plain; charset=utf-8']] : []),
    ['Body', String(octets.length)],
  ].map(([name, value]) => ({ name: name as string, value: value as string }));
  const named = files.map((file) => ({ octets: file.octets, name: headerText(file.name) }));
  return { headers, body: octets, files: named };
}

/** `YYYY/MM/DD HH:MM`, UTC (B2F, "Message format"). */
export function dateText(ms: number): string {
  const [date = '', time = ''] = new Date(ms).toISOString().split('T');
  return `${date.replaceAll('-', '/')} ${time.slice(0, 5)}`;
}

/** ms since 1970; undefined for what is no date. */
export function readDate(text: string): number | undefined {
  const [, year, month, day, hour, minute] =
    /^\s*(\d{4})[/-](\d{2})[/-](\d{2})\s+(\d{2}):(\d{2})/.exec(text) ?? [];
  if (minute === undefined) return undefined;
  const ms = Date.parse(`${year}-${month}-${day}T${hour}:${minute}:00Z`);
  return Number.isNaN(ms) ? undefined : ms;
}

/** A message as people read it; what it does not say is absent. */
export interface ReadLetter {
  readonly mid: string;
  readonly dateMs?: number;
  readonly from: string;
  readonly to: readonly string[];
  readonly cc: readonly string[];
  readonly subject: string;
  readonly text: string;
  readonly files: readonly { readonly name: string; readonly octets: number }[];
}

export function readLetter(message: MailMessage): ReadLetter {
  const dateMs = readDate(headerOf(message, 'Date') ?? '');
  const addresses = (name: string): string[] =>
    headersOf(message, name).flatMap((value) =>
      value
        .split(/[;,]/)
        .map((one) => readableHeader(one).trim())
        .filter((one) => one !== ''),
    );
  const charset = /charset="?([\w-]+)/i.exec(headerOf(message, CHARSET_HEADER) ?? '')?.[1];
  return {
    mid: (headerOf(message, 'Mid') ?? '').trim(),
    ...(dateMs === undefined ? {} : { dateMs }),
    from: readableHeader(headerOf(message, 'From') ?? '').trim(),
    to: addresses('To'),
    cc: addresses('Cc'),
    subject: readableHeader(headerOf(message, 'Subject') ?? '').trim(),
    text: read(message.body, charset).replace(/\r\n?/g, '\n'),
    files: message.files.map(({ name, octets }) => ({ name: fileName(name), octets: octets.length })),
  };
}

const MID_SIGNS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789';
/** Twelve signs (B2F: a MID has 12 at most); each by one throw of the dice, 0 ≤ dice < 1. */
export const makeMid = (dice: () => number): string =>
  Array.from({ length: 12 }, () => MID_SIGNS[Math.floor(dice() * MID_SIGNS.length)]).join('');

export const isMid = (text: string): boolean => /^[!-~]{1,12}$/.test(text);
