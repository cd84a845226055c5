import type { Ax25Frame } from '../ax25/frame.js';
import { parseMonitorText } from '../ax25/monitor-text.js';
import { duplicateKey } from '../digipeating/digipeater.js';
import { foreignUses, misreading, planCollisions } from './collisions.js';

const frame = (line: string): Ax25Frame => parseMonitorText(line) as Ax25Frame;

describe('collisions of call signs', () => {
  it('in the plan: two devices with one call-SSID', () => {
    const stations = [
      { call: 'QH4MPK-7', device: 'handheld' },
      { call: 'QH4MPK-9', device: 'cart' },
      { call: 'QH4MPK-7', device: 'phone app' },
    ];
    expect(planCollisions(stations)).toEqual([{ call: 'QH4MPK-7', devices: ['handheld', 'phone app'] }]);
  });

  it('on the air: our own echo is none, a frame that we did not send is', () => {
    const sent = new Set([duplicateKey(frame('QH4MPK-7>APZMPK,WIDE2-1:!mine'))]);
    const own = { licenceCall: 'QH4MPK', usedHere: ['QH4MPK-7'], planned: ['QH4MPK-7', 'QH4MPK-9'] };
    const heard = [
      frame('QH4MPK-7>APZMPK,QH1ANR,WIDE2*:!mine'),
      frame('QH4MPK-7>APZMPK,QH1ANR*:!another'),
      frame('QH4MPK-9>APZMPK:!cart'),
      frame('QH4MPK-3>APZMPK:!who'),
      frame('QH7CTC-9>APZMPK:!other'),
    ];
    expect(foreignUses(heard, own, sent).map(({ call, problem }) => [call, problem])).toEqual([
      ['QH4MPK-7', 'used here'],
      ['QH4MPK-3', 'not planned'],
    ]);
  });

  // common practice, no source: the convention of SSIDs
  it.each([
    [7, 'my handheld', undefined],
    [9, 'base hut', 'primary mobile'],
    [2, 'base hut', undefined],
    [15, 'anything', undefined],
    [13, '', undefined],
  ])('SSID %i for "%s" is read as %s', (ssid, role, reading) => expect(misreading(ssid, role)).toBe(reading));
});
