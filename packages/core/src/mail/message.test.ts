import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { hasAmateurForm } from '../callsign/callsign.js';
import { readMailAddress, shownAddress } from './address.js';
import {
  beyondLatin1,
  dateText,
  isMid,
  makeMid,
  readDate,
  readLetter,
  writeLetter,
  type Letter,
} from './letter.js';
import { headerOf, headersOf, packMessage, readMessage, type MailMessage } from './message.js';
import { fileName, fromBase64, headerText, readableHeader, toBase64 } from './words.js';

const bytes = (...lines: string[]): Uint8Array => fromLatin1(lines.join('\r\n'));
const good = (octets: Uint8Array): MailMessage => {
  const message = readMessage(octets);
  if (isMalformed(message)) throw new Error(message.malformed);
  return message;
};

/** from: the message format of B2F, as its public description shows it, with calls of the demo. */
const EXAMPLE = bytes(
  'Mid: TJKYEIMMHSRB',
  'Date: 2026/05/03 18:40',
  'Type: Private',
  'From: QH4MPK',
  'To: QH7CTA',
  'To: SMTP:kitchen@hollin.example',
  'Cc: QH8CLA',
  'Subject: Evening tally',
  'Mbo: QH4MPK',
  'X-Odd:no space',
  'Body: 8',
  'File: 3 a b.txt',
  'File: 0 empty',
  '',
  '41 t\xe9rns\r\n\x00\x01\xff\r\n\r\n',
);

describe('a message', () => {
  it('is read header by header, text and files by their counts, and made again octet by octet', () => {
    const message = good(EXAMPLE);
    expect(headerOf(message, 'mid')).toBe('TJKYEIMMHSRB');
    expect(headersOf(message, 'To')).toEqual(['QH7CTA', 'SMTP:kitchen@hollin.example']);
    expect(toLatin1(message.body)).toBe('41 t\xe9rns');
    expect(message.files.map(({ name, octets }) => [name, ...octets])).toEqual([
      ['a b.txt', 0, 1, 255],
      ['empty'],
    ]);
    expect(packMessage(message)).toEqual(EXAMPLE);
    expect(readLetter(message)).toEqual({
      mid: 'TJKYEIMMHSRB',
      dateMs: Date.UTC(2026, 4, 3, 18, 40),
      from: 'QH4MPK',
      to: ['QH7CTA', 'SMTP:kitchen@hollin.example'],
      cc: ['QH8CLA'],
      subject: 'Evening tally',
      text: '41 térns',
      files: [
        { name: 'a b.txt', octets: 3 },
        { name: 'empty', octets: 0 },
      ],
    });
  });

  it('keeps what follows its last file, and folded headers', () => {
    const more = bytes('Mid: A', 'Subject: one', '  two', 'Body: 1', '', 'x\r\n');
    expect(good(more)).toMatchObject({ rest: Uint8Array.of(13, 10) });
    expect(headerOf(good(more), 'Subject')).toBe('one\r\n  two');
    expect(packMessage(good(more))).toEqual(more);
  });

  it('counts are made of what there is, whatever the headers said', () => {
    const headers = [
      { name: 'File', value: '9 old' },
      { name: 'Body', value: '7' },
      { name: 'File', value: '9 gone' },
    ];
    const files = [{ name: 'new', octets: Uint8Array.of(7) }];
    expect(toLatin1(packMessage({ headers, body: fromLatin1('ab'), files }))).toBe(
      'File: 1 new\r\nBody: 2\r\n\r\nab\r\n\x07\r\n',
    );
    expect(toLatin1(packMessage({ headers: [], body: fromLatin1('ab'), files }))).toBe(
      'Body: 2\r\nFile: 1 new\r\n\r\nab\r\n\x07\r\n',
    );
  });

  it.each([
    ['no blank line', bytes('Mid: A', 'Body: 0'), 'blank line'],
    ['no Body', bytes('Mid: A', '', ''), 'no Body header'],
    ['a Body of words', bytes('Body: many', '', ''), 'no Body header'],
    ['too short', bytes('Body: 4', '', 'abc'), 'ends within its text'],
    [
      'no line end after the text',
      bytes('Body: 3', 'File: 1 x', '', 'abcdef'),
      'no line end follows its text',
    ],
    ['a short file', bytes('Body: 1', 'File: 3 x', '', 'a', 'ab'), 'within the file x'],
    [
      'a file without its line end',
      bytes('Body: 1', 'File: 1 x', '', 'a', 'b'),
      'no line end follows the file x',
    ],
    ['a file without a size', bytes('Body: 1', 'File: x', '', 'a', 'b', ''), 'within the file x'],
    ['a line that is no header', bytes('Mid: A', 'hello', 'Body: 0', '', ''), '“hello”'],
  ])('with %s is refused with the reason', (_, octets, reason) => {
    expect(readMessage(octets)).toMatchObject({ malformed: expect.stringContaining(reason) });
  });

  it('junk is a reason or a message that is made again as it was', () => {
    const lines = fc.array(
      fc.constantFrom('Mid: A', 'Body: 2', 'File: 1 x', 'To:QH7CTA', ' more', '', 'ab', '\x00'),
      { maxLength: 9 },
    );
    fc.assert(
      fc.property(
        fc.oneof(
          lines.map((all) => bytes(...all)),
          fc.uint8Array({ maxLength: 80 }),
        ),
        (octets) => {
          const message = readMessage(octets);
          if (isMalformed(message)) return;
          expect(headersOf(message, 'Body').length > 1 || packMessage(message)).toEqual(
            headersOf(message, 'Body').length > 1 || octets,
          );
        },
      ),
      { numRuns: 500 },
    );
  });
});

