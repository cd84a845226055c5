import { composeLab, USUAL_SETS } from './compose.js';
import type { HeardNetwork } from './heard-network.js';

const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
const HOUR_MS = 3_600_000;
const source = (call: string, packets: number, path = 'WIDE2-1', octets = 30) =>
  ({ call, packets, direct: 0, lastAtMs: 0, path, octets }) as const;
const repeater = (call: string, aliases: Record<string, number>) =>
  ({ call, count: 1, lastAtMs: 0, heardHere: 1, aliases, from: {} }) as const;
const network: HeardNetwork = {
  fromMs: 0,
  toMs: 2 * HOUR_MS,
  repeaters: [repeater('QH1ANR', { WIDE1: 9, WIDE2: 1 }), repeater('QH2FIL-1', { WIDE1: 4 })],
  sources: [
    source('QH7CTA-9', 120),
    source('QH6WXA-13', 20, '', 0),
    source('QH3PRT-10', 6, 'WIDE2-1', 400),
    source('QH4MPK-7', 3),
    source('QH8BTA-8', 1),
  ],
};
const seen = [
  { name: 'QH1ANR', position: HERE, symbolCode: '#' },
  { name: 'QH2FIL-1', position: HERE, symbolCode: '#' },
  { name: 'QH7CTA-9', position: HERE, symbolCode: 'k' },
  { name: 'QH6WXA-13', position: HERE, symbolCode: '_' },
  { name: 'QH3PRT-10', position: HERE, symbolCode: '&' },
  { name: 'QH4MPK-7', position: HERE, symbolCode: '[' },
];
const compose = (sites: Parameters<typeof composeLab>[2] = [], of = network) =>
  composeLab(of, seen, sites, ['QH4MPK-7'], { frequencyMHz: 144.8, airRate: 1200 });

describe('the lab from what was heard', () => {
  it('tells by deeds and symbols what each one does; one’s own packets are no part of it', () => {
    const { lab, unplaced } = compose();
    expect(lab.stations.map(({ call, role }) => `${call} ${role}`)).toEqual([
      'QH1ANR digipeater',
      'QH2FIL-1 fill-in',
      'QH3PRT-10 gateway',
      'QH6WXA-13 station',
      'QH7CTA-9 station',
    ]);
    expect(unplaced).toEqual(['QH8BTA-8']);
  });

  it('takes the load from the journal', () => {
    const { stations } = compose().lab;
    const of = (call: string) => stations.find((station) => station.call === call);
    expect(of('QH7CTA-9')).toMatchObject({ packetsPerHour: 60, path: 'WIDE2-1', octets: 30 });
    expect(of('QH6WXA-13')).toMatchObject({ packetsPerHour: 10, path: '', octets: 40 });
    expect(of('QH3PRT-10')?.octets).toBe(255);
    expect(of('QH1ANR')?.packetsPerHour).toBe(0);
  });

  it('does not make a station busy that was heard once in a minute', () => {
    const short = { ...network, toMs: 60_000, sources: [source('QH7CTA-9', 1)] };
    expect(compose([], short).lab.stations.find(({ call }) => call === 'QH7CTA-9')?.packetsPerHour).toBe(2);
  });

  it('gives each the set that is usual, unless the operator knows better', () => {
    const known = {
      call: 'QH1ANR',
      role: 'digipeater',
      position: HERE,
      heightM: 30,
      powerW: 50,
      gainDbi: 6,
    } as const;
    const { stations } = compose([known, { ...known, call: 'QH1NEW', role: 'gateway' }]).lab;
    const end = (call: string) => stations.find((station) => station.call === call)?.end;
    expect(end('QH1ANR')).toMatchObject({ heightM: 30, powerW: 50, gainDbi: 6 });
    expect(end('QH2FIL-1')).toMatchObject(USUAL_SETS['fill-in']);
    expect(end('QH7CTA-9')).toMatchObject(USUAL_SETS.mobile);
    expect(end('QH6WXA-13')).toMatchObject(USUAL_SETS.station);
    expect(stations.find(({ call }) => call === 'QH1NEW')?.role).toBe('gateway');
  });

  it('knows a mover by its speed too', () => {
    const moving = [{ name: 'QH6WXA-13', position: HERE, symbolCode: '_', speedMps: 3 }];
    const { lab } = composeLab(network, moving, [], [], { frequencyMHz: 144.8, airRate: 1200 });
    expect(lab.stations[0]?.end.heightM).toBe(1.5);
  });
});
