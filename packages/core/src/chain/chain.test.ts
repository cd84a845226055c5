import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { CONNECTORS } from '../kit/connectors.js';
import { compareVersions, type Item } from '../kit/item.js';
import { formatKit, parseItem, parseKit } from '../kit/kit-file.js';
import { fromLibrary, LIBRARY_KINDS, type LibraryKind } from '../kit/library.js';
import { PURPOSES, type Purpose } from '../proof/ladder.js';
import { chainState, findingsOf, type Chain } from './chain.js';
import { FIFTEEN, type BuiltChain, type Variant } from './fifteen.vectors.js';
import { alternativesAt, followChain, insertionsAt } from './follow.js';
import { planChains, type Plan } from './plan.js';
import { standing, summary } from './rank.js';
import { changesSince, costOfRecord, trialTag, triedItem, wordFor, type Trial } from './record.js';
import { RULES } from './rules.js';
import { kitOfUsual } from './usual-chains.js';

function varied(built: BuiltChain, { without, instead, change }: Variant): Item[] {
  const kit = kitOfUsual(built).filter(({ id }) => id !== without);
  if (instead) kit.push(fromLibrary(instead));
  return kit.map((item) =>
    change?.[0] === item.id
      ? { ...item, ...change[1], switches: { ...item.switches, ...change[1].switches } }
      : item,
  );
}

const ids = (chain: Chain): string[] => chain.stones.map(({ item }) => item.id);
const allOf = ({ holding, switches, lastResort, broken }: Plan): Chain[] => [
  ...holding,
  ...switches,
  ...lastResort,
  ...broken.map(({ chain }) => chain),
];

describe.each(FIFTEEN)('chain $id, $what', (built) => {
  it('is found from a suitable kit, and every rule holds', () => {
    const { holding, lastResort } = planChains(kitOfUsual(built), built.purpose);
    expect([...holding, ...lastResort].map(ids)).toContainEqual([...built.parts]);
  });

  it.each(built.variants)('$what: $rule', (variant) => {
    const kit = varied(built, variant);
    const chains = allOf(planChains(kit, built.purpose));
    const told = chains.filter((chain) =>
      findingsOf(chain).some(({ rule, level }) => rule === variant.rule && level === variant.level),
    );
    expect(told.length).toBeGreaterThan(0);
    if (variant.level === 'risk') return;
    // The chain as it was built must not stand among those that work.
    const whole = variant.instead
      ? built.parts.map((part) => (part === variant.without ? variant.instead : part))
      : built.parts;
    expect(planChains(kit, built.purpose).holding.map(ids)).not.toContainEqual([...whole]);
  });

  it('is the same by its parts in their order', () => {
    const kit = kitOfUsual(built);
    const chain = followChain(kit, built.purpose);
    expect(chain && ids(chain)).toEqual([...built.parts]);
    expect(chain && chainState(chain)).toBe('holds');
  });
});

