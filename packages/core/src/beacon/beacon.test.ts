import { encodeFrame, type Ax25Frame } from '../ax25/frame.js';
import { formatMonitorText, parseMonitorText } from '../ax25/monitor-text.js';
import { toHex } from '../bits/octets.js';
import { beaconFrame, parseComment, type FixedBeacon } from './beacon.js';
import { awaitEcho, ECHO_WINDOW_MS, hearEcho, type Awaited } from './echo.js';

const BEACON: FixedBeacon = {
  source: 'qh4mpk-7',
  position: { latitudeDeg: -29.632, longitudeDeg: -11.405 },
  symbol: { table: '/', code: '-' },
  comment: 'base hut',
  path: 'WIDE1-1,WIDE2-1',
  compressed: false,
};

describe('a fixed beacon', () => {
  it('is this frame, as text and in octets', () => {
    const frame = beaconFrame(BEACON) as Ax25Frame;
    expect(formatMonitorText(frame)).toBe('QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:!2937.92S/01124.30W-base hut');
    // arithmetic, octet by octet: to APZMPK (command), from QH4MPK-7, two digipeaters, UI, F0
    expect(toHex(encodeFrame(frame)).slice(0, 60)).toBe(
      '82a0b49aa096e0a290689aa0966eae92888a624062ae92888a64406303f0',
    );
  });

  it.each([
    [{ source: 'QH4MPK-77' }, /SSID/],
    [{ path: 'RELAY' }, /obsolete/],
    [{ comment: 'x'.repeat(44) }, /at most 43/],
    [{ comment: 'x'.repeat(41), compressed: true }, /at most 40/],
    [{ comment: 'größer' }, /cannot be sent/],
    [{ comment: 'a|b' }, /cannot be sent/],
  ])('is refused: %j', (wrong, words) => {
    expect(beaconFrame({ ...BEACON, ...wrong })).toMatchObject({ malformed: expect.stringMatching(words) });
  });

  it('has room for 43 characters', () => expect(parseComment('x'.repeat(43))).toHaveLength(43));
});

describe('an echo', () => {
  const sent = beaconFrame(BEACON) as Ax25Frame;
  const copy = (path: string): Ax25Frame => ({
    ...sent,
    path: (parseMonitorText(`A>B,${path}:x`) as Ax25Frame).path,
  });
  const waiting = awaitEcho([], { id: 'one', frame: sent, sentAtMs: 1000 });
  const hear = (state: readonly Awaited[], frame: Ax25Frame, atMs: number) => hearEcho(state, frame, atMs);

  it('tells by whom and after how long', () => {
    expect(hear(waiting, copy('QH1ANR,WIDE1*,WIDE2-1'), 3400)[1]).toEqual({
      id: 'one',
      by: 'QH1ANR',
      afterMs: 2400,
    });
  });

  it('names the last repeater of several', () => {
    expect(hear(waiting, copy('QH2FIL-1,QH1TOP,WIDE2*'), 3400)[1]).toMatchObject({ by: 'QH1TOP' });
  });

  it('counts each digipeater once, and a second one too', () => {
    const [state] = hear(waiting, copy('QH1ANR*,WIDE2-1'), 2000);
    expect(hear(state, copy('QH1ANR*,WIDE2-1'), 2500)[1]).toBeUndefined();
    expect(hear(state, copy('QH1TOP*,WIDE2-1'), 2500)[1]).toMatchObject({ by: 'QH1TOP' });
  });

  it('unrepeated is a second receiver', () =>
    expect(hear(waiting, sent, 1500)[1]).toMatchObject({ by: null }));

  it('is not another frame, nor one that comes too late', () => {
    expect(hear(waiting, { ...sent, source: 'QH7CTC-9' }, 2000)[1]).toBeUndefined();
    expect(hear(waiting, copy('QH1ANR*'), 1000 + ECHO_WINDOW_MS)[1]).toBeUndefined();
  });

  it('is forgotten in time', () => {
    expect(awaitEcho(waiting, { id: 'two', frame: sent, sentAtMs: 1000 + ECHO_WINDOW_MS })).toHaveLength(1);
  });
});
