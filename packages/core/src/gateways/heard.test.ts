import type { Station } from '../stations/station.js';
import type { FacilityFacts } from './facility.js';
import { heardFacilities } from './heard.js';

const facts = (call: string, frequencyMHz: number, more: Partial<FacilityFacts> = {}): FacilityFacts => ({
  ...{ kind: 'mail gateway', call, frequencyMHz, mode: '', hours: '', notes: '' },
  ...more,
});

describe('who announces himself', () => {
  const heard = (name: string, more: Partial<Station>): Station => ({
    ...{
      name,
      kind: 'station',
      sender: name,
      heardAtMs: 1000,
      frameId: '',
      count: 1,
      hops: 0,
      repeaters: [],
    },
    ...more,
  });
  const symbol = (text: string) => ({ table: text[0] as string, code: text[1] as string });
  const found = (...stations: Station[]) => heardFacilities(stations, { nowMs: 2000, channelMHz: 144.8 });

  it('a digipeater by its symbol, on the channel on which it is heard', () => {
    const position = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
    expect(found(heard('QH1ANR', { symbol: symbol('1#'), position, comment: 'Anrick Head' }))).toEqual([
      facts('QH1ANR', 144.8, { kind: 'digipeater', mode: 'packet 1200', position, notes: 'Anrick Head' }),
    ]);
  });

  it('a repeater object that is named by its frequency, under who sends it', () => {
    const object = heard('145.675', {
      kind: 'object',
      sender: 'QH1ANR',
      symbol: symbol('/r'),
      frequency: { frequencyMHz: 145.675, offsetKHz: -600, toneHz: 94.8 },
    });
    expect(found(object)).toEqual([
      facts('QH1ANR', 145.675, { kind: 'voice repeater', mode: 'FM', shiftMHz: -0.6, toneHz: 94.8 }),
    ]);
  });

  it('a mail gateway where its words say mail; a plain gate to the internet is none', () => {
    const told = { symbol: symbol('I&'), frequency: { frequencyMHz: 144.85 } };
    expect(found(heard('QH5VEL-10', { ...told, comment: 'radio mail' }))).toMatchObject([
      { kind: 'mail gateway', call: 'QH5VEL-10', frequencyMHz: 144.85 },
    ]);
    expect(found(heard('QH3PRT-10', { ...told, comment: 'internet gateway' }))).toEqual([]);
  });

  it('a simplex channel, a frequency without a call, a mailbox without a frequency are none', () => {
    const simplex = heard('QH7CTB-9', { symbol: symbol('/>'), frequency: { frequencyMHz: 145.5 } });
    const nameless = heard('145.6', {
      ...{ kind: 'object', sender: 'WIDE', symbol: symbol('/r') },
      frequency: { frequencyMHz: 145.6, offsetKHz: -600 },
    });
    expect(found(simplex, nameless, heard('QH2HUT-1', { symbol: symbol('/B') }))).toEqual([]);
    expect(
      found(heard('QH2HUT-1', { symbol: symbol('/B'), frequency: { frequencyMHz: 144.9 } })),
    ).toMatchObject([{ kind: 'mailbox', frequencyMHz: 144.9 }]);
  });
});
