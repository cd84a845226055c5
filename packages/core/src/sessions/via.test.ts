import { parseVia } from './via.js';

it.each([
  ['', []],
  ['qh1anr', ['QH1ANR']],
  ['via QH1ANR, QH1TOP-0', ['QH1ANR', 'QH1TOP']],
  ['V QH1ANR QH2FIL-1', ['QH1ANR', 'QH2FIL-1']],
  ['A,B,C,D,E,F,G,H', ['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H']],
])('%j', (text, calls) => expect(parseVia(text)).toEqual(calls));

it.each([
  ['A,B,C,D,E,F,G,H,I', /at most eight/],
  ['WIDE1-1', /path of beacons/],
  ['TRACE3-3', /path of beacons/],
  ['QH1ANR,QH1ANR', /twice/],
  ['QH1ANR-16', /SSID/],
])('%j: %s', (text, malformed) =>
  expect(parseVia(text)).toMatchObject({ malformed: expect.stringMatching(malformed) as string }),
);