describe('the order of chains', () => {
  const kit = [
    'two-pin-handheld',
    'tnc-handheld',
    'headset-cable',
    'phone',
    'phone-map',
    'phone-map-le',
  ] as const;
  const items = kit.map((kind) => {
    const item = fromLibrary(kind);
    return {
      ...item,
      switches: {
        ...item.switches,
        ...(item.kind === 'radio' ? { vox: 'on', kiss: 'on', ownBeacon: 'off' } : {}),
      },
    };
  });
  const trial = (chain: Chain, result: Trial['result'], atMs = 0): Trial => ({
    id: `${atMs}`,
    atMs,
    purpose: chain.purpose,
    items: chain.stones.map(({ item }) => triedItem(item)),
    antenna: 'whip',
    result,
    trick: '',
    settings: { squelch: '0' },
    note: '',
  });

  it('has fewest joints first, wired keying before VOX, and the loudspeaker at the microphone last', () => {
    const { holding, lastResort } = planChains(items, 'messages');
    expect([...holding, ...lastResort].map(({ keying }) => keying)).toEqual(['TNC', 'VOX', 'VOX', 'by hand']);
    expect(ids(holding[0] as Chain)).toEqual(['tnc-handheld', 'phone', 'phone-map']);
  });

  it('says what is drawn from the battery, or that nothing is', () => {
    const hut = (kinds: readonly LibraryKind[]): Chain =>
      followChain(
        kinds.map((kind) => fromLibrary(kind)),
        'beacon',
      ) as Chain;
    const told = (chain: Chain): readonly string[] => {
      const { forIt, against } = standing(chain, [], []);
      return [...forIt, ...against].filter((reason) => reason.includes('battery'));
    };
    expect(told(hut(['fm-mobile', 'six-pin-cable', 'usb-packet-modem', 'laptop', 'mistpeak']))).toEqual([
      'it draws about 1.1 A from the battery',
    ]);
    expect(told(hut(['tnc-handheld', 'phone', 'phone-map']))).toEqual(['it needs no battery of its own']);
    expect(told(hut(['tnc-handheld']))).toEqual([]);
    expect(told(hut(['tnc-handheld', 'bluetooth-bridge', 'le-phone', 'phone-map-le']))).toEqual([]);
  });

  it('has what was proved before what was only reckoned, however long it is', () => {
    const chains = planChains(items, 'messages').holding;
    const last = chains.at(-1) as Chain;
    // Each joint of the longest in some trial, none of the whole.
    const costly = { ...trial(last, 'works'), id: 'x', purpose: 'beacon' as const };
    const after = planChains(items, 'messages', [costly]).holding;
    expect(ids(after[0] as Chain)).toEqual(ids(last));
    expect(wordFor(last, [costly])).toBe('should work');
  });

  it('calls a part of an unknown make untested, until it was tried', () => {
    const parts = [
      'two-pin-handheld',
      'keying-two-pin',
      'vox-keying-cable',
      'third-party-dongle',
      'le-phone',
      'phone-map-le',
    ] as const;
    const chain = followChain(
      parts.map((kind) => fromLibrary(kind)),
      'messages',
    ) as Chain;
    expect(wordFor(chain, [])).toBe('untested');
    expect(wordFor(chain, [trial(chain, 'works with a trick')])).toBe('works');
    expect(wordFor(chain, [trial(chain, 'weak audio')])).toBe('failed');
  });

  it('is turned round by the own record, and says so', () => {
    const { holding } = planChains(items, 'messages');
    const [first, second] = holding as [Chain, Chain];
    const trials = [trial(first, 'no answer'), trial(second, 'works')];
    const after = planChains(items, 'messages', trials);
    expect(ids(after.holding[0] as Chain)).toEqual(ids(second));
    expect(costOfRecord(first, trials)).toBeGreaterThan(0);
    expect(standing(second, holding, trials).forIt).toContain('every joint was proved with these parts');
    expect(standing(first, holding, trials).against).toContain('the last trial of it: no answer');
  });

  it('weighs as it says: each joint, what the rules say, keying, wireless, power, and the record', () => {
    const { holding } = planChains(items, 'messages');
    const [wired, vox] = holding as [Chain, Chain];
    const weightOf = (chain: Chain): number =>
      10 * chain.joints.length +
      2 * chain.joints.filter(({ name }) => /^Bluetooth|network/.test(name)).length +
      findingsOf(chain).reduce((sum, { level }) => sum + { breaks: 1000, switch: 20, risk: 15 }[level], 0) +
      Math.round(chain.stones.reduce((sum, { item }) => sum + (item.drawMilliamps ?? 0), 0) / 100) +
      (chain.keying === 'VOX' ? 12 : 0);
    expect([wired.cost, vox.cost]).toEqual([weightOf(wired), weightOf(vox)]);
    expect([wired.keying, vox.keying]).toEqual(['TNC', 'VOX']);
    const joints = wired.joints.length;
    expect(costOfRecord(wired, [trial(wired, 'works')])).toBe(-25 - 4 * joints);
    expect(costOfRecord(wired, [trial(wired, 'no answer')])).toBe(60);
    expect(costOfRecord(wired, [])).toBe(0);
  });

  it('tells what changed since the last success', () => {
    const chain = planChains(items, 'messages').holding[0] as Chain;
    const then = trial(chain, 'works');
    const changed = followChain(
      chain.stones.map(({ item }) =>
        item.kind === 'radio'
          ? { ...item, version: '1.3', switches: { ...item.switches, kiss: 'off' } }
          : item,
      ),
      'messages',
    ) as Chain;
    expect(changesSince(then, changed, 'roof', { squelch: '2' })).toEqual([
      { what: 'antenna', then: 'whip', now: 'roof' },
      { what: 'Handheld with built-in Bluetooth TNC, version', then: 'nothing', now: '1.3' },
      { what: 'Handheld with built-in Bluetooth TNC, kiss', then: 'on', now: 'off' },
      { what: 'squelch', then: '0', now: '2' },
    ]);
    expect(changesSince(then, chain, 'whip', { squelch: '0' })).toEqual([]);
  });

  it('is summed up in words', () => {
    const { holding } = planChains(items, 'messages');
    const [first, second] = holding as [Chain, Chain];
    const trials = [trial(first, 'no answer'), trial(second, 'works')];
    const words = holding.map((chain) => wordFor(chain, trials));
    expect(words).toEqual(['failed', 'works', 'should work']);
    expect(summary([...words, 'breaks', 'breaks', 'switches', 'untested'], 'messages')).toBe(
      '1 works, 1 should work, 1 has an untested part, 1 failed last time, 1 is a switch away, 2 break',
    );
    expect(summary([], 'beacon')).toBe('nothing yet for beacon');
  });
});

