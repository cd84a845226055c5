import { encodeFrame, type Ax25Frame } from '../ax25/frame.js';
import { parseMonitorText } from '../ax25/monitor-text.js';
import { ECHO_WINDOW_MS, EchoBook } from './echo.js';

const octets = (line: string): Uint8Array => encodeFrame(parseMonitorText(line) as Ax25Frame);
const SENT = octets('QH4MPK-7>APZMPK,WIDE1-1,WIDE2-1:>base hut');
const copy = (path: string): Uint8Array => octets(`QH4MPK-7>APZMPK,${path}:>base hut`);

function bookOf(...sent: readonly (readonly [string, Uint8Array, number])[]): EchoBook {
  const book = new EchoBook();
  for (const [id, raw, atMs] of sent) book.note(id, raw, atMs);
  return book;
}

describe('an echo', () => {
  const waiting = (): EchoBook => bookOf(['one', SENT, 1000]);

  it('tells by whom and after how long', () =>
    expect(waiting().hear(copy('QH1ANR,WIDE1*,WIDE2-1'), 3400)).toEqual({
      id: 'one',
      by: 'QH1ANR',
      afterMs: 2400,
    }));

  it('names the last repeater of several', () =>
    expect(waiting().hear(copy('QH2FIL-1,QH1TOP,WIDE2*'), 3400)).toMatchObject({ by: 'QH1TOP' }));

  it('counts each digipeater once, and a second one too', () => {
    const book = waiting();
    expect(book.hear(copy('QH1ANR*,WIDE2-1'), 2000)).toMatchObject({ by: 'QH1ANR' });
    expect(book.hear(copy('QH1ANR*,WIDE2-1'), 2500)).toBeUndefined();
    expect(book.hear(copy('QH1TOP*,WIDE2-1'), 2500)).toMatchObject({ by: 'QH1TOP' });
  });

  it('unrepeated, or with its path taken away, is a second receiver', () => {
    expect(waiting().hear(SENT, 1500)).toMatchObject({ by: null });
    expect(waiting().hear(octets('QH4MPK-7>APZMPK:>base hut'), 1500)).toMatchObject({ by: null });
  });

  it('has the same octets: another source, text or kind of frame is none', () => {
    const book = waiting();
    expect(book.hear(octets('QH7CTC-9>APZMPK,QH1ANR*:>base hut'), 2000)).toBeUndefined();
    expect(book.hear(octets('QH4MPK-7>APZMPK,QH1ANR*:>base huts'), 2000)).toBeUndefined();
    const polled = SENT.slice();
    // The control field stands behind four addresses of seven octets; its fifth bit is P.
    polled[28] = (polled[28] as number) ^ 0x10;
    expect(book.hear(polled, 2000)).toBeUndefined();
    expect(book.hear(SENT.subarray(0, 10), 2000)).toBeUndefined();
  });

  it('comes within two minutes, to the last ms', () => {
    expect(ECHO_WINDOW_MS).toBe(120_000);
    expect(waiting().hear(copy('QH1ANR*'), 1000 + ECHO_WINDOW_MS)).toBeUndefined();
    expect(waiting().hear(copy('QH1ANR*'), 999 + ECHO_WINDOW_MS)).toMatchObject({ afterMs: 119_999 });
  });
});

describe('what is awaited', () => {
  const frame = (n: number): Uint8Array => octets(`QH4MPK-7>APZMPK:>${n}`);

  it('is forgotten by time, not by count', () => {
    const book = bookOf(...Array.from({ length: 3000 }, (_, i) => [`n${i}`, frame(i), i] as const));
    expect(book.size).toBe(3000);
    expect(book.hear(frame(0), 5000)).toMatchObject({ id: 'n0' });
    book.note('late', SENT, 999 + ECHO_WINDOW_MS);
    expect(book.size).toBe(2001);
  });

  it('of several alike is the last, which begins anew', () => {
    const book = bookOf(['a', SENT, 0], ['b', frame(1), 10], ['c', SENT, 20]);
    expect(book.size).toBe(2);
    expect(book.hear(copy('QH1ANR*'), 100)).toEqual({ id: 'c', by: 'QH1ANR', afterMs: 80 });
    // b is the oldest now.
    book.note('d', frame(2), 10 + ECHO_WINDOW_MS);
    expect(book.size).toBe(2);
  });

  it('is no frame that cannot be read', () => {
    const book = bookOf(['x', Uint8Array.of(1, 2), 0]);
    expect(book.size).toBe(0);
    expect(book.hear(SENT, 0)).toBeUndefined();
  });
});
