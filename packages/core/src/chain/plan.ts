import type { Item } from '../kit/item.js';
import { LIBRARY_KINDS, fromLibrary } from '../kit/library.js';
import type { Purpose } from '../proof/ladder.js';
import { chainState, findingsOf, hostOf, radioOf, type Chain, type Joint } from './chain.js';
import { JointBook } from './joint-book.js';
import { DEMANDS } from './purpose.js';
import { costOfRecord, type Trial } from './record.js';
import { searchChains } from './search.js';

/** A chain that does not work as it is, and the parts of which one would mend it. */
export interface Almost {
  readonly chain: Chain;
  readonly parts: readonly Item[];
}

/**
 * What can be built from a kit for a purpose. lastResort: a loudspeaker at a microphone, which works and which nobody
 * wants while there is a cable. shopping: the fewest parts, where nothing else helps.
 */
export interface Plan {
  readonly working: readonly Chain[];
  readonly switches: readonly Chain[];
  readonly lastResort: readonly Chain[];
  readonly broken: readonly Almost[];
  readonly shopping: readonly (readonly Item[])[];
}

const MOST_WORKING = 8;
const MOST_SWITCHES = 6;
/** Of one radio and one host: the best way and the runner-up. */
const MOST_OF_SAME_ENDS = 2;
const MOST_BROKEN = 6;
const MOST_PARTS = 3;
/** A chain from nothing at all needs no more than these: radio, cable, interface, adapter, host, program, host, app. */
const MOST_BOUGHT = 8;

/** Everything that could be got: one of each kind. */
const SPARE: readonly Item[] = LIBRARY_KINDS.map((kind) => fromLibrary(kind, `library:${kind}`)).filter(
  ({ kind, isUnproven }) => kind !== 'antenna' && !isUnproven,
);

/** The answer to “what can I build?”: chains that work in their order, those a switch away, those that break and where. */
export function planChains(owned: readonly Item[], purpose: Purpose, trials: readonly Trial[] = []): Plan {
  const kit = withoutEquals(owned, trials);
  const joints = new JointBook(DEMANDS[purpose]);
  const all = searchChains(kit, purpose, { breaks: 1, missing: 0 }, [], joints);
  const whole = all
    .filter((chain) => chainState(chain) !== 'breaks')
    .map((chain) => ({ ...chain, cost: chain.cost + costOfRecord(chain, trials) }))
    .sort((a, b) => a.cost - b.cost);
  const ordered = distinctChains(whole.filter((chain) => !isThroughTheAir(chain)));
  const breaking = all.filter((chain) => chainState(chain) === 'breaks');
  const served = new Set(ordered.map(endsOf));
  return {
    working: ordered.filter((chain) => chainState(chain) === 'works').slice(0, MOST_WORKING),
    switches: ordered.filter((chain) => chainState(chain) === 'switches').slice(0, MOST_SWITCHES),
    lastResort: whole.filter(isThroughTheAir).slice(0, 1),
    broken: brokenChains(kit, purpose, breaking, served, joints),
    shopping: whole.length === 0 ? shoppingLists(kit, purpose) : [],
  };
}

