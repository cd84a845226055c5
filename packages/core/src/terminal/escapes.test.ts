import fc from 'fast-check';
import { interpretEscapes, stripEscapes } from './escapes.js';

// from: ECMA-48, 5th edition, 5.3, 5.4, 5.6
it.each([
  ['\u001b[2J\u001b[1;1Hmenu', 'menu'],
  ['a\u001b[?25lb', 'ab'],
  ['\u009b31mred', 'red'],
  ['\u001b]0;title\u0007text', 'text'],
  ['\u001b]0;title\u001b\\text', 'text'],
  ['\u001b(Bplain\u001b7', 'plain'],
  ['bell\u0007 and\ttab\nline', 'bell and\ttab\nline'],
  ['cut \u001b[3', 'cut '],
  ['cut \u001b', 'cut '],
  ['cut \u001b]0;ti', 'cut '],
  ['no \u001bé end', 'no é end'],
])('%j is %j', (text, stripped) => expect(stripEscapes(text)).toBe(stripped));

// from: ECMA-48, 8.3.117; 90 to 97 and 38;5 by common practice, no source
it('keeps colour and weight, and carries them on', () => {
  const { stretches, style } = interpretEscapes(
    'a\u001b[1;31mb\u001b[4mc\u001b[22;24;39md\u001b[92;38;5;40me\u001b[mf\u001b[34m',
  );
  expect(stretches).toEqual([
    { text: 'a', style: {} },
    { text: 'b', style: { isBold: true, colour: 'red' } },
    { text: 'c', style: { isBold: true, colour: 'red', isUnderlined: true } },
    { text: 'd', style: { isBold: false, isUnderlined: false } },
    { text: 'e', style: { isBold: false, isUnderlined: false, colour: 'green' } },
    { text: 'f', style: {} },
  ]);
  expect(style).toEqual({ colour: 'blue' });
  expect(interpretEscapes('on', style).stretches).toEqual([{ text: 'on', style: { colour: 'blue' } }]);
  expect(interpretEscapes('\u001b[29mx\u001b[48;2;1;2;31my').stretches).toEqual([
    { text: 'x', style: {} },
    { text: 'y', style: {} },
  ]);
});

it('no text hangs or breaks it, and nothing of a command is left', () => {
  const bits = fc.constantFrom('\u001b', '[', ']', '\u009b', '0', ';', 'm', 'P', '\u0007', '\\', 'x', '\r');
  fc.assert(
    fc.property(fc.array(bits, { maxLength: 60 }), (parts) =>
      expect(stripEscapes(parts.join(''))).not.toMatch(/[\u001b\u0007]/),
    ),
  );
});
