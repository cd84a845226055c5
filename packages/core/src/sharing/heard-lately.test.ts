import type { Ax25Frame } from '../ax25/frame.js';
import { parseMonitorText } from '../ax25/monitor-text.js';
import { HEARD_LATELY_MS, HeardLately } from './heard-lately.js';

const frame = (line: string): Ax25Frame => parseMonitorText(line) as Ax25Frame;
function heard(): HeardLately {
  const lately = new HeardLately();
  lately.note(frame('QH7CTC-9>APZMPK,WIDE1-1:>hi'), 1000);
  return lately;
}

describe('what another program may pass on', () => {
  it('was heard within half a minute', () => expect(HEARD_LATELY_MS).toBe(30_000));

  it.each([
    ['its own frame', 'QH4MPK-5>APZMPK,WIDE1-1:>mine', 1000, true],
    ['what was just heard, repeated', 'QH7CTC-9>APZMPK,QH4MPK-2*:>hi', 1000, true],
    ['to the last ms of half a minute', 'QH7CTC-9>APZMPK,QH4MPK-2*:>hi', 999 + HEARD_LATELY_MS, true],
    ['not later', 'QH7CTC-9>APZMPK,QH4MPK-2*:>hi', 1000 + HEARD_LATELY_MS, false],
    ['not other words', 'QH7CTC-9>APZMPK,QH4MPK-2*:>ho', 1000, false],
    ['not from another station', 'QH7CTD-9>APZMPK,QH4MPK-2*:>hi', 1000, false],
    ['not its own as if it had been repeated', 'QH4MPK-5>APZMPK,QH4MPK-2*:>mine', 1000, false],
  ])('%s', (_, line, nowMs, may) => expect(heard().mayPassOn(frame(line), nowMs)).toBe(may));

  it('counts from the last time that it was heard', () => {
    const lately = heard();
    lately.note(frame('QH7CTC-9>APZMPK,QH1TOP*:>hi'), 20_000);
    expect(lately.mayPassOn(frame('QH7CTC-9>APZMPK,QH4MPK-2*:>hi'), 20_000 + HEARD_LATELY_MS - 1)).toBe(true);
  });

  it.each([
    [999 + HEARD_LATELY_MS, 2],
    [1000 + HEARD_LATELY_MS, 1],
  ])('forgets in time: at %i ms it knows %i', (atMs, size) => {
    const lately = heard();
    lately.note(frame('A>B:x'), atMs);
    expect(lately.size).toBe(size);
  });
});
