import { portOf, type Item } from '../kit/item.js';
import { fromLibrary, type LibraryKind } from '../kit/library.js';
import { FIFTEEN } from './fifteen.vectors.js';
import { DEMANDS } from './purpose.js';
import { flowName, jointName, judge as judged, RULES, type Flow, type Meeting } from './rules.js';

const KISS: Flow = { signal: 'KISS', keying: ['TNC'] };
const SOUND: Flow = { signal: 'audio', keying: ['VOX'] };

interface Met {
  readonly from: Item;
  readonly to: Item;
  readonly out?: string;
  readonly into?: string;
  readonly flow?: Flow;
}

function meeting({ from, to, out, into, flow = KISS }: Met, more: Partial<Meeting> = {}): Meeting {
  const source = from.radio?.sources.find(({ port }) => port === out);
  const [outPort, inPort] = [portOf(from, out ?? ''), portOf(to, into ?? '')];
  return {
    from,
    to,
    flow,
    demand: DEMANDS.beacon,
    ...(outPort ? { out: outPort } : {}),
    ...(inPort ? { in: inPort } : {}),
    ...(source ? { source } : {}),
    ...more,
  };
}

const item = (kind: LibraryKind, switches: Item['switches'] = {}, more: Partial<Item> = {}): Item => {
  const made = fromLibrary(kind, kind, more);
  return { ...made, switches: { ...made.switches, ...switches } };
};
const READY = { kiss: 'on', ownBeacon: 'off', kissTo: 'Bluetooth' } as const;
/** Which rules said anything in these tests. */
const spoken = new Set<string>();
function judge(met: Meeting): ReturnType<typeof judged> {
  const findings = judged(met);
  for (const { rule } of findings) spoken.add(rule);
  return findings;
}
const rulesOf = (met: Met, more?: Partial<Meeting>): string[] =>
  judge(meeting(met, more)).map(({ rule }) => rule);

/** By Bluetooth from the handheld with the key to a phone; what is set otherwise, and what is said of it. */
describe('a radio’s own TNC', () => {
  const to = item('phone');
  const met = (switches: Item['switches'], more: Partial<Item> = {}): Met => ({
    from: item('tnc-key-handheld', { ...READY, ...switches }, more),
    to,
    out: 'Bluetooth',
    into: 'Bluetooth',
  });

  it.each([
    [{}, []],
    [{ kiss: 'off' }, ['kiss-off']],
    [{ kissTo: 'USB' }, ['kiss-transport']],
    [{ kissRate: '9600' }, ['kiss-rate']],
    [{ ownBeacon: 'on' }, ['own-beacon']],
    [{ tncBand: 'B' }, ['tnc-band']],
    [{ band: 'B', tncBand: 'B' }, []],
    [{ mode: 'digital voice' }, ['mode']],
    [{ dataSounds: 'muted' }, ['data-sounds']],
    [{ kiss: 'off', ownBeacon: 'on' }, ['kiss-off', 'own-beacon']],
  ] as [Item['switches'], string[]][])('with %j: %j', (switches, expected) =>
    expect(rulesOf(met(switches))).toEqual(expected),
  );

  it('by a wire wants KISS there', () => {
    const wired = { ...met({ kissTo: 'Bluetooth' }), out: 'USB', to: item('usb-c-to-a'), into: 'radio side' };
    expect(rulesOf(wired)).toEqual(['kiss-transport']);
  });

  it('that is old says which firmware is needed', () => {
    const old = {
      from: item('tnc-handheld', READY, { version: '1.1' }),
      to,
      out: 'Bluetooth',
      into: 'Bluetooth',
    };
    expect(judge(meeting(old))[0]).toMatchObject({
      rule: 'firmware',
      mend: 'Update its firmware to 1.2 or newer.',
    });
  });

  it('of an unknown firmware is not refused', () => {
    const unknown = { from: item('tnc-handheld', READY), to, out: 'Bluetooth', into: 'Bluetooth' };
    expect(rulesOf(unknown)).toEqual([]);
  });

  it('names the switch that mends it', () => {
    expect(judge(meeting(met({ kiss: 'off' })))[0]?.set).toEqual({
      itemId: 'tnc-key-handheld',
      switch: 'kiss',
      to: 'on',
    });
  });
});

