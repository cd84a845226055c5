import { encodeFrame, type Ax25Frame } from '../ax25/frame.js';
import { parseMonitorText } from '../ax25/monitor-text.js';
import { isMalformed } from '../bits/malformed.js';
import { fromHex } from '../bits/octets.js';
import { hear, stationName, type Heard, type Station } from './station.js';
import { viewFrame, viewLine } from './view.js';

function heard(line: string, heardAtMs: number): Heard {
  const view = viewFrame(encodeFrame(parseMonitorText(line) as Ax25Frame));
  if (isMalformed(view)) throw new Error(view.malformed);
  return { ...view, heardAtMs, frameId: `frame at ${heardAtMs}` };
}

const fold = (lines: readonly (readonly [string, number])[]): Station | undefined =>
  lines.reduce<Station | undefined>((known, [line, atMs]) => hear(known, heard(line, atMs)), undefined);

describe('what is known of a station', () => {
  it('grows with each frame and keeps what a later one leaves out', () => {
    const station = fold([
      ['QH7CTC-9>APZMPK,QH1ANR*:!2935.00S/01120.00W>088/036supplies', 1000],
      ['QH7CTC-9>APZMPK:>back at noon', 2000],
    ]);
    expect(station).toMatchObject({
      name: 'QH7CTC-9',
      kind: 'station',
      count: 2,
      heardAtMs: 2000,
      positionAtMs: 1000,
      hops: 0,
      repeaters: [],
      courseDeg: 88,
      comment: 'back at noon',
      position: { latitudeDeg: expect.closeTo(-29.58333, 4) as number },
    });
  });

  it('is not set back by an older frame', () => {
    const station = fold([
      ['QH7CTC-9>APZMPK:!2935.00S/01120.00W>new', 2000],
      ['QH7CTC-9>APZMPK:!2000.00S/01000.00W>old', 1000],
    ]);
    expect(station).toMatchObject({ comment: 'new', heardAtMs: 2000, count: 2 });
  });

  it('is kept under the name of an object, with its sender', () => {
    const object = heard('QH1ANR>APZMPK:;145.675  *092345z2933.63S/01115.72WrT094', 5);
    expect(stationName(object)).toBe('145.675');
    expect(hear(undefined, object)).toMatchObject({ kind: 'object', sender: 'QH1ANR' });
  });
});

describe('a packet that a gateway passed on', () => {
  const passed = 'QH3PRT-10>APZMPK,QH1ANR*:}QH5OST>APRS,TCPIP,QH3PRT-10*:!2935.00S/01120.00W>hut';

  it('is kept under the call inside, as not heard itself, until it is', () => {
    const once = fold([[passed, 1]]);
    expect(once).toMatchObject({
      name: 'QH5OST',
      sender: 'QH3PRT-10',
      passedOn: true,
      comment: 'hut',
      hops: 1,
    });
    const then = hear(once, heard('QH5OST>APZMPK:>here I am', 2));
    expect(then).toMatchObject({ name: 'QH5OST', sender: 'QH5OST', passedOn: false, count: 2 });
  });
});

describe('words', () => {
  it('are readable, and control characters are shown, not kept: no column and no page takes harm', () => {
    expect(fold([['QH5OST>APZMPK:>gr\xc3\xbc\xc3\x9fe\0', 1]])?.comment).toBe('grüße·');
    expect(fold([['QH5OST>APZMPK:;a\0b      *092345z2933.63S/01115.72Wr', 1]])?.name).toBe('a·b');
  });
});

describe('a frame as it is seen', () => {
  it('has a report only when it is of the form of APRS', () => {
    const connected = '82a0b49aa096e09c60868298986f3f';
    expect(viewFrame(fromHex(connected) as Uint8Array)).not.toHaveProperty('report');
  });

  it('that is no AX.25 is a reason', () =>
    expect(viewFrame(new Uint8Array(5))).toMatchObject({ malformed: expect.any(String) }));
});

describe('a copy of the internet side', () => {
  const byWire = (line: string, heardAtMs: number): Heard => {
    const view = viewLine(line);
    if (isMalformed(view)) throw new Error(view.malformed);
    return { ...view, heardAtMs, frameId: `line at ${heardAtMs}`, byInternet: true };
  };
  const radio = heard('QH7CTC-9>APZMPK,QH1ANR*,WIDE2-1:!2935.00S/01120.00W>', 1000);

  it('moves a station and leaves its way on radio as it was', () => {
    const station = hear(
      hear(undefined, radio),
      byWire('QH7CTC-9>APZMPK,TCPIP*,qAC,HOLLIN1:=2936.00S/01120.00W>', 2000),
    );
    expect(station).toMatchObject({
      hops: 1,
      repeaters: ['QH1ANR'],
      radioAtMs: 1000,
      internetAtMs: 2000,
      positionBy: 'internet',
      messaging: true,
    });
    expect(hear(station, { ...radio, heardAtMs: 3000 })).toMatchObject({
      radioAtMs: 3000,
      internetAtMs: 2000,
      positionBy: 'radio',
      messaging: false,
    });
  });

  it('of a station never heard on radio proves no radio', () => {
    const station = hear(undefined, byWire('HOLLIN-AB>APRS,QH1ANR*,qAR,QH3PRT-10:>hi', 2000));
    expect(station).toMatchObject({ name: 'HOLLIN-AB', hops: 0, repeaters: [], internetAtMs: 2000 });
    expect(station.radioAtMs).toBeUndefined();
  });

  it('whoever sends a message takes messages', () =>
    expect(hear(undefined, heard('QH7CTC-9>APZMPK::QH4MPK-9 :hi{1', 0)).messaging).toBe(true));
});
