import { shownAddress } from '@mistpeak/core/mail/address';
import { readLetter } from '@mistpeak/core/mail/letter';
import type { MailFile, MailMessage } from '@mistpeak/core/mail/message';
import { octetsOf } from '@mistpeak/core/mail/words';
import MailComposer from 'nodemailer/lib/mail-composer';
import PostalMime from 'postal-mime';
import { withoutPassword } from './first-password.js';

/** What stands for a call where an address of the internet is expected: reserved, so that it leads nowhere (RFC 2606). */
const NOWHERE = 'radio.invalid';

const addressOf = (address: string): string => {
  const shown = shownAddress(address);
  return shown.includes('@') ? shown : `${shown}@${NOWHERE}`;
};

/** A message as a file of RFC 5322, by a general library. A password that came in clear is left out. */
export async function toEml(message: MailMessage): Promise<Buffer> {
  const letter = readLetter(message);
  const made = new MailComposer({
    from: addressOf(letter.from),
    to: letter.to.map(addressOf),
    cc: letter.cc.map(addressOf),
    subject: letter.subject,
    date: new Date(letter.dateMs ?? 0),
    messageId: `<${letter.mid}@${NOWHERE}>`,
    headers: { 'X-Radio-Mid': letter.mid },
    text: withoutPassword(letter),
    attachments: message.files.map(({ octets }, i) => ({
      filename: letter.files[i]?.name ?? 'file',
      content: Buffer.from(octets),
      contentType: 'application/octet-stream',
    })),
  });
  return made.compile().build();
}

/** What a file of RFC 5322 says, as a letter of ours. */
export interface ReadEml {
  readonly mid?: string;
  readonly dateMs?: number;
  readonly from: string;
  readonly to: readonly string[];
  readonly cc: readonly string[];
  readonly subject: string;
  readonly text: string;
  readonly files: readonly MailFile[];
}

export async function fromEml(octets: Uint8Array): Promise<ReadEml> {
  const mail = await PostalMime.parse(octets);
  const addresses = (all: typeof mail.to): string[] =>
    (all ?? []).flatMap(({ address }) => (address ? [wireAddress(address)] : []));
  const mid = mail.headers.find(({ key }) => key === 'x-radio-mid')?.value.trim();
  const dateMs = mail.date === undefined ? NaN : Date.parse(mail.date);
  return {
    ...(mid === undefined ? {} : { mid }),
    ...(Number.isNaN(dateMs) ? {} : { dateMs }),
    from: mail.from?.address ? wireAddress(mail.from.address) : '',
    to: addresses(mail.to),
    cc: addresses(mail.cc),
    subject: mail.subject ?? '',
    // A line end closes every text there.
    text: (mail.text ?? textOfHtml(mail.html ?? '')).replace(/\n$/, ''),
    files: mail.attachments.map(({ filename, content }, i) => ({
      name: filename ?? `file ${i + 1}`,
      octets: typeof content === 'string' ? octetsOf(content) : new Uint8Array(content),
    })),
  };
}

const wireAddress = (address: string): string =>
  address.toLowerCase().endsWith(`@${NOWHERE}`)
    ? address.slice(0, -NOWHERE.length - 1).toUpperCase()
    : `SMTP:${address}`;

/** Tags fall away; nothing of it is shown as a page. */
const textOfHtml = (html: string): string =>
  html
    .replace(/<(?:br|\/p|\/div)[^>]*>/gi, '\n')
    .replace(/<[^>]*>/g, '')
    .trim();

/** Messages one after another (RFC 4155, with `>From` for what begins like that): mbox. */
export function toMbox(
  files: readonly { readonly eml: Buffer; readonly from: string; readonly atMs: number }[],
): Buffer {
  return Buffer.concat(
    files.map(({ eml, from, atMs }) => {
      const when = new Date(atMs)
        .toUTCString()
        .replace(/^(\w+), (\d+) (\w+) (\d+) ([\d:]+) GMT$/, '$1 $3 $2 $5 $4');
      const body = eml
        .toString('latin1')
        .replace(/\r\n/g, '\n')
        .replace(/^(>*From )/gm, '>$1');
      return Buffer.from(`From ${addressOf(from)} ${when}\n${body.replace(/\n*$/, '\n')}\n`, 'latin1');
    }),
  );
}

export function fromMbox(octets: Uint8Array): Buffer[] {
  const text = Buffer.from(octets).toString('latin1').replace(/\r\n/g, '\n');
  if (!text.startsWith('From ')) return [Buffer.from(octets)];
  return text
    .split(/^From .*\n/m)
    .slice(1)
    .map((one) => Buffer.from(one.replace(/^>(>*From )/gm, '$1').replace(/\n/g, '\r\n'), 'latin1'));
}