describe('the mark of a combination', () => {
  const parts = [fromLibrary('fm-mobile'), fromLibrary('laptop')];

  it('is the same for the same parts under other ids, and another for another purpose', () => {
    const others = [fromLibrary('fm-mobile', 'mine'), fromLibrary('laptop', 'hers')];
    expect(trialTag('beacon', parts)).toBe(trialTag('beacon', others));
    expect(trialTag('beacon', parts)).not.toBe(trialTag('mail', parts));
    expect(trialTag('beacon', parts)).toMatch(/^mp-[2-9A-HJKMNP-TV-Z]{4}$/);
  });
});

describe('other parts in one place', () => {
  const chain = followChain(
    (['fm-mobile', 'six-pin-cable', 'usb-packet-modem', 'single-board', 'mistpeak'] as const).map((kind) =>
      fromLibrary(kind),
    ),
    'beacon',
  ) as Chain;
  const kit = LIBRARY_KINDS.map((kind) => fromLibrary(kind));

  it('instead of the computer: the others that take a USB-A device and run the app', () => {
    const hosts = alternativesAt(chain, 3, kit).map(({ item }) => item.id);
    expect(hosts.sort()).toEqual(['desktop', 'headless-12v', 'laptop']);
  });

  it('at a joint: what fits in between', () => {
    const kit3 = [fromLibrary('tnc-key-handheld'), fromLibrary('le-phone'), fromLibrary('phone-map-le')];
    const handheld = planChains(kit3, 'beacon').broken[0]?.chain as Chain;
    expect(chainState(handheld)).toBe('breaks');
    expect(insertionsAt(handheld, 0, kit).map(({ item }) => item.id)).toContain('bluetooth-bridge');
  });

  it('parts that do not go together at all have no chain', () => {
    expect(followChain([fromLibrary('fm-mobile'), fromLibrary('le-phone')], 'beacon')).toBeUndefined();
  });
});

