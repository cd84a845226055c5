import { decodeFrame, encodeFrame, RESPONSE_BITS, type Ax25Frame } from '../ax25/frame.js';
import { decodeXid, encodeXid, USUAL_ABILITIES } from '../ax25/xid.js';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { step } from './step.js';
import { frames, heardFrame, OPTIONS, send, Table, TERMS } from './testing/table.js';
import { usualTimers } from './timers.js';

// from: AX.25 v2.2, appendix "Data-link SDL diagrams", each state's page
describe('setting up', () => {
  it('SABM is answered by UA', () => {
    const end = new Table();
    expect(end.do({ kind: 'connect' })).toEqual(['SABM P', 'T1 on']);
    expect(end.hears({ kind: 'UA', pf: true }, false)).toEqual(['T1 off', 'T3 on', 'connected 8 by us']);
    expect(end.state.phase).toBe('connected');
  });

  it('an answer that comes sooner than it can be is one to an earlier question', () => {
    const end = new Table({ ...OPTIONS, earliestAnswerMs: 500 });
    end.atMs = 1000;
    end.do({ kind: 'connect' });
    end.atMs = 9000;
    end.rings('T1');
    end.atMs = 9400;
    expect(end.hears({ kind: 'UA', pf: true }, false)).toEqual([]);
    end.atMs = 9500;
    expect(frames(end.hears({ kind: 'UA', pf: true }, false))).toEqual(['connected 8 by us']);
  });

  it('an answer to the only question may come as fast as it likes', () => {
    const end = new Table({ ...OPTIONS, earliestAnswerMs: 500 });
    end.do({ kind: 'connect' });
    expect(frames(end.hears({ kind: 'UA', pf: true }, false))).toEqual(['connected 8 by us']);
    // To a setting up anew it may be a copy of that one.
    end.hears({ kind: 'FRMR', pf: false }, false);
    expect(end.hears({ kind: 'UA', pf: true }, false)).toEqual([]);
    expect(end.state.phase).toBe('awaiting connection');
  });

  it('a UA without F is no answer', () => {
    const end = new Table();
    end.do({ kind: 'connect' });
    expect(end.hears({ kind: 'UA', pf: false }, false)).toEqual([]);
    expect(end.state.phase).toBe('awaiting connection');
  });

  it('asks again N2 times', () => {
    const end = new Table();
    end.do({ kind: 'connect' });
    for (let i = 0; i < OPTIONS.retries; i++) expect(end.rings('T1')).toEqual(['SABM P', 'T1 on']);
    expect(end.rings('T1')).toEqual(['disconnected no answer, lost 0']);
  });

  it('is refused by DM', () => {
    const end = new Table();
    end.do({ kind: 'connect' });
    expect(frames(end.hears({ kind: 'DM', pf: true }, false))).toEqual(['disconnected refused, lost 0']);
  });

  it('a call is taken, or refused', () => {
    expect(frames(new Table().hears({ kind: 'SABM', pf: true }))).toEqual(['UA F', 'connected 8 by them']);
    expect(new Table({ ...OPTIONS, accepts: false }).hears({ kind: 'SABM', pf: true })).toEqual(['DM F']);
  });

  it.each([
    ['DM', false],
    ['FRMR', false],
  ] as const)('%s to SABME: again with SABM, and numbers to 7', (kind, isCommand) => {
    const end = new Table({ ...OPTIONS, extended: true });
    expect(frames(end.do({ kind: 'connect' }))).toEqual(['SABME P']);
    expect(frames(end.hears({ kind, pf: true }, isCommand))).toEqual(['SABM P']);
    // from here on a copy of the refusal is passed over until T1
    expect(frames(end.hears({ kind: 'DM', pf: true }, false))).toEqual([]);
    end.hears({ kind: 'UA', pf: true }, false);
    expect([end.state.phase, end.state.modulo]).toEqual(['connected', 8]);
  });

  it('SABME that nobody answers ends in SABM', () => {
    const end = new Table({ ...OPTIONS, extended: true, retries: 10 });
    end.do({ kind: 'connect' });
    const asked = [1, 2, 3, 4].map(() => frames(end.rings('T1'))[0]);
    expect(asked).toEqual(['SABME P', 'SABME P', 'SABM P', 'SABM P']);
  });

  it('SABME is granted with numbers to 127 and single frames asked again', () => {
    const end = new Table({ ...OPTIONS, extended: true });
    expect(frames(end.hears({ kind: 'SABME', pf: true }))).toEqual(['UA F', 'connected 128 by them']);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 1, nr: 0 }, true, 'b'))).toEqual(['SREJ 0']);
    expect(new Table().hears({ kind: 'SABME', pf: true })).toEqual(['DM F']);
  });

  it('SABME while we ask with SABM is refused, while we ask with SABME granted', () => {
    const end = new Table();
    end.do({ kind: 'connect' });
    expect(frames(end.hears({ kind: 'SABME', pf: true }))).toEqual(['DM F']);
    const extended = new Table({ ...OPTIONS, extended: true });
    extended.do({ kind: 'connect' });
    expect(frames(extended.hears({ kind: 'SABME', pf: true }))).toEqual(['UA F']);
    extended.hears({ kind: 'DM', pf: true }, false);
    expect(frames(extended.hears({ kind: 'SABME', pf: true }))).toEqual(['DM F']);
  });

  it('UI with P is answered by DM where there is no link, by RR where there is one; without P, or as an answer, not', () => {
    const ui = { kind: 'UI', pf: true } as const;
    const [none, asking, leaving, linked] = [
      new Table(),
      new Table(),
      new Table().connected(),
      new Table().connected(),
    ];
    asking.do({ kind: 'connect' });
    leaving.do({ kind: 'disconnect' });
    for (const end of [none, asking, leaving]) expect(frames(end.hears(ui))).toEqual(['DM F']);
    expect(frames(linked.hears(ui))).toEqual(['RR 0 F']);
    for (const end of [none, asking, leaving, linked]) {
      expect(frames(end.hears({ kind: 'UI', pf: false }))).toEqual([]);
      expect(frames(end.hears(ui, false))).toEqual([]);
    }
  });

  it('both call at once: each answers the other', () => {
    const end = new Table();
    end.do({ kind: 'connect' });
    expect(frames(end.hears({ kind: 'SABM', pf: true }))).toEqual(['UA F']);
    expect(frames(end.hears({ kind: 'UA', pf: true }, false))).toEqual(['connected 8 by us']);
  });

  it('commands without a link are answered by DM, answers and strangers by nothing', () => {
    const end = new Table();
    expect(end.hears({ kind: 'I', pf: true, ns: 0, nr: 0 }, true, 'x')).toEqual(['DM F']);
    expect(end.hears({ kind: 'DISC', pf: true })).toEqual(['DM F']);
    expect(end.hears({ kind: 'RR', pf: true, nr: 0 }, false)).toEqual([]);
    const stranger = new Table({ ...OPTIONS, peer: 'QH2NOD-4' });
    stranger.do({ kind: 'connect' });
    const octets = encodeFrame({
      destination: 'QH4MPK',
      source: 'QH2HUT-1',
      path: [],
      cBits: RESPONSE_BITS,
      control: { kind: 'UA', pf: true },
      info: new Uint8Array(),
    });
    expect(stranger.do({ kind: 'heard', octets })).toEqual([]);
  });

  it('a frame that has a digipeater still before it is not for us', () => {
    const end = new Table({ ...OPTIONS, via: ['QH1ANR'] });
    end.do({ kind: 'connect' });
    const frame = (used: boolean): Uint8Array =>
      encodeFrame({
        destination: 'QH4MPK',
        source: 'QH2HUT-1',
        path: [{ call: 'QH1ANR', used }],
        cBits: RESPONSE_BITS,
        control: { kind: 'UA', pf: true },
        info: new Uint8Array(),
      });
    expect(end.do({ kind: 'heard', octets: frame(false) })).toEqual([]);
    expect(frames(end.do({ kind: 'heard', octets: frame(true) }))).toEqual(['connected 8 by us']);
  });
});

