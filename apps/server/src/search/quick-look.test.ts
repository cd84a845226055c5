import { encodeAprs } from '@mistpeak/core/aprs/encode';
import { encodeFrame, uiFrame, type Ax25Frame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { searchText } from '@mistpeak/core/listening/search-text';
import { viewFrame, viewLine, type FrameView } from '@mistpeak/core/stations/view';
import { mayHold, plainWords, soughtWord } from './quick-look.js';

const hop = { call: 'QH1TOP', used: true };
const micE = encodeAprs({
  type: 'mic-e',
  latitudeDeg: -29.6,
  longitudeDeg: -11.4,
  symbol: { table: '/', code: '>' },
  micE: { message: 'en route', gpsFix: 'current' },
  comment: 'Batteries',
});
const connected = (control: object): Ax25Frame =>
  ({ ...uiFrame('QH4MPK-7', 'QH2HUT-1', [hop], new Uint8Array()), control }) as Ax25Frame;
const FRAMES: Ax25Frame[] = [
  uiFrame(
    'QH7CTA-9',
    'APZMPK',
    [hop, { call: 'WIDE2-1', used: false }],
    fromLatin1('!2936.00S/01124.00W>Cart A 12'),
  ),
  uiFrame('QH7CTE-15', micE.destination ?? '', [hop], micE.info),
  connected({ kind: 'SABM', pf: true }),
  connected({ kind: 'RR', pf: true, nr: 5 }),
  uiFrame(
    'QH8CLA-7',
    'APZMPK',
    Array.from({ length: 8 }, (_, i) => ({ call: `QH1R${i}-1`, used: i < 3 })),
    fromLatin1('>äöü walking'),
  ),
];
const LINE = 'QH9BLN-11>APZMPK,TCPIP*,qAC,HOLLIN1:>Balloon';

/** Every run of letters and digits of its text, whole and in parts, is one that may be asked for. */
function* partsOf(text: string): Generator<string> {
  for (const [word] of text.matchAll(/[a-z0-9]+/g))
    for (let from = 0; from < word.length; from++)
      for (let to = from + 1; to <= word.length; to++) yield word.slice(from, to);
}

it.each(FRAMES.map((frame, i) => [i, frame] as const))(
  'whatever frame %i says is not overlooked',
  (_, frame) => {
    const raw = encodeFrame(frame);
    const text = searchText(viewFrame(raw) as FrameView);
    for (const part of partsOf(text))
      expect([part, mayHold({ raw, line: undefined }, plainWords([part]))]).toEqual([part, true]);
  },
);

it('nor what a line of the internet says', () => {
  const text = searchText(viewLine(LINE) as FrameView);
  for (const part of partsOf(text))
    expect([part, mayHold({ raw: new Uint8Array(), line: LINE }, plainWords([part]))]).toEqual([part, true]);
});

it('and what is not there is seen not to be there; each word has to be', () => {
  const raw = encodeFrame(FRAMES[0] as Ax25Frame);
  expect(mayHold({ raw, line: undefined }, plainWords(['gannet']))).toBe(false);
  expect(mayHold({ raw, line: undefined }, plainWords(['cart', 'gannet']))).toBe(false);
  expect(plainWords(['qh7cta-9', 'a>b', 'route', 'sabm', 'r12', '9', 'cart', 'ö'])).toEqual(['cart']);
});

it('the database looks for the octets of an address as they are shifted there', () => {
  const raw = Buffer.from(encodeFrame(FRAMES[0] as Ax25Frame));
  const [capital, small] = soughtWord('qh7ct').inAddress;
  expect(raw.includes(capital)).toBe(true);
  expect(raw.includes(small)).toBe(false);
  expect(soughtWord('a0').inAddress.map((one) => one.toString('hex'))).toEqual(['8260', 'c260']);
});
