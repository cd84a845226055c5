import fc from 'fast-check';
import type { Item } from '../kit/item.js';
import { fromLibrary, LIBRARY_KINDS, type LibraryKind } from '../kit/library.js';
import { PURPOSES, type Purpose } from '../proof/ladder.js';
import { chainState, findingsOf, hostOf, radioOf, type Chain } from './chain.js';
import { followChain } from './follow.js';
import { markMissing, planChains, type Plan } from './plan.js';

const itemsOf = (kinds: readonly LibraryKind[]): Item[] => kinds.map((kind) => fromLibrary(kind));
const wholeOf = ({ holding, switches, lastResort }: Plan): Chain[] => [
  ...holding,
  ...switches,
  ...lastResort,
];
const namesOf = (lists: readonly (readonly Item[])[]): string[] =>
  lists.map((list) => list.map(({ name }) => name).join(' + '));

describe('what would mend a chain', () => {
  const mends = (kinds: LibraryKind[], purpose: Purpose): string[] =>
    planChains(itemsOf(kinds), purpose).broken.flatMap((almost) => namesOf(almost.mends));

  it('a bridge, for a classic serial TNC and a phone that has LE only', () => {
    expect(mends(['tnc-key-handheld', 'le-phone', 'phone-map-le'], 'messages')).toContain(
      'Bluetooth-serial bridge dongle',
    );
  });

  it('a cable for a wrong cable, and no other radio', () => {
    const kit: LibraryKind[] = ['fm-mobile', 'headset-cable', 'tablet', 'phone-mail'];
    const { shopping } = planChains(itemsOf(kit), 'mail');
    for (const part of shopping[0] ?? []) expect(['cable', 'interface']).toContain(part.kind);
  });

  it('a cable that keys for one that only listens', () => {
    const [first] = mends(['two-pin-handheld', 'listening-adapter', 'tablet', 'phone-mail'], 'mail');
    expect(first).toBe('Headset audio cable');
  });

  it('what is owned elsewhere is fetched before anything is bought', () => {
    const away = [fromLibrary('headset-cable', 'mine', { name: 'My old cable', isHere: false })];
    const kit = itemsOf(['two-pin-handheld', 'listening-adapter', 'tablet', 'phone-mail']);
    const plan = planChains(kit, 'mail', [], away);
    expect(namesOf(plan.broken[0]?.mends ?? [])).toEqual(expect.arrayContaining(['My old cable']));
    expect(JSON.stringify(plan)).not.toContain('library:headset-cable');
  });

  it('with nothing to begin with it says what comes first, and nothing breaks', () => {
    const { first, broken, shopping } = planChains([], 'mail');
    expect([first, broken]).toEqual(['radio', []]);
    expect(shopping[0]).toHaveLength(3);
    expect(planChains(itemsOf(['fm-mobile', 'mistpeak']), 'beacon').first).toBe('host');
    expect(planChains(itemsOf(['fm-mobile', 'laptop']), 'beacon').first).toBeUndefined();
  });

  it('an HF set for HF, a handheld or mobile for VHF', () => {
    for (const list of planChains([], 'mail').shopping)
      for (const part of list) expect(part.radio?.bands ?? ['VHF FM']).toContain('VHF FM');
  });
});

describe('advice, whatever the kit', () => {
  const anyKit = fc.subarray([...LIBRARY_KINDS], { minLength: 0, maxLength: 9 });
  const anyPurpose = fc.constantFrom(...(Object.keys(PURPOSES) as Purpose[]));
  const sameEnds = (a: Chain, b: Chain): boolean =>
    radioOf(a).id === radioOf(b).id && hostOf(a)?.id === hostOf(b)?.id;

  it('is followed and the chain does not break any more; nothing is advised that is there', () => {
    fc.assert(
      fc.property(anyKit, anyPurpose, (kinds, purpose) => {
        const kit = itemsOf(kinds);
        const plan = planChains(kit, purpose);
        const kindsOf = (list: readonly Item[]): string[] => list.map(({ id }) => id.replace('library:', ''));
        for (const { chain, mends } of plan.broken)
          for (const list of mends) {
            const after = wholeOf(planChains([...kit, ...list], purpose));
            expect(after.some((one) => sameEnds(one, chain))).toBe(true);
          }
        for (const list of plan.shopping) {
          expect(wholeOf(planChains([...kit, ...list], purpose)).length).toBeGreaterThan(0);
          for (const kind of kindsOf(list)) expect(kinds).not.toContain(kind);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('of switches, followed, leaves none of them to be set: none contradicts another', () => {
    fc.assert(
      fc.property(anyKit, anyPurpose, (kinds, purpose) => {
        for (const chain of planChains(itemsOf(kinds), purpose).switches) {
          const sets = findingsOf(chain).flatMap(({ set }) => (set ? [set] : []));
          const items = chain.stones.map(({ item }) => ({
            ...item,
            switches: {
              ...item.switches,
              ...Object.fromEntries(
                sets.filter(({ itemId }) => itemId === item.id).map((one) => [one.switch, one.to]),
              ),
            },
          }));
          const after = followChain(items, purpose, chain.stones[0]?.left?.id) as Chain;
          expect(chainState(after)).toBe('holds');
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('a missing part', () => {
  const chain = (...missing: number[]) =>
    ({
      stones: [0, 1, 2].map((i) => ({ item: { name: `part ${i}` }, isMissing: missing.includes(i) })),
      joints: [0, 1].map(() => ({ findings: [] })),
    }) as unknown as Parameters<typeof markMissing>[0];

  it('breaks the joint before it; of the first part, the one after it', () => {
    const changed = (one: ReturnType<typeof chain>): boolean[] =>
      markMissing(one).joints.map((joint, i) => joint !== one.joints[i]);
    expect(changed(chain(0))).toEqual([true, false]);
    expect(changed(chain(1))).toEqual([true, false]);
    expect(changed(chain(2))).toEqual([false, true]);
    const whole = chain();
    expect(markMissing(whole)).toBe(whole);
  });
});
