import { decodeFrame, encodeFrame, RESPONSE_BITS, type Ax25Frame } from '../ax25/frame.js';
import { segment, SEGMENT_PID } from '../ax25/segmentation.js';
import { encodeXid, USUAL_ABILITIES, type LinkAbilities } from '../ax25/xid.js';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import {
  disconnectedSession,
  type SessionEffect,
  type SessionEvent,
  type SessionState,
  type Standing,
} from './session.js';
import { step } from './step.js';
import { frames, OPTIONS, send, Table } from './testing/table.js';

const V22 = { ...OPTIONS, extended: true, negotiates: true };
const ABLE: LinkAbilities = { ...USUAL_ABILITIES, modulo: 128, recovery: 'both', segments: true };

/** The other end answers our XID with this. */
class Negotiated {
  state: SessionState = disconnectedSession(V22);
  readonly effects: SessionEffect[] = [];

  constructor(theirs: LinkAbilities | 'octets of another kind') {
    this.do({ kind: 'connect' });
    this.hears({ kind: 'UA', pf: true });
    this.hears({ kind: 'XID', pf: true }, typeof theirs === 'string' ? fromLatin1('?') : encodeXid(theirs));
  }

  do(event: SessionEvent): readonly SessionEffect[] {
    const [state, effects] = step(this.state, event, { atMs: 0, options: V22 });
    this.state = state;
    this.effects.push(...effects);
    return effects;
  }

  hears(
    control: Ax25Frame['control'],
    info: Uint8Array = new Uint8Array(),
    pid?: number,
  ): readonly SessionEffect[] {
    const frame = {
      destination: V22.own,
      source: V22.peer,
      path: [],
      cBits: RESPONSE_BITS,
      control,
      info,
      ...(pid === undefined ? {} : { pid }),
    };
    return this.do({ kind: 'heard', octets: encodeFrame(frame, 128) });
  }

  /** Information frames of one send: their PID and text. */
  sends(text: string): string[] {
    return this.do(send(text)).flatMap((effect) => {
      if (effect.kind !== 'transmit') return [];
      const { pid, info } = decodeFrame(effect.octets, 128) as Ax25Frame;
      return [`${pid?.toString(16)}:${toLatin1(info)}`];
    });
  }
}

// from: AX.25 v2.2, "Parameter negotiation"
describe('XID on a link that stands', () => {
  it('is asked once a link with numbers to 127 stands that we called, three times at most', () => {
    const end = new Table(V22);
    end.do({ kind: 'connect' });
    expect(frames(end.hears({ kind: 'UA', pf: true }, false))).toEqual([
      'connected 128 by us',
      'XID P',
      'XID on',
    ]);
    expect(end.rings('XID')).toEqual(['XID P', 'XID on']);
    expect(end.rings('XID')).toEqual(['XID P', 'XID on']);
    expect(end.rings('XID')).toEqual([]);
  });

  it.each([
    ['with numbers to 7', { ...V22, extended: false }],
    ['where it is not wanted', { ...V22, negotiates: false }],
  ])('is not asked %s', (_, options) => {
    const end = new Table(options);
    end.do({ kind: 'connect' });
    expect(frames(end.hears({ kind: 'UA', pf: true }, false))).not.toContain('XID P');
  });

  it('makes frames as short and the window as small as the other end takes them, also of what waits', () => {
    const end = new Negotiated({ ...ABLE, receiveOctets: 3, receiveWindow: 2, segments: false });
    expect(end.sends('abcdefgh')).toEqual(['f0:abc', 'f0:def']);
    const early = new Table(V22);
    early.do({ kind: 'connect' });
    early.hears({ kind: 'UA', pf: true }, false);
    for (let i = 0; i < 33; i++) early.do(send(`${i % 10}bcdefgh`));
    early.do({
      kind: 'heard',
      octets: encodeFrame(
        {
          destination: V22.own,
          source: V22.peer,
          path: [],
          cBits: RESPONSE_BITS,
          control: { kind: 'XID', pf: true },
          info: encodeXid({ ...ABLE, receiveOctets: 4, receiveWindow: 64, segments: false }),
        },
        128,
      ),
    });
    const { pending } = early.state as Standing;
    expect(pending.map(({ octets }) => octets.length)).toEqual([4, 4]);
  });

  it('never makes them longer than we like', () => {
    expect(new Negotiated({ ...ABLE, receiveOctets: 2000, segments: false }).sends('abcdefghij')).toEqual([
      'f0:abcdefgh',
      'f0:ij',
    ]);
  });

  // from: AX.25 v2.2, "Segmenter state machine": F bit and how many follow, then the PID in the first
  it('sends what is longer than a frame in segments where they are put together again, and counts what they carry', () => {
    const end = new Negotiated(ABLE);
    expect(end.sends('abcdefghij')).toEqual(['8:\x81ðabcdef', '8:\x00ghij']);
    expect(end.hears({ kind: 'RR', pf: false, nr: 1 })).toContainEqual({ kind: 'confirmed', octets: 6 });
    expect(end.hears({ kind: 'RR', pf: false, nr: 2 })).toContainEqual({ kind: 'confirmed', octets: 4 });
    expect(end.sends('short')).toEqual(['f0:short']);
  });

  it('cuts what takes more than 128 segments into several wholes, of which nothing is lost', () => {
    const end = new Negotiated({ ...ABLE, receiveOctets: 4, receiveWindow: 64 });
    const text = 'x'.repeat(900);
    end.do(send(text));
    const { window, pending } = end.state as Standing;
    expect([...window, ...pending].reduce((sum, { carries = 0 }) => sum + carries, 0)).toBe(900);
    expect([...window, ...pending].filter(({ carries }) => carries === 2)).not.toHaveLength(0);
  });

  it('an answer that nobody asked for, and one of another format, change nothing', () => {
    const end = new Negotiated('octets of another kind');
    expect(end.effects).toContainEqual({ kind: 'trouble', what: 'unreadable frame' });
    expect(end.sends('abcdefghij')).toEqual(['f0:abcdefgh', 'f0:ij']);
    const late = new Negotiated(ABLE);
    late.hears({ kind: 'XID', pf: true }, encodeXid({ ...ABLE, receiveOctets: 3 }));
    expect(late.sends('abcdefgh')).toEqual(['f0:abcdefgh']);
  });
});