/** Of several that can do just the same, the first stands for all, unless the own record knows more of another. */
function withoutEquals(kit: readonly Item[], trials: readonly Trial[]): readonly Item[] {
  const tried = new Set(trials.flatMap(({ items }) => items.map(({ id }) => id)));
  const seen = new Set<string>();
  return kit.filter((item) => {
    const { id, name: _name, about: _about, ...abilities } = item;
    const key = JSON.stringify(abilities);
    if (tried.has(id)) return true;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** A loudspeaker at a microphone: always there, rarely wanted, so it stands in the way of nothing. */
const isThroughTheAir = ({ stones }: Chain): boolean => stones[0]?.left?.connector === 'open-air';

/** Radio and host: what a chain joins. Whoever has one way between two things rarely asks for a second. */
const endsOf = (chain: Chain): string => `${radioOf(chain).id} ${hostOf(chain)?.id ?? ''}`;

const partsOf = (chain: Chain): string => chain.stones.map(({ item }) => item.id).join(' ');

/** The cheapest of each radio and host, and the runner-up where it goes by other parts. */
function distinctChains(chains: readonly Chain[]): Chain[] {
  const counts = new Map<string, number>();
  const seen = new Set<string>();
  return chains.filter((chain) => {
    const ends = endsOf(chain);
    const count = counts.get(ends) ?? 0;
    const parts = partsOf(chain);
    if (count >= MOST_OF_SAME_ENDS || seen.has(parts)) return false;
    seen.add(parts);
    counts.set(ends, count + 1);
    return true;
  });
}

/** Chains with one joint that breaks, and with one part missing, for ends that nothing joins yet. */
function brokenChains(
  kit: readonly Item[],
  purpose: Purpose,
  all: readonly Chain[],
  served: ReadonlySet<string>,
  joints: JointBook,
): Almost[] {
  const isNew = (chain: Chain): boolean => !served.has(endsOf(chain)) && !isThroughTheAir(chain);
  const breaking = all.filter(isNew);
  const lacking = searchChains(kit, purpose, { breaks: 0, missing: 1 }, spareFor(kit), joints).filter(isNew);
  const byEnds = new Map([...cheapestByEnds(lacking), ...cheapestByEnds(breaking)]);
  return [...byEnds.values()]
    .map((chain) => ({ chain: markMissing(chain), parts: mendingParts(chain, lacking) }))
    .sort((a, b) => effort(a.chain) - effort(b.chain))
    .slice(0, MOST_BROKEN);
}

/** How near a chain is, whatever it is that breaks: fewer joints and fewer switches first. */
const effort = (chain: Chain): number =>
  chain.joints.length + findingsOf(chain).filter(({ level }) => level === 'switch').length / 2;

/** What one would get to mend a chain: no second radio, host or app of a kind that is there. */
function spareFor(kit: readonly Item[]): readonly Item[] {
  const isOwned = (kind: Item['kind']): boolean => kit.some((item) => item.kind === kind);
  return SPARE.filter(
    ({ kind, app }) =>
      kind === 'interface' || kind === 'cable' || app?.offers !== undefined || !isOwned(kind),
  );
}

function cheapestByEnds(chains: readonly Chain[]): Map<string, Chain> {
  const byEnds = new Map<string, Chain>();
  for (const chain of chains) {
    const ends = endsOf(chain);
    if (!byEnds.has(ends)) byEnds.set(ends, chain);
  }
  return byEnds;
}

/** Which single parts would join the same ends, cheapest first. */
function mendingParts(chain: Chain, lacking: readonly Chain[]): Item[] {
  const parts = lacking
    .filter((one) => endsOf(one) === endsOf(chain))
    .flatMap(({ stones }) => stones.filter(({ isMissing }) => isMissing).map(({ item }) => item));
  return [...new Map(parts.map((part) => [part.id, part])).values()].slice(0, MOST_PARTS);
}

/** Where a part is missing, the joint before it breaks, and says so. */
export function markMissing(chain: Chain): Chain {
  const at = chain.stones.findIndex(({ isMissing }) => isMissing);
  if (at < 0) return chain;
  const { item } = chain.stones[at] as Chain['stones'][number];
  const joint = Math.max(0, at - 1);
  return {
    ...chain,
    joints: chain.joints.map((one, i): Joint => {
      if (i !== joint) return one;
      const finding = {
        rule: 'part-missing',
        level: 'breaks' as const,
        itemId: item.id,
        text: item.kind === 'cable' ? `${item.name} is missing` : `${item.kind} missing`,
        mend: `One part would mend it: ${item.name}.`,
      };
      return { ...one, findings: [...one.findings, finding] };
    }),
  };
}

/** The shortest lists of what to get, where nothing that is owned comes to the purpose; and the shortest that keeps a radio. */
function shoppingLists(kit: readonly Item[], purpose: Purpose): (readonly Item[])[] {
  const noRadios = SPARE.filter(({ kind }) => kind !== 'radio');
  const lists = fewestParts(kit, purpose, SPARE);
  const keepingTheRadio = fewestParts(kit, purpose, noRadios);
  const wanted = [...lists.slice(0, MOST_PARTS - 1), ...keepingTheRadio.slice(0, 1), ...lists];
  const distinct = new Map(wanted.map((list) => [namesOf(list), list]));
  return [...distinct.values()].slice(0, MOST_PARTS);
}

const namesOf = (list: readonly Item[]): string =>
  list
    .map(({ id }) => id)
    .sort()
    .join(' ');

/** One part more at a time, until it comes to the purpose. */
function fewestParts(kit: readonly Item[], purpose: Purpose, spare: readonly Item[]): (readonly Item[])[] {
  for (let missing = 1; missing <= MOST_BOUGHT; missing++) {
    const chains = searchChains(kit, purpose, { breaks: 0, missing }, spare).filter(
      (chain) => !isThroughTheAir(chain),
    );
    if (chains.length > 0)
      return chains.map(({ stones }) => stones.filter(({ isMissing }) => isMissing).map(({ item }) => item));
  }
  return [];
}