const LETTER: Letter = {
  mid: 'AB12CD34EF56',
  dateMs: Date.UTC(2026, 4, 3, 18, 40, 59),
  from: 'QH4MPK',
  to: ['QH7CTA', 'SMTP:kitchen@hollin.example'],
  cc: ['QH8CLA'],
  subject: 'Grüße vom Hüttendach',
  text: 'one\ntwo\r\nthree é',
  files: [{ name: 'kärtchen.png', octets: Uint8Array.of(0, 13, 10, 255) }],
  origin: 'QH4MPK',
  beyondLatin1: 'utf-8',
};

describe('a letter', () => {
  const through = (letter: Letter): ReturnType<typeof readLetter> =>
    readLetter(good(packMessage(writeLetter(letter))));

  it('comes back as it was written', () => {
    const { text, files, to, cc, subject, dateMs } = through(LETTER);
    expect({ text, to, cc, subject, dateMs }).toEqual({
      text: 'one\ntwo\nthree é',
      to: LETTER.to,
      cc: LETTER.cc,
      subject: LETTER.subject,
      dateMs: Date.UTC(2026, 4, 3, 18, 40),
    });
    expect(files).toEqual([{ name: 'kärtchen.png', octets: 4 }]);
    expect(good(packMessage(writeLetter(LETTER))).files[0]?.octets).toEqual(LETTER.files[0]?.octets);
  });

  it('is in ISO-8859-1 as long as that will do; else as was chosen', () => {
    expect(headerOf(writeLetter(LETTER), 'Content-Type')).toBeUndefined();
    expect(toLatin1(writeLetter(LETTER).body)).toBe('one\r\ntwo\r\nthree \xe9');
    const far = { ...LETTER, text: '5 € – ☂' };
    expect(beyondLatin1(far.text)).toEqual(['€', '–', '☂']);
    expect(headerOf(writeLetter(far), 'Content-Type')).toBe('text/plain; charset=utf-8');
    expect(through(far).text).toBe('5 € – ☂');
    const marked = { ...far, beyondLatin1: 'question marks' as const };
    expect(headerOf(writeLetter(marked), 'Content-Type')).toBeUndefined();
    expect(through(marked).text).toBe('5 ? ? ?');
  });

  it('undeclared text is read as what it is; what is declared, as that', () => {
    const message = (head: string, body: string): string =>
      readLetter(good(bytes(`${head}Body: ${body.length}`, '', body))).text;
    expect(message('', 'caf\xe9')).toBe('café');
    expect(message('', 'caf\xc3\xa9')).toBe('café');
    expect(message('Content-Type: text/plain; charset="ISO-8859-1"\r\n', 'caf\xc3\xa9')).toBe('cafÃ©');
  });

  it('dates are UTC in the form of the protocol, and read with either mark', () => {
    expect(dateText(Date.UTC(2026, 0, 2, 3, 4))).toBe('2026/01/02 03:04');
    expect(readDate('2026-01-02 03:04')).toBe(Date.UTC(2026, 0, 2, 3, 4));
    expect([readDate('yesterday'), readDate('2026/13/40 03:04')]).toEqual([undefined, undefined]);
    expect('dateMs' in readLetter(good(bytes('Body: 0', '', '')))).toBe(false);
  });

  it('ids have twelve signs by the dice', () => {
    let throws = 0;
    expect(makeMid(() => (throws++ % 36) / 36)).toBe('ABCDEFGHIJKL');
    expect(makeMid(() => 0.9999)).toBe('999999999999');
    expect([isMid('ABCDEFGHIJKL'), isMid('ABCDEFGHIJKLM'), isMid(''), isMid('A B')]).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });
});