describe('information', () => {
  it('is cut at PACLEN and kept within the window', () => {
    const end = new Table({ ...OPTIONS, window8: 2 }).connected();
    expect(frames(end.do(send('one two three four')))).toEqual(['I 0 0:one two ', 'I 1 0:three fo']);
    expect(frames(end.hears({ kind: 'RR', pf: false, nr: 2 }, false))).toEqual(['confirmed 16', 'I 2 0:ur']);
  });

  it('is delivered in order and acknowledged after T2, or with what is sent', () => {
    const end = new Table().connected();
    expect(end.hears({ kind: 'I', pf: false, ns: 0, nr: 0 }, true, 'a')).toEqual([
      'T3 on',
      'data a',
      'T2 on',
    ]);
    // T2 begins anew: one answer for both, behind the last of them.
    expect(end.hears({ kind: 'I', pf: false, ns: 1, nr: 0 }, true, 'b')).toEqual([
      'T3 on',
      'data b',
      'T2 on',
    ]);
    expect(end.rings('T2')).toEqual(['RR 2']);
    end.hears({ kind: 'I', pf: false, ns: 2, nr: 0 }, true, 'c');
    expect(end.do(send('me'))).toContain('I 0 3:me');
    expect(end.state).toMatchObject({ running: new Set(['T1']) });
  });

  it('over a digipeater T2 goes on from the first frame', () => {
    const end = new Table({ ...OPTIONS, via: ['QH1ANR'] }).connected();
    end.hears({ kind: 'I', pf: false, ns: 0, nr: 0 }, true, 'a');
    expect(end.hears({ kind: 'I', pf: false, ns: 1, nr: 0 }, true, 'b')).toEqual(['T3 on', 'data b']);
  });

  it('a poll is answered at once', () => {
    const end = new Table().connected();
    expect(frames(end.hears({ kind: 'I', pf: true, ns: 0, nr: 0 }, true, 'a'))).toEqual(['data a', 'RR 1 F']);
    expect(frames(end.hears({ kind: 'RR', pf: true, nr: 0 }))).toEqual(['RR 1 F']);
  });

  it('a gap is answered by one REJ, and REJ by all from there on', () => {
    const end = new Table().connected();
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 1, nr: 0 }, true, 'b'))).toEqual(['REJ 0']);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 2, nr: 0 }, true, 'c'))).toEqual([]);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 0, nr: 0 }, true, 'a'))).toEqual(['data a']);
    end.do(send('xxxxxxxxyyyyyyyyzz'));
    expect(frames(end.hears({ kind: 'REJ', pf: false, nr: 1 }, false))).toEqual([
      'confirmed 8',
      'I 1 1:yyyyyyyy',
      'I 2 1:zz',
    ]);
  });

  it('a frame beyond what a usual window holds is answered by REJ too, at once', () => {
    const end = new Table().connected();
    expect(end.hears({ kind: 'I', pf: false, ns: 5, nr: 0 }, true, 'f')).toEqual(['T3 on', 'REJ 0']);
    // One REJ, until what it asks for has come; then the next gap is told.
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 6, nr: 0 }, true, 'g'))).toEqual([]);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 0, nr: 0 }, true, 'a'))).toEqual(['data a']);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 2, nr: 0 }, true, 'c'))).toEqual(['REJ 1']);
  });

  it('out of sequence with P: REJ with F, and RR with F while that stands', () => {
    const end = new Table().connected();
    expect(frames(end.hears({ kind: 'I', pf: true, ns: 2, nr: 0 }, true, 'c'))).toEqual(['REJ 0 F']);
    expect(frames(end.hears({ kind: 'I', pf: true, ns: 3, nr: 0 }, true, 'd'))).toEqual(['RR 0 F']);
  });

  it('an enquiry is answered with the first that is missing, and the others are asked for anew', () => {
    const end = new Table({ ...OPTIONS, selective: true }).connected();
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 2, nr: 0 }, true, 'c'))).toEqual([
      'SREJ 0',
      'SREJ 1',
    ]);
    expect(frames(end.hears({ kind: 'RR', pf: true, nr: 0 }, true))).toEqual(['SREJ 0 F']);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 3, nr: 0 }, true, 'd'))).toEqual(['SREJ 1']);
  });

  it('single frames are asked for and sent again', () => {
    const end = new Table({ ...OPTIONS, selective: true }).connected();
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 2, nr: 0 }, true, 'c'))).toEqual([
      'SREJ 0',
      'SREJ 1',
    ]);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 1, nr: 0 }, true, 'b'))).toEqual([]);
    expect(frames(end.hears({ kind: 'I', pf: false, ns: 0, nr: 0 }, true, 'a'))).toEqual([
      'data a',
      'data b',
      'data c',
    ]);
    end.do(send('xxxxxxxxyyyyyyyyzz'));
    expect(frames(end.hears({ kind: 'SREJ', pf: false, nr: 1 }, false))).toEqual(['I 1 3:yyyyyyyy']);
    expect(frames(end.hears({ kind: 'SREJ', pf: true, nr: 2 }, false))).toEqual(['confirmed 16', 'I 2 3:zz']);
  });

  it('a busy end takes nothing and says so; the other waits and asks', () => {
    const end = new Table().connected();
    expect(frames(end.do({ kind: 'busy', on: true }))).toEqual(['RNR 0']);
    expect(frames(end.hears({ kind: 'I', pf: true, ns: 0, nr: 0 }, true, 'a'))).toEqual(['RNR 0 F']);
    expect(frames(end.do({ kind: 'busy', on: false }))).toEqual(['RR 0']);
    end.hears({ kind: 'RNR', pf: false, nr: 0 }, false);
    expect(frames(end.do(send('hi')))).toEqual([]);
    expect(frames(end.rings('T1'))).toEqual(['RR 0 P']);
    expect(frames(end.hears({ kind: 'RR', pf: true, nr: 0 }, false))).toEqual(['I 0 0:hi']);
  });
});

