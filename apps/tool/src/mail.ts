import { isMalformed, malformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { fromLatin1, toLatin1 } from '@mistpeak/core/bits/octets';
import { LARGEST_OCTETS } from '@mistpeak/core/lzhuf/container';
import { packMessage, readMessage, type MailMessage } from '@mistpeak/core/mail/message';
import { fromBase64, toBase64 } from '@mistpeak/core/mail/words';
import { inputWhole, Output } from './streams.js';
import { readArguments, WrongUsage, type Verb } from './verb.js';

export const mailVerb: Verb = {
  name: 'mail',
  usage: 'mail pack | mail unpack',
  about: 'a message as JSON ⇄ its octets, before packing',
  async run(args) {
    const { positionals } = readArguments(args, {});
    if (positionals.length !== 1 || !['pack', 'unpack'].includes(positionals[0] as string))
      throw new WrongUsage('say mail pack or mail unpack');
    const given = await inputWhole(2 * LARGEST_OCTETS);
    const made = isMalformed(given) ? given : positionals[0] === 'pack' ? packed(given) : unpacked(given);
    if (isMalformed(made)) {
      console.error(made.malformed);
      return 1;
    }
    const output = new Output();
    await output.octets(made);
    await output.flush();
    return 0;
  },
};

function unpacked(octets: Uint8Array): string | Malformed {
  const message = readMessage(octets);
  if (isMalformed(message)) return message;
  const { headers, body, files, rest } = message;
  const json = {
    headers: headers.map(({ name, value }) => [name, value]),
    text: toLatin1(body),
    files: files.map((file) => ({ name: file.name, base64: toBase64(file.octets) })),
    ...(rest ? { restBase64: toBase64(rest) } : {}),
  };
  return `${JSON.stringify(json)}\n`;
}

function packed(octets: Uint8Array): Uint8Array | Malformed {
  try {
    const message = messageOf(JSON.parse(new TextDecoder().decode(octets)));
    return isMalformed(message) ? message : packMessage(message);
  } catch (error) {
    return malformed(error instanceof RangeError ? 'texts have one character per octet' : 'this is no JSON');
  }
}

const isText = (value: unknown): value is string => typeof value === 'string';

function messageOf(json: unknown): MailMessage | Malformed {
  const { headers, text = '', files = [] } = (json ?? {}) as Record<string, unknown>;
  if (
    !Array.isArray(headers) ||
    !headers.every((one) => Array.isArray(one) && one.length === 2 && one.every(isText))
  )
    return malformed('headers: a list of pairs, name and text');
  if (!isText(text)) return malformed('text: the body, one character per octet');
  if (!Array.isArray(files)) return malformed('files: a list');
  const read = (files as Record<string, unknown>[]).map((file) => {
    const octets = isText(file?.base64) ? fromBase64(file.base64) : undefined;
    return isText(file?.name) && octets ? { name: file.name, octets } : undefined;
  });
  if (read.includes(undefined)) return malformed('a file has a name and its octets in base64');
  return {
    headers: (headers as [string, string][]).map(([name, value]) => ({ name, value })),
    body: fromLatin1(text),
    files: read.filter((file) => file !== undefined),
  };
}