describe('a joint', () => {
  it.each([
    [
      'serial to LE breaks',
      { from: item('pocket-tnc'), to: item('le-phone'), out: 'Bluetooth', into: 'Bluetooth' },
      ['serial-profile'],
    ],
    [
      'LE to LE holds',
      { from: item('le-tnc'), to: item('le-phone'), out: 'Bluetooth', into: 'Bluetooth' },
      [],
    ],
    [
      'a TNC that is paired elsewhere',
      {
        from: item('pocket-tnc', { pairedWith: 'Old laptop' }),
        to: item('phone'),
        out: 'Bluetooth',
        into: 'Bluetooth',
      },
      ['paired-elsewhere'],
    ],
    [
      'a TNC that is paired here',
      {
        from: item('pocket-tnc', { pairedWith: 'Phone, classic + LE Bluetooth' }),
        to: item('phone'),
        out: 'Bluetooth',
        into: 'Bluetooth',
      },
      [],
    ],
    [
      'a phone whose USB takes no devices',
      {
        from: item('usb-host-adapter'),
        to: item('phone', {}, { ports: [{ id: 'USB', connector: 'usb-c', end: 'socket', usb: 'device' }] }),
        out: 'host side',
        into: 'USB',
      },
      ['usb-role'],
    ],
    [
      'a radio that only receives',
      { from: item('receive-only-radio'), to: item('laptop'), out: 'USB', into: 'USB', flow: SOUND },
      ['receive-only'],
    ],
    [
      'an HF radio for APRS on VHF',
      { from: item('hf-transceiver'), to: item('usb-c-to-a'), out: 'USB', into: 'radio side', flow: SOUND },
      ['radio-band'],
    ],
    [
      'a dongle of unknown make',
      {
        from: item('headset-cable'),
        to: item('third-party-dongle'),
        out: 'host side',
        into: 'headset',
        flow: SOUND,
      },
      ['unproven-part'],
    ],
    [
      'a computer without a screen',
      { from: item('usb-packet-modem'), to: item('headless-12v'), out: 'USB', into: 'USB' },
      ['headless'],
    ],
    [
      'something that is elsewhere',
      { from: item('usb-packet-modem'), to: item('laptop', {}, { isHere: false }), out: 'USB', into: 'USB' },
      ['not-here'],
    ],
    [
      'an app that opens sound only, given KISS',
      { from: item('laptop'), to: item('virtual-modem'), flow: { ...KISS, transport: 'USB' } },
      ['app-opens'],
    ],
  ] as [string, Met, string[]][])('%s: %j', (_, met, expected) => expect(rulesOf(met)).toEqual(expected));

  it('over the network: both joined, or one the other’s hotspot', () => {
    const over = (near: string, far: string): string[] =>
      rulesOf(
        {
          from: item('modem-program'),
          to: item('laptop', { wireless: far }),
          into: 'network',
          flow: { ...KISS, transport: 'TCP' },
        },
        {
          host: item('single-board', { wireless: near }),
          out: { id: 'network', connector: 'network', end: 'either' },
        },
      );
    expect(over('joined', 'joined')).toEqual([]);
    expect(over('own hotspot', 'joined')).toEqual([]);
    expect(over('joined', 'own hotspot')).toEqual([]);
    expect(over('own hotspot', 'own hotspot')).toEqual(['network']);
    expect(over('off', 'joined')).toEqual(['network']);
    expect(over('joined', 'off')).toEqual(['network']);
  });

  it('of two TCP ports: they must agree', () => {
    const at = (port: string): string[] =>
      rulesOf(
        {
          from: item('laptop'),
          to: item('desk-map', { tcpPort: port }),
          flow: { ...KISS, transport: 'TCP' },
        },
        { service: item('modem-program', { tcpPort: '8001' }) },
      );
    expect([at('8001'), at('8100')]).toEqual([[], ['tcp-port']]);
  });
});

describe('the names of joints and flows', () => {
  it.each([
    [{ from: item('fm-mobile'), to: item('six-pin-cable'), out: 'data', into: 'radio side' }, '6-pin data'],
    [{ from: item('usb-packet-modem'), to: item('laptop'), out: 'USB', into: 'USB' }, 'USB'],
    [{ from: item('le-tnc'), to: item('le-phone'), out: 'Bluetooth', into: 'Bluetooth' }, 'Bluetooth LE'],
    [{ from: item('laptop'), to: item('desk-map'), flow: { ...KISS, transport: 'TCP' } }, 'KISS over TCP'],
    [
      { from: item('tablet'), to: item('phone-mail'), flow: { ...SOUND, transport: 'sound' } },
      'software modem',
    ],
    [{ from: item('laptop'), to: item('mistpeak'), flow: { ...KISS, transport: 'USB' } }, 'KISS'],
  ] as [Met, string][])('%#: %s', (met, name) => expect(jointName(meeting(met))).toBe(name));

  it('a flow by its signal and its way', () => {
    expect(flowName({ ...KISS, transport: 'TCP' })).toBe('KISS over TCP');
    expect(flowName(SOUND)).toBe('sound');
  });
});

it('every rule has spoken in one of these tests or in those of the chains', () => {
  const ofChains = FIFTEEN.flatMap(({ variants }) => variants.map(({ rule }) => rule));
  const silent = RULES.map(({ id }) => id).filter((id) => !spoken.has(id) && !ofChains.includes(id));
  expect(silent).toEqual([]);
});
