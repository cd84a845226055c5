import fc from 'fast-check';
import { identityOf, parseListing } from './listing.js';
import { lettersExplained, memoryLeft, recognisePrompt } from './prompt.js';

// Forms of prompts and listings: common practice, no source.
describe('a prompt', () => {
  it.each([
    ['hello\rhut> ', [], 'hut>'],
    ['You have mail.\r(B,K,L,R,S,?)>', ['B', 'K', 'L', 'R', 'S', '?'], '(B,K,L,R,S,?)>'],
    ['[L R S K B]> \r', ['L', 'R', 'S', 'K', 'B'], '[L R S K B]>'],
    ['Enter command: B/L/R/S:', ['B', 'L', 'R', 'S'], 'Enter command: B/L/R/S:'],
    ['Command:', [], 'Command:'],
    ['\u001b[1mQH2HUT-1 (14:05) >\u001b[0m', [], 'QH#HUT-# (#:#) >'],
  ])('%j', (text, letters, key) => expect(recognisePrompt(text)).toMatchObject({ letters, key }));

  it.each([
    '',
    'Subject:',
    'Dear all:',
    'what?',
    'a line',
    'hut>\rmore follows',
    `${'x'.repeat(80)}>`,
    '>>>',
  ])('%j is none', (text) => expect(recognisePrompt(text)).toBeUndefined());

  it('says how much memory is left where it does', () => {
    expect(recognisePrompt('32,744 bytes free\rhut>')?.memoryLeft).toBe(32744);
    expect(memoryLeft('Memory left: 12 K')).toBe(12000);
    expect(memoryLeft('8 KB available')).toBe(8000);
    expect(memoryLeft('feel free to write')).toBeUndefined();
  });

  it('letters are learnt from a help text', () => {
    expect(lettersExplained('L)ist R)ead S)end\rK n - kill\r[B]ye\r? = help')).toEqual([
      'L',
      'R',
      'S',
      'K',
      'B',
      '?',
    ]);
    expect(lettersExplained('See you later, Bob. A - z')).toEqual([]);
  });
});

describe('a listing', () => {
  it('goes by its heading', () => {
    const text =
      'L\r\nMsg# TSLD Size To     From   Date   Time Subject\r\n12 PN 331 QH4MPK QH8CLA 11/29 1705 terns at hide 3\r\n11 B 90 ALL QH2HUT 11/28 0900 \r\nhut>';
    expect(parseListing(text)).toEqual({
      isGuess: false,
      rows: [
        {
          number: 12,
          status: 'PN',
          size: 331,
          to: 'QH4MPK',
          from: 'QH8CLA',
          date: '11/29 1705',
          subject: 'terns at hide 3',
        },
        { number: 11, status: 'B', size: 90, to: 'ALL', from: 'QH2HUT', date: '11/28 0900', subject: '' },
      ],
    });
  });

  it.each([
    [
      'No From To Title\r7 QH8CLA QH4MPK-1 soup',
      { number: 7, from: 'QH8CLA', to: 'QH4MPK-1', subject: 'soup' },
    ],
    [
      '# St Len To @ By Date Subject\r7 N 5 QH4MPK QH8CLA 29-Nov 12:30 a b',
      { number: 7, to: 'QH4MPK', from: 'QH8CLA', date: '29-Nov 12:30', subject: 'a b' },
    ],
    ['# To From Date Subject\r7. QH4MPK QH8CLA 29 Nov soup', { number: 7, date: '29 Nov', subject: 'soup' }],
    ['# To From Subject\r#7 QH4MPK QH8CLA soup', { number: 7, subject: 'soup' }],
  ])('%j', (text, row) => expect(parseListing(text)?.rows).toMatchObject([row]));

  it('without one is a guess, and what is no row is none', () => {
    expect(parseListing('3 P 44 QH4MPK QH8CLA 11/29 soup\rthe end')).toEqual({
      isGuess: true,
      rows: [
        { number: 3, status: 'P', size: 44, to: 'QH4MPK', from: 'QH8CLA', date: '11/29', subject: 'soup' },
      ],
    });
    expect(parseListing('nothing here\rhut>')).toBeUndefined();
    expect(parseListing('Msg# To From Subject\rhut>')).toEqual({ isGuess: false, rows: [] });
  });

  it('the last one counts', () => {
    const one = 'Msg# To From Subject\r1 QH4MPK QH8CLA old\r';
    expect(parseListing(`${one}hut>L\r${one.replace('1 ', '9 ').replace('old', 'new')}`)?.rows).toMatchObject(
      [{ number: 9, subject: 'new' }],
    );
  });

  it('a message is known by sender, addressee and subject', () => {
    const row = { from: 'QH8CLA', to: 'QH4MPK', subject: 'Soup ' };
    expect(identityOf(row)).toBe(identityOf({ ...row, subject: 'soup' }));
    expect(identityOf(row)).not.toBe(identityOf({ ...row, from: 'QH8CLB' }));
    expect(identityOf(row)).not.toBe(identityOf({ ...row, to: 'ALL' }));
  });

  it('no text breaks it', () => {
    fc.assert(
      fc.property(
        fc.string({
          unit: fc.constantFrom('1', 'Q', '#', ' ', '\r', '>', ':', 'to', 'from', 'msg', '\u001b'),
        }),
        (text) => {
          expect(() => [parseListing(text), recognisePrompt(text), lettersExplained(text)]).not.toThrow();
        },
      ),
    );
  });
});
