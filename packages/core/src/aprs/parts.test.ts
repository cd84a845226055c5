import { isMalformed } from '../bits/malformed.js';
import { fromLatin1 } from '../bits/octets.js';
import { readMicE } from './mic-e.js';
import { joinWords } from './text.js';
import { parseAprs } from './parse.js';
import { readThirdParty } from './third-party.js';
import { readMdhm, readTimestamp } from './timestamp.js';

it('words are joined by one blank, and by none where one side is empty', () => {
  expect(joinWords('left ', ' right')).toBe('left right');
  expect(joinWords('', ' right')).toBe('right');
  expect(joinWords('left ', '')).toBe('left');
  expect(joinWords(' ', ' ')).toBe('');
});

/** APRS 1.0.1, "Time formats". */
it('an impossible time keeps its text and gives no figures', () => {
  expect(readTimestamp('312359z')).toEqual({
    form: 'dhm-zulu',
    text: '312359z',
    day: 31,
    hour: 23,
    minute: 59,
  });
  for (const text of ['322359z', '312459z', '312360z', '235960h', '246000h'])
    expect(Object.keys(readTimestamp(text) ?? {})).toEqual(['form', 'text']);
  expect(Object.keys(readMdhm('13010000') ?? {})).toEqual(['form', 'text']);
  expect(readMdhm('12010000')).toMatchObject({ month: 12 });
});

it('third-party packets are read twenty deep, and no deeper', () => {
  const inner = (): never => ({ type: 'status' }) as never;
  expect(isMalformed(readThirdParty('}QH7CTB-9>APZMPK:>x', inner, 19))).toBe(false);
  expect(isMalformed(readThirdParty('}QH7CTB-9>APZMPK:>x', inner, 20))).toBe(true);
});

/** APRS 1.0.1, "Speed and course": the lowest octet is 1C (28). */
it.each([4, 5, 6])('a Mic-E report with an octet %i below its range has no speed and no course', (at) => {
  const info = '`(_fn"Oj/';
  const broken = `${info.slice(0, at)}\x1b${info.slice(at + 1)}`;
  expect(readMicE(info, 'S32U6T')).toMatchObject({ courseDeg: 251 });
  const report = readMicE(broken, 'S32U6T');
  expect(report).toMatchObject({ type: 'mic-e' });
  expect(report).not.toHaveProperty('courseDeg');
  expect(report).not.toHaveProperty('speedKmh');
});

/** APRS 1.0.1, "Maidenhead locator beacon". */
it('a locator beacon without a comment has none', () => {
  const report = parseAprs(fromLatin1('[IO91SX]'), 'APZMPK');
  expect(report).toMatchObject({ type: 'position', locator: 'IO91SX' });
  expect(report).not.toHaveProperty('comment');
  expect(parseAprs(fromLatin1('[IO91SX] hut'), 'APZMPK')).toMatchObject({ comment: 'hut' });
});
