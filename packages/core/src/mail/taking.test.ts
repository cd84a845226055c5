import { fromLatin1 } from '../bits/octets.js';
import { pack } from '../lzhuf/container.js';
import { crc16 } from '../lzhuf/crc16.js';
import { encodeBlocks } from './block.js';
import { type ExchangeContext } from './exchange.js';
import { formatClosing, formatProposal } from './proposal.js';

import { End, outgoing } from './testing/end.js';

const GATE = '[Gate-1-B2FHM$]\r;PQ: 23753528\rQH5VEL-10 >\r';

describe('what they offer', () => {
  const theirs = outgoing('T1', 'from the cliffs '.repeat(40));
  const block = (...all: (typeof theirs)[]): string => {
    const lines = all.map(formatProposal);
    return `${lines.join('\r')}\r${formatClosing(lines)}\r`;
  };
  const blocks = encodeBlocks('T1', theirs.packed, 0, 6);
  const logged = (more: Partial<ExchangeContext> = {}): End => {
    const end = new End(more).hears(GATE);
    end.said();
    return end;
  };

  it('is asked for, comes in pieces, and is confirmed only once it is kept', () => {
    const end = logged().hears(block(theirs));
    expect(end.said()).toBe('FS +|');
    for (const octet of blocks) end.hears(Uint8Array.of(octet));
    expect(end.of('keep')).toEqual([
      { kind: 'keep', mid: 'T1', octets: theirs.whole, packedOctets: theirs.packedOctets },
    ]);
    expect([end.said(), end.state.phase]).toEqual(['', 'keeping']);
    expect(end.on({ kind: 'timer', timer: 'patience' }).state.phase).toBe('keeping');
    expect(end.on({ kind: 'kept', mid: 'T1' }).said()).toBe('FF|');
    expect(end.of('part').at(-1)).toMatchObject({ packed: theirs.packed });
  });

  it('that cannot be kept ends it, unconfirmed', () => {
    const end = logged().hears(block(theirs)).hears(blocks).on({ kind: 'not kept', mid: 'T1' });
    expect(end.said()).toBe('FS +|*** The message could not be stored here|');
    expect(end.state.ending?.kind).toBe('not kept');
  });

  it('that is there already, comes elsewhere, is twice in a block, too large, or of another kind is not taken', () => {
    const answer = (more: Partial<ExchangeContext>, ...all: (typeof theirs)[]): string =>
      logged(more)
        .hears(block(...all))
        .said();
    expect(answer({ has: () => 'all' }, theirs)).toBe('FS -|FF|');
    expect(answer({ has: () => 'coming' }, theirs)).toBe('FS =|FF|');
    expect(answer({}, theirs, theirs)).toBe('FS +-|');
    expect(answer({ takes: false }, theirs)).toBe('FS =|FF|');
    expect(answer({ largestOctets: theirs.octets }, theirs)).toBe('FS +|');
    expect(answer({ largestOctets: theirs.octets - 1 }, theirs)).toBe('FS R|FF|');
    const odd = 'FA P QH4MPK QH7CTA X 123 9';
    expect(
      logged()
        .hears(`${odd}\r${formatClosing([odd])}\r`)
        .said(),
    ).toBe('FS R|FF|');
  });

  it('in part goes on from there; with another head it is begun anew next time', () => {
    const part = theirs.packed.subarray(0, 50);
    const has = (): Uint8Array => part;
    const end = logged({ has }).hears(block(theirs));
    expect(end.said()).toBe('FS !50|');
    end.hears(encodeBlocks('T1', theirs.packed, 50, 6));
    expect(end.of('keep')[0]?.octets).toEqual(theirs.whole);
    expect(logged({ has }).hears(block(theirs)).hears(blocks).of('keep')).toHaveLength(1);
    const other = theirs.packed.slice();
    other[0] = (other[0] as number) ^ 1;
    const changed = logged({ has })
      .hears(block(theirs))
      .hears(encodeBlocks('T1', other, 50, 6));
    expect([changed.of('forget part').length, changed.state.ending?.kind]).toEqual([1, 'wrong content']);
    const astray = logged({ has })
      .hears(block(theirs))
      .hears(encodeBlocks('T1', theirs.packed, 49, 6));
    expect(astray.state.ending?.kind).toBe('out of order');
    // Six octets are only the head: nothing is gained.
    expect(
      logged({ has: () => theirs.packed.subarray(0, 6) })
        .hears(block(theirs))
        .said(),
    ).toBe('FS +|');
  });

  it('over the limit is asked about; silence puts it off', () => {
    const told = `;PM: QH4MPK T1 ${theirs.packedOctets} QH7CTA cliffs\r`;
    const asked = (): End => logged({ askOver: theirs.packedOctets - 1 }).hears(told + block(theirs));
    expect(asked().of('ask')).toMatchObject([
      { incoming: [{ mid: 'T1', announced: { subject: 'cliffs', from: 'QH7CTA' } }] },
    ]);
    expect(asked().said()).toBe('');
    expect(asked().timers()).toContain('start decision');
    expect(
      asked()
        .on({ kind: 'decided', answers: { T1: 'yes' } })
        .said(),
    ).toBe('FS +|');
    expect(
      asked()
        .on({ kind: 'decided', answers: { T1: 'no' } })
        .said(),
    ).toBe('FS -|FF|');
    expect(asked().on({ kind: 'timer', timer: 'decision' }).said()).toBe('FS =|FF|');
    expect(asked().on({ kind: 'timer', timer: 'patience' }).state.phase).toBe('asking');
    expect(asked().on({ kind: 'stop' }).said()).toBe('FS =|FQ|');
    expect(logged({ askOver: theirs.packedOctets }).hears(block(theirs)).of('ask')).toEqual([]);
  });

  it.each([
    [
      'a wrong checksum',
      () => {
        const bad = blocks.slice();
        bad[bad.length - 1]! ^= 1;
        return bad;
      },
      'wrong checksum',
      1,
    ],
    [
      'a wrong CRC',
      () => {
        const bad = theirs.packed.slice();
        bad[0]! ^= 1;
        return encodeBlocks('T1', bad, 0, 6);
      },
      'wrong checksum',
      1,
    ],
    ['too few octets', () => encodeBlocks('T1', theirs.packed.subarray(0, -1), 0, 6), 'wrong content', 1],
    [
      'too many octets',
      () => encodeBlocks('T1', Uint8Array.of(...theirs.packed, 0), 0, 6),
      'wrong content',
      1,
    ],
    ['a line instead', () => fromLatin1('*** Link failure\r'), 'they broke off', 0],
    ['nonsense instead', () => fromLatin1('hello\r'), 'out of order', 0],
    ['data without a title', () => Uint8Array.of(2, 1, 65), 'out of order', 0],
    [
      'two titles',
      () => Uint8Array.of(...blocks.subarray(0, 7), ...blocks.subarray(0, 7)),
      'out of order',
      0,
    ],
  ])('%s', (_, octets, kind, forgotten) => {
    const end = logged().hears(block(theirs)).hears(octets());
    expect([end.state.ending?.kind, end.of('forget part').length, end.of('keep').length]).toEqual([
      kind,
      forgotten,
      0,
    ]);
  });

  it('a stream that cannot be is wrong content, its checksum being right', () => {
    // It claims more octets than the stream holds.
    const bad = pack(fromLatin1('hello'));
    bad[2] = 200;
    const view = new DataView(bad.buffer);
    view.setUint16(0, crc16(bad.subarray(2)), true);
    const odd = { ...theirs, packed: bad, packedOctets: bad.length, octets: 200 };
    const end = logged()
      .hears(block(odd))
      .hears(encodeBlocks('x', bad, 0, 6));
    expect(end.state.ending?.kind).toBe('wrong content');
  });

  it('another size or id than was offered is not taken', () => {
    for (const wrong of [outgoing('T1', '', { octets: 1 }), outgoing('T1', '', { mid: 'T2' })]) {
      const end = logged()
        .hears(block(wrong))
        .hears(encodeBlocks('x', wrong.packed, 0, 6));
      expect([end.state.ending?.kind, end.of('keep').length]).toEqual(['wrong content', 0]);
    }
    const odd = {
      ...theirs,
      packed: pack(fromLatin1('hello')),
      packedOctets: pack(fromLatin1('hello')).length,
      octets: 5,
    };
    expect(
      logged()
        .hears(block(odd))
        .hears(encodeBlocks('x', odd.packed, 0, 6)).state.ending?.kind,
    ).toBe('wrong content');
  });
});