describe('timeouts', () => {
  it('T1: asks, and goes on from what the other end has', () => {
    const end = new Table().connected();
    end.do(send('aaaaaaaabb'));
    expect(frames(end.rings('T1'))).toEqual(['RR 0 P']);
    expect(end.state.phase).toBe('timer recovery');
    // half of the window after a timeout, one more with the acknowledgement
    expect(frames(end.hears({ kind: 'RR', pf: true, nr: 1 }, false))).toEqual(['confirmed 8', 'I 1 0:bb']);
    expect(end.state.phase).toBe('connected');
  });

  it('N2 times without progress end the link, and say how much was not confirmed', () => {
    const end = new Table().connected();
    end.do(send('hello'));
    for (let i = 0; i < OPTIONS.retries; i++) expect(frames(end.rings('T1'))).toEqual(['RR 0 P']);
    expect(frames(end.rings('T1'))).toEqual(['DM', 'disconnected no answer, lost 5']);
  });

  it('T1 follows the smoothed round trip and backs off', () => {
    const end = new Table().connected();
    const first = end.state.t1Ms;
    for (let nr = 1; nr <= 4; nr++) {
      end.do(send('x'));
      end.atMs += 400;
      end.hears({ kind: 'RR', pf: false, nr }, false);
    }
    expect(end.state.roundTripMs).toBeLessThan(first / 2);
    const settled = end.state.t1Ms;
    end.do(send('x'));
    end.rings('T1');
    expect(Math.abs(end.state.t1Ms - settled * 1.5)).toBeLessThanOrEqual(1);
  });

  it('T3: asks a silent end', () => {
    const end = new Table().connected();
    expect(frames(end.rings('T3'))).toEqual(['RR 0 P']);
    expect(end.hears({ kind: 'RR', pf: true, nr: 0 }, false)).toEqual(['T1 off', 'T3 on']);
  });
});