describe('segments of theirs', () => {
  const I = (ns: number) => ({ kind: 'I', pf: false, ns, nr: 0 }) as const;

  it('are given as one whole with the last of them', () => {
    const end = new Negotiated(ABLE);
    const [first, second] = segment(0xf0, fromLatin1('hello'), 4) as [Uint8Array, Uint8Array];
    expect(end.hears(I(0), first, SEGMENT_PID).map(({ kind }) => kind)).not.toContain('data');
    expect(end.hears(I(1), second, SEGMENT_PID)).toContainEqual({
      kind: 'data',
      octets: fromLatin1('hello'),
      pid: 0xf0,
    });
  });

  it('out of turn are told', () => {
    const end = new Negotiated(ABLE);
    const [, second] = segment(0xf0, fromLatin1('hello'), 4) as [Uint8Array, Uint8Array];
    expect(end.hears(I(0), second, SEGMENT_PID)).toContainEqual({
      kind: 'trouble',
      what: 'a segment is missing',
    });
  });
});

describe('what has not left yet', () => {
  it('cannot be late: T1 goes on without a try', () => {
    const end = new Table();
    end.do({ kind: 'connect' });
    const [state, effects] = step(
      end.state,
      { kind: 'timer', timer: 'T1' },
      { atMs: 9000, options: OPTIONS, unsent: true },
    );
    expect(effects).toEqual([{ kind: 'start', timer: 'T1', ms: end.state.t1Ms }]);
    expect(state).toMatchObject({ rc: 0, timeouts: 0 });
    const [, other] = step(
      end.state,
      { kind: 'timer', timer: 'T1' },
      { atMs: 9000, options: OPTIONS, unsent: false },
    );
    expect(other.map(({ kind }) => kind)).toContain('transmit');
  });
});

describe('letting go of what this end knows nothing of', () => {
  it('sends DISC until it is answered', () => {
    const end = new Table();
    expect(end.do({ kind: 'let go' })).toEqual(['DISC P', 'T1 on']);
    expect(end.rings('T1')).toEqual(['DISC P', 'T1 on']);
    expect(end.hears({ kind: 'DM', pf: true }, false)).toEqual(['T1 off', 'disconnected asked for, lost 0']);
    const standing = new Table().connected();
    expect(standing.do({ kind: 'let go' })).toEqual([]);
  });
});

describe('for the operator', () => {
  it('requests for frames are counted, both ways', () => {
    const end = new Table().connected();
    end.do(send('a'));
    end.hears({ kind: 'REJ', pf: false, nr: 0 }, false);
    end.hears({ kind: 'I', pf: false, ns: 3, nr: 0 }, true, 'x');
    expect(end.state).toMatchObject({ rejected: 1, rejects: 1 });
    const selective = new Table({ ...OPTIONS, selective: true }).connected();
    selective.hears({ kind: 'I', pf: false, ns: 2, nr: 0 }, true, 'x');
    expect(selective.state).toMatchObject({ rejected: 0, rejects: 2 });
  });
});