describe('a plan of any kit', () => {
  const anyKit = fc.subarray([...LIBRARY_KINDS], { minLength: 0, maxLength: 14 });
  const anyPurpose = fc.constantFrom(...(Object.keys(PURPOSES) as Purpose[]));

  it('uses only what is owned, nothing twice, ends in an app that does it, and is followed by its parts', () => {
    fc.assert(
      fc.property(anyKit, anyPurpose, (kinds, purpose) => {
        const plan = planChains(
          kinds.map((kind) => fromLibrary(kind)),
          purpose,
        );
        for (const chain of [...plan.holding, ...plan.switches, ...plan.lastResort]) {
          expect(new Set(ids(chain)).size).toBe(chain.stones.length);
          expect(kinds).toEqual(expect.arrayContaining(ids(chain)));
          expect(chain.stones.some(({ isMissing }) => isMissing)).toBe(false);
          const again = followChain(
            chain.stones.map(({ item }) => item),
            purpose,
          );
          expect(again && ids(again)).toEqual(ids(chain));
          expect(again?.cost).toBeLessThanOrEqual(chain.cost);
        }
        for (const { chain } of plan.broken) expect(chainState(chain)).toBe('breaks');
      }),
      { numRuns: 60 },
    );
  });

  it('does not grow worse by one part more', () => {
    fc.assert(
      fc.property(anyKit, fc.constantFrom(...LIBRARY_KINDS), anyPurpose, (kinds, more, purpose) => {
        const kit = kinds.filter((kind) => kind !== more).map((kind) => fromLibrary(kind));
        const best = (items: Item[]): number => {
          const { holding, switches, lastResort } = planChains(items, purpose);
          return Math.min(...[...holding, ...switches, ...lastResort].map(({ cost }) => cost));
        };
        expect(best([...kit, fromLibrary(more)])).toBeLessThanOrEqual(best(kit));
      }),
      { numRuns: 40 },
    );
  });
});

describe('rules', () => {
  it('have different names, and a source or say that there is none', () => {
    expect(new Set(RULES.map(({ id }) => id)).size).toBe(RULES.length);
    for (const { source } of RULES) expect(source).not.toBe('');
  });
});

describe('versions', () => {
  it.each([
    ['1.10', '1.9', 1],
    ['1.2', '1.2.0', 0],
    ['v1.1b3', '1.2', -1],
    ['', '1', -1],
  ])('%s against %s: %i', (a, b, expected) => expect(compareVersions(a, b)).toBe(expected));
});

describe('a kit file', () => {
  const items = LIBRARY_KINDS.map((kind) => fromLibrary(kind));

  it('comes back as it went, the whole library', () => expect(parseKit(formatKit(items))).toEqual(items));

  it.each([
    ['{', 'this is not JSON'],
    ['[]', 'the file must be an object'],
    ['{"format":"x"}', 'format must be “mistpeak-kit”'],
    ['{"format":"mistpeak-kit","version":2}', 'version must be 1'],
    ['{"format":"mistpeak-kit","version":1,"items":[{}]}', 'items[0].kind must be one of radio'],
    [
      '{"format":"mistpeak-kit","version":1,"items":[{"id":"a","kind":"radio","name":"r"}]}',
      'items[0].radio must be given',
    ],
  ])('refuses %s: %s', (json, words) => {
    expect(parseKit(json)).toMatchObject({ malformed: expect.stringContaining(words) as string });
  });

  it.each([
    [{ name: ' ' }, 'item.name must be given'],
    [{ ports: [{ id: 'a', connector: 'gold', end: 'plug' }] }, 'item.ports[0].connector must be one of'],
    [{ switches: { warp: 'on' } }, 'item.switches.warp must be a switch'],
    [{ ways: [{ from: 'a', to: 'b' }] }, 'item.ports must be a list with a port “a”'],
    [{ drawMilliamps: -1 }, 'item.drawMilliamps must be a number'],
    [{ isHere: 'yes' }, 'item.isHere must be true or false'],
    [{ keys: 1, ports: 'x' }, 'item.ports must be a list'],
  ])('an item with %j is refused at its field', (change, words) => {
    expect(parseItem({ ...fromLibrary('six-pin-cable'), ...change })).toMatchObject({
      malformed: expect.stringContaining(words) as string,
    });
  });

  it('takes no junk for an item, and never throws', () => {
    fc.assert(fc.property(fc.jsonValue(), (value) => isMalformed(parseItem(value))));
    const damaged = fc.tuple(
      fc.constantFrom(...items),
      fc.constantFrom('kind', 'ports', 'ways', 'radio', 'app', 'switches'),
      fc.jsonValue(),
    );
    fc.assert(
      fc.property(damaged, ([item, field, value]) => {
        const read = parseItem({ ...item, [field]: value });
        return isMalformed(read) || planChains([read], 'receive') !== undefined;
      }),
    );
  });
});

describe('connectors', () => {
  it('each carries something', () => {
    for (const { carries } of Object.values(CONNECTORS)) expect(carries.length).toBeGreaterThan(0);
  });
});