describe('ends and resets', () => {
  it('DISC is answered by UA, on both sides', () => {
    const end = new Table().connected();
    expect(frames(end.hears({ kind: 'DISC', pf: true }))).toEqual([
      'UA F',
      'disconnected by the other end, lost 0',
    ]);
    const other = new Table().connected();
    expect(frames(other.do({ kind: 'disconnect' }))).toEqual(['DISC P']);
    expect(frames(other.hears({ kind: 'I', pf: true, ns: 0, nr: 0 }, true, 'x'))).toEqual(['DM F']);
    expect(frames(other.hears({ kind: 'UA', pf: true }, false))).toEqual(['disconnected asked for, lost 0']);
  });

  it('DISC that nobody answers ends after it was asked again N2 times', () => {
    const end = new Table().connected();
    end.do({ kind: 'disconnect' });
    for (let i = 0; i < OPTIONS.retries; i++) expect(frames(end.rings('T1'))).toEqual(['DISC P']);
    expect(frames(end.rings('T1'))).toEqual(['disconnected no answer, lost 0']);
  });

  it('SABM in a standing link is a reset and is told; before anything has passed it is not', () => {
    const end = new Table();
    end.hears({ kind: 'SABM', pf: true });
    end.do(send('welcome'));
    expect(frames(end.hears({ kind: 'SABM', pf: true }))).toEqual(['UA F', 'I 0 0:welcome']);
    end.hears({ kind: 'RR', pf: false, nr: 1 }, false);
    end.do(send('more'));
    expect(frames(end.hears({ kind: 'SABM', pf: true }))).toEqual(['UA F', 'reset, lost 4']);
  });

  it('UA without a question, FRMR, and an impossible answer reset the link', () => {
    const settled = (): Table => {
      const end = new Table().connected();
      end.hears({ kind: 'I', pf: false, ns: 0, nr: 0 }, true, 'a');
      return end;
    };
    expect(frames(settled().hears({ kind: 'UA', pf: true }, false))).toEqual([
      'C: UA without a question',
      'reset, lost 0',
      'SABM P',
    ]);
    expect(frames(settled().hears({ kind: 'FRMR', pf: false }, false))).toEqual([
      'K: frame rejected by the other end',
      'reset, lost 0',
      'SABM P',
    ]);
    const end = settled();
    end.do(send('me'));
    end.rings('T1');
    expect(frames(end.hears({ kind: 'RR', pf: true, nr: 5 }, false))).toEqual([
      'J: N(R) out of sequence',
      'reset, lost 2',
      'SABM P',
    ]);
  });

  it('an acknowledgement from the past is passed over and counted', () => {
    const end = new Table().connected();
    end.do(send('x'));
    end.hears({ kind: 'RR', pf: false, nr: 1 }, false);
    end.do(send('y'));
    expect(frames(end.hears({ kind: 'RR', pf: false, nr: 0 }, false))).toEqual([]);
    expect([end.state.stale, end.state.phase]).toEqual([1, 'connected']);
  });

  it('TEST comes back with what it carried; XID is answered with what both can do', () => {
    const end = new Table().connected();
    const [effects] = [
      step(end.state, heardFrame({ kind: 'TEST', pf: true }, fromLatin1('echo')), {
        atMs: 0,
        options: OPTIONS,
      })[1],
    ];
    const test = effects[0] as { octets: Uint8Array };
    expect(toLatin1((decodeFrame(test.octets) as Ax25Frame).info)).toBe('echo');
    const theirs = encodeXid({ ...USUAL_ABILITIES, receiveWindow: 2 });
    const answer = step(end.state, heardFrame({ kind: 'XID', pf: true }, theirs), {
      atMs: 0,
      options: OPTIONS,
    })[1][0] as {
      octets: Uint8Array;
    };
    expect(decodeXid((decodeFrame(answer.octets) as Ax25Frame).info)).toMatchObject({
      receiveWindow: 2,
      modulo: 8,
    });
  });
});

describe('usual timers', () => {
  // common practice, no source: 3 s, scaled by 2n + 1 for n digipeaters, is the floor
  it.each([0, 1, 2])('grow with %i digipeaters', (digipeaters) => {
    const { firstT1Ms, leastT1Ms, earliestAnswerMs, t2Ms, t3Ms } = usualTimers({ ...TERMS, digipeaters });
    expect(firstT1Ms).toBeGreaterThanOrEqual(3000 * (2 * digipeaters + 1));
    expect(leastT1Ms).toBeGreaterThan(t2Ms);
    // arithmetic: at 1200 Bd a frame of two addresses and a control octet is 19 octets with flags, 127 ms and stuffing
    expect(earliestAnswerMs).toBeGreaterThan(300 + 2 * 126 * (digipeaters + 1));
    expect(earliestAnswerMs).toBeLessThan(leastT1Ms);
    expect(t3Ms).toBeGreaterThan(firstT1Ms);
  });
});
