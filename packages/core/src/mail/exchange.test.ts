import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { encodeBlocks } from './block.js';
import { type ExchangeContext } from './exchange.js';
import { formatClosing, formatProposal } from './proposal.js';

import { End, outgoing } from './testing/end.js';

const GATE = '[Gate-1-B2FHM$]\r;PQ: 23753528\rQH5VEL-10 >\r';
const HELLO = ';FW: QH4MPK|[Mistpeak-1-B2FHM$]|;PR: 72768415|; QH5VEL-10 DE QH4MPK (IG40hj)|';

describe('as caller', () => {
  it('greets, logs in, and with nothing on either side it is short', () => {
    const end = new End().hears('Welcome to the hut\r\n').hears('[Gate-1-B2FHM$]\r;PQ: 23753528\rQH5VEL-10 ');
    expect(end.said()).toBe('');
    expect(end.hears('>\r').said()).toBe(`${HELLO}FF|`);
    expect(end.of('logged in')).toEqual([]);
    end.hears('FQ\r');
    expect([end.of('logged in').length, end.state.phase, end.state.ending]).toEqual([
      1,
      'over',
      { kind: 'done', phase: 'their turn' },
    ]);
    expect(end.timers().slice(-2)).toEqual(['stop patience', 'stop decision']);
    expect(end.of('hang up')).toHaveLength(1);
  });

  it('asks for the mail of further addresses, each with its own answer, and without a challenge with none', () => {
    const two = {
      addresses: ['QH4MPK', 'QH4MPK-1', 'HUT'],
      answerTo: (_: string, address: string) => (address === 'HUT' ? undefined : `a${address.length}`),
    };
    expect(new End(two).hears(GATE).said()).toMatch(';FW: QH4MPK QH4MPK-1|a8 HUT|');
    expect(new End(two).hears('[Gate-1-B2FHM$]\r>\r').said()).toMatch(
      /^;FW: QH4MPK QH4MPK-1 HUT\|\[M[^|]*\|; QH5VEL-10/,
    );
  });

  it('proposes five at most, sends what is wanted, and counts it as sent at their next turn', () => {
    const mine = ['A', 'B', 'C', 'D', 'E', 'F'].map((mid) => outgoing(mid));
    const end = new End({ outgoing: () => mine }).hears(GATE);
    const lines = mine.slice(0, 5).map(formatProposal);
    expect(end.said()).toBe(`${HELLO}${lines.join('|')}|${formatClosing(lines)}|`);
    end.hears('FS +-=HR\r');
    expect(end.said()).toBe(toLatin1(encodeBlocks('A', mine[0]!.packed, 0, 6)).replaceAll('\r', '|'));
    expect([end.of('sent'), end.of('put off'), end.of('refused')]).toMatchObject([
      [{ mid: 'B', how: 'had' }],
      [
        { mid: 'C', how: 'later' },
        { mid: 'D', how: 'held' },
      ],
      [{ mid: 'E', how: 'rejected' }],
    ]);
    end.hears('FF\r');
    expect(end.of('sent').map(({ mid, how }) => `${mid} ${how}`)).toEqual(['B had', 'A taken']);
    expect(end.said()).toMatch(/^FC EM F /);
    end.hears('FS +\r').said();
    end.hears('FF\r');
    expect([end.said(), end.state.ending?.kind]).toEqual(['FQ|', 'done']);
  });

  it('goes on from where they have it, with the head again', () => {
    const mine = outgoing('A', 'x y z '.repeat(99));
    const end = new End({ outgoing: () => [mine] }).hears(GATE);
    end.said();
    end.hears('FS !20\r');
    const data = [...mine.packed.subarray(0, 6), ...mine.packed.subarray(20)];
    const said = fromLatin1(end.said().replaceAll('|', '\r'));
    expect([...said.subarray(0, 7)]).toEqual([1, 5, 65, 0, 50, 48, 0]);
    expect([...said.subarray(9, 15)]).toEqual(data.slice(0, 6));
    const all = new End({ outgoing: () => [mine] }).hears(GATE);
    all.said();
    expect(all.hears('FS !5\r').said()).toBe(
      toLatin1(encodeBlocks('A', mine.packed, 0, 6)).replaceAll('\r', '|'),
    );
    const beyond = new End({ outgoing: () => [mine] }).hears(GATE).hears(`FS !${mine.packed.length + 1}\r`);
    expect(beyond.state.ending?.kind).toBe('out of order');
  });

  it('gives no answer it does not know, and says nothing more', () => {
    const end = new End({ answerTo: () => undefined }).hears(GATE);
    expect([end.said(), end.state.ending]).toEqual(['', { kind: 'password needed', phase: 'greeting' }]);
  });

  it.each([
    ['*** Mail service unavailable\r', 'service out of reach', 'greeting'],
    ['[Gate-1-BFHM$]\r', 'no common form', 'greeting'],
    [`${GATE}*** Secure login failed\r`, 'wrong password', 'their turn'],
    [`${GATE}FX\r`, 'out of order', 'their turn'],
    [`${GATE}FC EM A 1 2 0\rF> 00\r`, 'wrong checksum', 'their turn'],
    [`${GATE}F> 00\r`, 'out of order', 'their turn'],
    ['x'.repeat(65_600) + '\r', 'talks without end', 'greeting'],
    [`${GATE}${'hello\r'.repeat(11_000)}`, 'talks without end', 'their turn'],
    [`${GATE}${'FC EM A 1 2 0\r'.repeat(6)}`, 'out of order', 'their turn'],
  ])('ends by a name: %#', (text, kind, phase) => {
    const end = new End().hears(text);
    expect(end.state.ending).toMatchObject({ kind, phase });
    if (text.includes('***')) expect(end.state.ending?.said).toMatch(/^\*\*\* /);
  });

  it('a banner of 5 KB, comments and unknown lines are passed over and shown', () => {
    const end = new End().hears('news\r'.repeat(1000)).hears(GATE).hears('; patience\rhello?\r\rFQ\r');
    expect(end.state.ending?.kind).toBe('done');
    expect(
      end.of('line').filter(({ side, text }) => side === 'theirs' && text === '; patience'),
    ).toHaveLength(1);
  });

  it('on TCP answers the prompts that end in no line end; the word is shown as dots', () => {
    const end = new End({ serviceLogin: { call: 'QH4MPK', word: 'reed' } }).hears('Callsign :');
    expect(end.said()).toBe('QH4MPK|');
    expect(end.hears('\rPassword :').said()).toBe('reed|');
    expect(end.of('line').some(({ text }) => text.includes('reed'))).toBe(false);
    expect(end.hears('[Gate-1-B2FHM$]\rhut>').said()).toMatch(/^;FW: QH4MPK\|/);
    expect(new End().hears('Callsign :').said()).toBe('');
  });

  it('is given up after silence, in whatever state; each octet that moves is none', () => {
    for (const before of ['', GATE]) {
      const end = new End({ outgoing: () => (before === '' ? [] : [outgoing('A')]) }).hears(before);
      expect(end.on({ kind: 'timer', timer: 'patience' }).state.ending?.kind).toBe('silent');
    }
    const end = new End();
    end.effects = [];
    expect(end.on({ kind: 'moving' }).timers()).toEqual(['start patience']);
  });

  it.each([
    ['greeting', ''],
    ['awaiting answers', GATE],
    ['their turn', `${GATE}FS -\r`],
    ['receiving', `${GATE}FS -\rFC EM T 9 9 0\r${formatClosing(['FC EM T 9 9 0'])}\r`],
  ])('silence in “%s” is named, and nothing of ours counts as sent', (phase, heard) => {
    const end = new End({ outgoing: () => (heard === '' ? [] : [outgoing('A')]) }).hears(heard);
    expect(end.state.phase).toBe(phase);
    expect(end.on({ kind: 'timer', timer: 'patience' }).state.ending).toEqual({ kind: 'silent', phase });
    expect(end.of('sent').filter(({ how }) => how === 'taken')).toEqual([]);
  });

  it('a link that goes is told by how far it was', () => {
    expect(new End().on({ kind: 'lost' }).state.ending?.kind).toBe('lost before greeting');
    expect(new End().hears(GATE).on({ kind: 'lost' }).state.ending?.kind).toBe('broken');
    expect(new End().hears(GATE).hears('FQ\r').on({ kind: 'lost' }).state.ending?.kind).toBe('done');
  });

  it('stops at once before anything began, else at its next turn; twice at once', () => {
    expect(new End().on({ kind: 'stop' }).state.ending?.kind).toBe('stopped');
    const end = new End({ outgoing: () => [outgoing('A'), outgoing('B')] }).hears(GATE);
    end.on({ kind: 'stop' }).hears('FS +=\r').said();
    end.hears('FF\r');
    expect([end.said(), end.state.ending?.kind, end.of('sent').length]).toEqual(['FQ|', 'stopped', 1]);
    const twice = new End().hears(GATE).on({ kind: 'stop' });
    expect(twice.state.phase).toBe('their turn');
    expect(twice.on({ kind: 'stop' }).state.ending?.kind).toBe('stopped');
  });
});

describe('as called', () => {
  const called = (more: Partial<ExchangeContext> = {}): End =>
    new End({
      role: 'called',
      own: 'QH5VEL-10',
      peer: 'QH4MPK-0',
      challenge: '23753528',
      isRight: (answer) => answer === '72768415',
      announces: true,
      ...more,
    });
  const CALLER = ';FW: QH4MPK QH4MPK-1\r[Other-1-B2FHM$]\r;PR: 72768415\r';

  it('says who it is, lets the right one in, and hands out what waits, announced', () => {
    const asked: string[][] = [];
    const end = called({
      outgoing: (addresses) => (asked.push([...addresses]), [outgoing('A', 'hi', { subject: 'tärns' })]),
    });
    expect(end.said()).toBe('[Mistpeak-1-B2FHM$]|;PQ: 23753528|; QH4MPK-0 DE QH5VEL-10 (IG40hj)|QH5VEL-10>|');
    const packed = outgoing('A', 'hi').packedOctets;
    expect(end.hears(`${CALLER}; hello\rFF\r`).said()).toMatch(
      `;PM: QH7CTA A ${packed} QH4MPK t?rns|FC EM A `,
    );
    expect(asked[0]).toEqual(['QH4MPK', 'QH4MPK-1']);
    end.hears('FS +\r').hears('FF\r');
    expect(end.said()).toMatch(/FQ\|$/);
    expect(end.of('sent')).toHaveLength(1);
  });

  it('lets nobody in with a wrong answer, with none, or who does not say who he is', () => {
    expect(called().hears(CALLER.replace('7276', '0000') + 'FF\r').state.ending?.kind).toBe(
      'they gave a wrong password',
    );
    expect(called().hears(';FW: QH4MPK\r[Other-1-B2FHM$]\rFF\r').state.ending?.kind).toBe(
      'they gave a wrong password',
    );
    expect(called().hears(';PR: 72768415\rFF\r').state.ending?.kind).toBe('out of order');
  });

  it('without a challenge asks for none; who names no address gets the mail of his call', () => {
    const asked: string[][] = [];
    const { challenge: _, ...open } = called().context;
    const end = new End({
      ...open,
      challenge: undefined as never,
      outgoing: (addresses) => (asked.push([...addresses]), []),
    });
    expect(end.hears('[Other-1-B2FHM$]\rFF\r').said()).toMatch(/FQ\|$/);
    expect(asked).toEqual([['QH4MPK']]);
  });
});
