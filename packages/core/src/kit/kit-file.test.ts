import { isMalformed } from '../bits/malformed.js';
import { formatKit, KIT_FORMAT, KIT_VERSION, parseItem, parseKit } from './kit-file.js';
import { fromLibrary, LIBRARY_KINDS } from './library.js';

const RADIO = fromLibrary('two-pin-handheld');
const refusal = (changes: object): string | undefined => {
  const read = parseItem({ ...RADIO, ...changes });
  return isMalformed(read) ? read.malformed : undefined;
};
const port = (i: number) => ({ id: `p${i}`, connector: 'usb-a', end: 'socket', usb: 'host' });

describe('an item', () => {
  it.each(LIBRARY_KINDS)('%s of the library is read as it is', (kind) => {
    expect(parseItem(fromLibrary(kind))).toEqual(fromLibrary(kind));
  });

  it.each([
    ['the draw', { drawMilliamps: 1_000_000 }, undefined],
    ['the draw', { drawMilliamps: 1_000_001 }, 'item.drawMilliamps must be a number from 0 to 1,000,000'],
    ['the draw', { drawMilliamps: 0 }, undefined],
    ['the draw', { drawMilliamps: -1 }, 'item.drawMilliamps must be a number from 0 to 1,000,000'],
    ['the draw', { drawMilliamps: NaN }, 'item.drawMilliamps must be a number from 0 to 1,000,000'],
    ['the gain', { antenna: { gainDbi: -40, heightM: 2 } }, undefined],
    ['the gain', { antenna: { gainDbi: 40, heightM: 2 } }, undefined],
    [
      'the gain',
      { antenna: { gainDbi: 40.1, heightM: 2 } },
      'item.antenna.gainDbi must be a number from -40 to 40',
    ],
    [
      'the gain',
      { antenna: { gainDbi: -40.1, heightM: 2 } },
      'item.antenna.gainDbi must be a number from -40 to 40',
    ],
    [
      'the height',
      { antenna: { gainDbi: 2, heightM: -1 } },
      'item.antenna.heightM must be a number from 0 to 1,000,000',
    ],
    ['the draw, absent', { drawMilliamps: null }, undefined],
    ['a name', { name: 'x'.repeat(200) }, undefined],
    ['a name', { name: 'x'.repeat(201) }, 'item.name must be text of at most 200 characters'],
    ['a name', { name: ' ' }, 'item.name must be given'],
    [
      'ports',
      {
        ports: Array.from({ length: 40 }, (_, i) => port(i)),
        ways: [],
        radio: { ...RADIO.radio, sources: [] },
      },
      undefined,
    ],
    [
      'ports',
      { ports: Array.from({ length: 41 }, (_, i) => port(i)) },
      'item.ports must be a list of at most 40',
    ],
    ['twins', { ports: [port(1), port(1)] }, 'item.ports must be a list of ports with different ids'],
    [
      'a way to nowhere',
      { ways: [{ from: 'x', to: 'y', keys: [] }] },
      'item.ports must be a list with a port “x”, which is named elsewhere',
    ],
    [
      'a source at no port',
      { ports: [] },
      'item.ports must be a list with a port “headset”, which is named elsewhere',
    ],
    ['its kind’s facts', { radio: undefined }, 'item.radio must be given for this kind'],
    ['a switch', { switches: { warp: '9' } }, 'item.switches.warp must be a switch that is known'],
    ['a flag', { isHere: 'yes' }, 'item.isHere must be true or false'],
    ['a list', { ports: {} }, 'item.ports must be a list of at most 40'],
    ['a pair', { ways: [{ from: 'a', to: 'b', keys: [['VOX']] }] }, 'item.ways[0].keys[0] must be a pair'],
  ])('%s: %j', (_, changes, words) => {
    const found = refusal(changes);
    if (words === undefined) expect(found).toBeUndefined();
    else
      expect(found?.replace(/“[^”]*”(?=, which)/, words.includes('headset') ? '“headset”' : '$&')).toBe(
        words,
      );
  });

  it('is no list and no text', () => {
    for (const one of [[], 'x', null, 3, undefined])
      expect(parseItem(one)).toEqual({ malformed: 'item must be an object with named fields', at: 0 });
  });
});

describe('a kit file', () => {
  const file = (changes: object): unknown =>
    parseKit(JSON.stringify({ format: KIT_FORMAT, version: KIT_VERSION, items: [RADIO], ...changes }));

  it('comes back as it was written', () => {
    expect(parseKit(formatKit([RADIO]))).toEqual([RADIO]);
    expect(parseKit('{')).toMatchObject({ malformed: 'this is not JSON' });
  });

  it.each([
    [{ format: 'x' }, 'format must be “mistpeak-kit”'],
    [{ version: 2 }, 'version must be 1, the only one so far'],
    [{ items: [RADIO, RADIO] }, 'items must be a list of items with different ids'],
    [
      { items: Array.from({ length: 1001 }, (_, i) => ({ ...RADIO, id: `${i}` })) },
      'items must be a list of at most 1000',
    ],
    [{ items: [RADIO, { ...RADIO, id: 'b', name: '' }] }, 'items[1].name must be given'],
  ])('is refused whole: %#', (changes, words) => {
    expect(file(changes)).toMatchObject({ malformed: words });
  });

  it('may have a thousand items', () => {
    expect(file({ items: Array.from({ length: 1000 }, (_, i) => ({ ...RADIO, id: `${i}` })) })).toHaveLength(
      1000,
    );
  });
});
