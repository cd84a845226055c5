import { encodeFrame, RESPONSE_BITS } from '../ax25/frame.js';
import { frames, send, Table } from './testing/table.js';

describe('a frame that breaks the rules', () => {
  // from: AX.25 v2.2, appendix "Data-link SDL diagrams", error table
  it.each([
    ['L: control field without a meaning', [0xcf]],
    ['L: control field without a meaning', [0x1b, 0x41]],
    ['M: information where none may be', [0x01, 0x41]],
    ['M: information where none may be', [0x73, 0x41]],
    ['N: length wrong for its kind', [0x00]],
    ['N: length wrong for its kind', []],
    ['O: more information than was agreed', [0x00, 0xf0, ...new Array<number>(2049).fill(0x41)]],
  ])('error %s resets the link that stands, and no other', (words, field) => {
    const bare = encodeFrame({
      destination: 'QH4MPK',
      source: 'QH2HUT-1',
      path: [],
      cBits: RESPONSE_BITS,
      control: { kind: 'UA', pf: true },
      info: new Uint8Array(),
    }).subarray(0, 14);
    const octets = Uint8Array.from([...bare, ...field]);
    const end = new Table().connected();
    end.do(send('me'));
    expect(frames(end.do({ kind: 'heard', octets }))).toEqual([words, 'reset, lost 2', 'SABM P']);
    expect(new Table().do({ kind: 'heard', octets })).toEqual([words]);
  });

  it('information of exactly N1 is taken', () => {
    const end = new Table().connected();
    const most = 'x'.repeat(2048);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 0, nr: 0 }, true, most))).toEqual([`data ${most}`]);
  });
});
