import 'reflect-metadata';
import 'reflect-metadata';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { BeaconSettings } from './beacon.js';
import { FAILURES, failureText } from './failures.js';
import { parseHost } from './host.js';
import { LinkSettings } from './link.js';
import { soundText, USUAL_SOUND_SETUP } from './sound.js';
import { OperatorSettings } from './operator.js';

const OPERATOR = {
  call: '1X9TST',
  region: 'japan',
  units: 'metric',
  coordinates: 'decimal',
  place: '1 N 2 E',
};
const NETWORK = {
  name: 'modem',
  kind: 'network',
  host: '127.0.0.1',
  port: 8001,
  airRate: 1200,
  txDelayMs: 300,
  persistence: 0.25,
  slotTimeMs: 100,
  txTailMs: 30,
};
const { host: _host, port: _port, ...rest } = NETWORK;
const SERIAL = { ...rest, kind: 'serial', device: '/dev/ttyUSB0', speed: 9600 };
const BEACON = {
  source: '1X9TST-7',
  place: '1, 2',
  symbolTable: '/',
  symbolCode: '-',
  comment: '',
  path: '',
  format: 'plain',
  messaging: false,
  ambiguityDigits: 0,
  frequency: '',
};

/** Refused fields with their words. */
function refusals(type: new () => object, value: object): Record<string, string> {
  const errors = validateSync(plainToInstance(type, value), { whitelist: true, forbidNonWhitelisted: true });
  return Object.fromEntries(
    errors.map(({ property, constraints }) => [property, Object.values(constraints ?? {}).at(-1) ?? '']),
  );
}

describe('what crosses to the server', () => {
  it.each([
    [OperatorSettings, OPERATOR],
    [OperatorSettings, { ...OPERATOR, place: '', version: 3 }],
    [OperatorSettings, { ...OPERATOR, region: 'other', channelMHz: 28 }],
    [OperatorSettings, { ...OPERATOR, region: 'other', channelMHz: 1300 }],
    [LinkSettings, NETWORK],
    [LinkSettings, SERIAL],
    [BeaconSettings, BEACON],
  ])('%p takes good fields', (type, value) => expect(refusals(type, value)).toEqual({}));

  it.each([
    [OperatorSettings, OPERATOR, 'call', 'N0CALL', /placeholder/],
    [OperatorSettings, OPERATOR, 'call', '1X9TST-7', /without an SSID/],
    [OperatorSettings, OPERATOR, 'place', '91 N 2 E', /at most 90/],
    [OperatorSettings, { ...OPERATOR, region: 'other' }, 'channelMHz', undefined, /as 144.800/],
    [OperatorSettings, { ...OPERATOR, region: 'other' }, 'channelMHz', 27.9, /as 144.800/],
    [OperatorSettings, { ...OPERATOR, region: 'other' }, 'channelMHz', 1301, /as 144.800/],
    [OperatorSettings, OPERATOR, 'version', 1.5, /whole number/],
    [OperatorSettings, OPERATOR, 'region', 'moon', /choose a region/],
    [LinkSettings, NETWORK, 'host', 'a b', /letters, digits/],
    [LinkSettings, NETWORK, 'port', 0, /1 to 65535/],
    [LinkSettings, NETWORK, 'port', 'x', /1 to 65535/],
    [LinkSettings, NETWORK, 'name', '', /give the link a name/],
    [LinkSettings, NETWORK, 'txDelayMs', 2551, /0 to 2550/],
    [LinkSettings, NETWORK, 'persistence', 1.1, /0 to 1/],
    [LinkSettings, SERIAL, 'device', 'ttyUSB0', /\/dev\/ttyUSB0/],
    [LinkSettings, SERIAL, 'speed', 12, /choose a speed/],
    [BeaconSettings, BEACON, 'source', 'MYCALL', /placeholder/],
    [BeaconSettings, BEACON, 'source', '1X9TST-16', /0 to 15/],
    [BeaconSettings, BEACON, 'place', '', /write the place/],
    [BeaconSettings, BEACON, 'path', 'WIDE2-1,WIDE1-1', /belongs first/],
    [BeaconSettings, BEACON, 'comment', 'x'.repeat(44), /at most 43/],
    [BeaconSettings, BEACON, 'format', 'morse', /choose a form/],
    [BeaconSettings, BEACON, 'ambiguityDigits', 5, /0 to 4/],
    [BeaconSettings, BEACON, 'frequency', 'loud', /145.675MHz/],
    [BeaconSettings, BEACON, 'phgPowerW', 82, /81 W/],
    [BeaconSettings, BEACON, 'phgHeightM', 2, /3 to 1560/],
    [BeaconSettings, BEACON, 'phgGainDb', 10, /0 to 9/],
    [BeaconSettings, BEACON, 'altitudeM', 50_001, /50000/],
    [BeaconSettings, BEACON, 'symbolCode', 'xx', /choose a symbol/],
    [BeaconSettings, BEACON, 'extra', 1, /should not exist/],
  ])('%p refuses %j with %s = %j in words', (type, good, field, bad, words) => {
    expect(refusals(type, { ...good, [field]: bad })).toEqual({
      [field]: expect.stringMatching(words) as string,
    });
  });
});

describe('a host', () => {
  it.each(['localhost', 'pi.local', '10.0.0.7', '::1', 'fe80::1'])('%s is taken', (host) =>
    expect(parseHost(host)).toBe(host),
  );
  it.each(['', 'http://x', 'pi:8001', '10.0.0.256', '1.2.3', 'a_b', '-a', 'a..b', 'g::1x'])(
    '%s is refused',
    (host) => expect(parseHost(host)).toHaveProperty('malformed'),
  );
});

it('one set-up of a sound card has one text, in whatever order its fields stand', () => {
  const { keying, ...rest } = USUAL_SOUND_SETUP;
  expect(soundText({ keying, ...rest })).toBe(soundText({ ...rest, keying }));
  expect(soundText({ ...USUAL_SOUND_SETUP, levelDbfs: -13 })).not.toBe(soundText(USUAL_SOUND_SETUP));
  expect(soundText(undefined)).toBe('');
});

describe('failures', () => {
  it.each(Object.entries(FAILURES))('%s has its three texts', (_, text) => {
    for (const words of [text.happened, text.means, text.try]) expect(words).toMatch(/^[A-Z].{10,}\.$/);
  });

  it('of an unknown reason have words too', () => expect(failureText('toString')).toBe(FAILURES.other));
});
