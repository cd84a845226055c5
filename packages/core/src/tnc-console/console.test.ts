import fc from 'fast-check';
import { fromHex, fromLatin1 } from '../bits/octets.js';
import { mayKey } from './commands.js';
import { callOfTnc, tellsOfMail, WHAT_IT_MEANS, whatComes } from './what-comes.js';

// The words of such TNCs: common practice, no source.
it.each(['MYCALL', ' help ', 'HELP TXDELAY', 'disp', 'DISPLAY TIMING', 'MH', 'TXD', '', '?'])(
  '%j only reads',
  (typed) => expect(mayKey(typed)).toBe(false),
);

it.each([
  'C QH2HUT-1',
  'CONNECT QH2HUT',
  'MYCALL QH4MPK',
  'K',
  'hello',
  'TXD 30',
  'HELP 1',
  'HELP A B',
  'KISS ON',
  'RESTART',
  'CAL',
  'D',
])('%j may key or change something', (typed) => expect(mayKey(typed)).toBe(true));

it.each([
  ['', '', 'nothing'],
  ['\r\ncmd:', '', 'prompt'],
  ['MYCALL QH4MPK-1\rcmd: ', 'MYCALL', 'prompt'],
  ['*** CONNECTED to QH2HUT-1\r', '', 'text'],
  ['MYCALL\r\n', 'MYCALL', 'echo alone'],
  ['MYCALL\r\nMYCALL QH4MPK\r', 'MYCALL', 'text'],
  ['$GPRMC,120000,A*00\r\n', '', 'positions'],
] as const)('%j after %j is %s', (text, typed, kind) =>
  expect(whatComes(fromLatin1(text), typed).kind).toBe(kind),
);

it.each([
  ['c000a0b0c0', 'KISS'],
  ['f8e0fe80ff', 'wrong speed'],
  ['f8e0', 'text'],
] as const)('%s is %s', (hex, kind) => expect(whatComes(fromHex(hex) as Uint8Array, '').kind).toBe(kind));

it('names the prompt, and any octets are something that is explained', () => {
  expect(whatComes(fromLatin1('cmd:'), '')).toEqual({ kind: 'prompt', prompt: 'cmd:' });
  fc.assert(
    fc.property(fc.uint8Array(), (octets) => expect(WHAT_IT_MEANS[whatComes(octets, '').kind]).toBeDefined()),
  );
});

it.each([
  ['MYCALL QH4MPK-1\rcmd:', 'QH4MPK-1'],
  ['MYcall was QH2HUT', 'QH2HUT'],
  ['My call: qh4mpk', undefined],
  ['MYCALL is QH4MPK\rMYCALL QH4MPK-2', 'QH4MPK-2'],
  ['cmd:', undefined],
])('%j names %s', (text, call) => expect(callOfTnc(text)).toBe(call));

it('tells waiting mail', () => {
  expect(tellsOfMail('*** You have mail\rcmd:')).toBe(true);
  expect(tellsOfMail('no news\rcmd:')).toBe(false);
});