describe('words in headers', () => {
  // from: RFC 2047, section 8
  it.each([
    ['=?ISO-8859-1?Q?a?=', 'a'],
    ['=?ISO-8859-1?Q?a?= b', 'a b'],
    ['=?ISO-8859-1?Q?a?= =?ISO-8859-1?Q?b?=', 'ab'],
    ['=?ISO-8859-1?Q?a_b?=', 'a b'],
    ['=?US-ASCII?Q?Keith_Moore?=', 'Keith Moore'],
    ['=?ISO-8859-1?Q?Keld_J=F8rn_Simonsen?=', 'Keld Jørn Simonsen'],
    ['=?ISO-8859-1?B?SWYgeW91IGNhbiByZWFkIHRoaXMgeW8=?=', 'If you can read this yo'],
    ['caf\xc3\xa9', 'café'],
    ['=?utf-8?B?!!?=', '=?utf-8?B?!!?='],
  ])('%s', (given, shown) => expect(readableHeader(given)).toBe(shown));

  it('any text comes back, in words of 75 signs at most', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 90 }), (text) => {
        const written = headerText(text);
        expect(
          /^[\x20-\x7e]*$/.test(written) &&
            written.split(' ').every((word) => !word.startsWith('=?') || word.length <= 75),
        ).toBe(true);
        const meant = text.replace(/[\r\n\t]+/g, ' ');
        expect(/[\x00-\x1f]/.test(meant) || readableHeader(written)).toEqual(
          /[\x00-\x1f]/.test(meant) || meant,
        );
      }),
    );
  });

  it('base64 both ways (from: RFC 4648, section 10)', () => {
    for (const [text, coded] of [
      ['', ''],
      ['f', 'Zg=='],
      ['fo', 'Zm8='],
      ['foo', 'Zm9v'],
      ['foobar', 'Zm9vYmFy'],
    ] as const) {
      expect(toBase64(fromLatin1(text))).toBe(coded);
      expect(toLatin1(fromBase64(coded) as Uint8Array)).toBe(text);
    }
    expect([fromBase64('A'), fromBase64('A!AA')]).toEqual([undefined, undefined]);
  });

  it('names of files are names, not ways', () => {
    expect(['a/b\\c.txt', '..', '', 'x\u0000y|z', '=?utf-8?Q?k=C3=A4rt?='].map(fileName)).toEqual([
      'c.txt',
      'file',
      'file',
      'x_y_z',
      'kärt',
    ]);
    expect(fileName('x'.repeat(200))).toHaveLength(120);
  });
});

describe('addresses', () => {
  const RULES = { own: ['QH4MPK', 'QH4MPK-1'], domain: 'mail.hollin.example' };
  const read = (text: string): unknown => {
    const address = readMailAddress(text, RULES);
    return address.ok ? `${address.kind} ${address.address}${address.doubt ? ' ?' : ''}` : address.trouble;
  };

  it.each([
    [' qh7cta ', 'station QH7CTA'],
    ['QH7CTA-5', 'station QH7CTA-5'],
    ['qh7cta@Mail.Hollin.Example', 'station QH7CTA'],
    ['kitchen@hollin.example', 'internet SMTP:kitchen@hollin.example'],
    ['smtp:kitchen@hollin.example', 'internet SMTP:kitchen@hollin.example'],
    ['test', 'name TEST'],
    ['QTH', 'name QTH ?'],
    ['QH7CTAX9', 'name QH7CTAX9 ?'],
    ['', 'to whom? A call, or an address of the internet'],
    ['a@b', '“a@b” is no address: it reads name@host.example'],
    ['a b@hollin.example', '“a b@hollin.example” is no address: it reads name@host.example'],
    ['two words', '“TWO WORDS” is no address: a call, or name@host.example'],
    ['N0CALL', 'N0CALL stands for a call and is none'],
  ])('%s', (typed, what) => expect(read(typed)).toBe(what));

  it('oneself is refused, and the test address offered', () => {
    for (const own of ['QH4MPK', 'qh4mpk-1', 'QH4MPK-9', 'QH4MPK@mail.hollin.example'])
      expect(read(own)).toMatch(/nobody can mail himself.*TEST/);
    expect(shownAddress('SMTP:a@hollin.example')).toBe('a@hollin.example');
  });

  it('the form of a call is told', () => {
    expect(['QH7CTA', '1X9TST', 'KITCHEN', 'QTH'].map(hasAmateurForm)).toEqual([true, true, false, false]);
  });
});
