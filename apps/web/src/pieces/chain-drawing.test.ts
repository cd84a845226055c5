import type { Chain } from '@mistpeak/core/chain/chain';
import { followChain } from '@mistpeak/core/chain/follow';
import { planChains } from '@mistpeak/core/chain/plan';
import { fromLibrary, LIBRARY_KINDS, type LibraryKind } from '@mistpeak/core/kit/library';
import { drawChain, portWords } from './chain-drawing';

const chainOf = (...kinds: LibraryKind[]): Chain =>
  followChain(
    kinds.map((kind) => fromLibrary(kind)),
    'beacon',
  ) as Chain;

describe('a chain as it is drawn', () => {
  it('has cables for joints, all others for stones', () => {
    const { stones, joints } = drawChain(
      chainOf('fm-mobile', 'six-pin-cable', 'usb-packet-modem', 'single-board', 'mistpeak'),
    );
    expect(stones.map(({ item }) => item.id)).toEqual([
      'fm-mobile',
      'usb-packet-modem',
      'single-board',
      'mistpeak',
    ]);
    expect(joints.map(({ name, state }) => [name, state])).toEqual([
      ['6-pin data cable', 'holds'],
      ['USB', 'holds'],
      ['KISS', 'holds'],
    ]);
  });

  it('has two cables in one joint, with what the rules say of either', () => {
    const { joints } = drawChain(
      chainOf('two-pin-handheld', 'keying-two-pin', 'vox-keying-cable', 'tablet', 'phone-map-le'),
    );
    expect(joints[0]?.name).toBe('Radio cable, keying cable to two-pin, VOX-keying stereo cable');
  });

  it('shows the joint that a switch would mend as such', () => {
    const { joints } = drawChain(chainOf('tnc-handheld', 'phone', 'phone-map'));
    expect(joints.map(({ state }) => state)).toEqual(['switches', 'holds']);
    expect(joints[0]?.findings.map(({ rule }) => rule)).toEqual(['kiss-off', 'own-beacon']);
  });

  it('names a missing cable in the joint that it would make', () => {
    const kit = (['fm-mobile', 'usb-packet-modem', 'laptop', 'mistpeak'] as const).map((kind) =>
      fromLibrary(kind),
    );
    const { chain } = planChains(kit, 'beacon').broken[0] as { chain: Chain };
    const { joints } = drawChain(chain);
    expect(joints[0]).toMatchObject({ name: '6-pin data cable?', state: 'breaks' });
    expect(joints[0]?.findings[0]?.text).toBe('6-pin data cable is missing');
  });

  it('of a radio alone is one stone', () => {
    expect(drawChain(chainOf('tnc-handheld'))).toMatchObject({ stones: [{}], joints: [] });
  });
});

describe('the ports of an item in words', () => {
  it.each([
    ['le-phone', 'Bluetooth LE · digital-only audio · network'],
    ['two-pin-handheld', 'two-pin audio'],
    ['laptop', 'USB-A · Bluetooth · 3.5 mm headset · network'],
    ['mistpeak', ''],
  ] as const)('%s: %s', (kind, words) => expect(portWords(fromLibrary(kind))).toBe(words));

  it('name each connector once', () => {
    for (const kind of LIBRARY_KINDS) {
      const words = portWords(fromLibrary(kind)).split(' · ');
      expect(new Set(words).size).toBe(words.length);
    }
  });
});
