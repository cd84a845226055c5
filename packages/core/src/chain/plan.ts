import type { Item } from '../kit/item.js';
import { LIBRARY_KINDS, fromLibrary } from '../kit/library.js';
import type { Purpose } from '../proof/ladder.js';
import { chainState, findingsOf, hostOf, radioOf, type Chain, type Joint } from './chain.js';
import { JointBook } from './joint-book.js';
import { DEMANDS } from './purpose.js';
import { costOfRecord, isProved, type Trial } from './record.js';
import { searchChains } from './search.js';

/** A chain that does not work as it is, and what would mend it: each list was tried by the same search. */
export interface Almost {
  readonly chain: Chain;
  readonly mends: readonly (readonly Item[])[];
}

/**
 * What can be built from a kit for a purpose. holding: all rules hold. lastResort: a loudspeaker at a microphone, which
 * works and which nobody wants while there is a cable. shopping: the fewest parts, where nothing else helps; first: what
 * everything else depends on and is not there at all.
 */
export interface Plan {
  readonly holding: readonly Chain[];
  readonly switches: readonly Chain[];
  readonly lastResort: readonly Chain[];
  readonly broken: readonly Almost[];
  readonly shopping: readonly (readonly Item[])[];
  readonly first?: 'radio' | 'host';
}

const MOST_HOLDING = 8;
const MOST_SWITCHES = 6;
/** Of one radio and one host: the best way and the runner-up. */
const MOST_OF_SAME_ENDS = 2;
const MOST_BROKEN = 6;
const MOST_MENDS = 3;
/** A chain from nothing at all needs no more than these: radio, cable, interface, adapter, host, program, host, app. */
const MOST_BOUGHT = 8;

/** Everything that could be got: one of each kind. */
const SPARE: readonly Item[] = LIBRARY_KINDS.map((kind) => fromLibrary(kind, `library:${kind}`)).filter(
  ({ kind, isUnproven }) => kind !== 'antenna' && !isUnproven,
);

/**
 * The answer to “what can I build?”: chains that hold in their order, those a switch away, those that break and where.
 * away: owned and not at hand, fetched sooner than anything is bought.
 */
export function planChains(
  owned: readonly Item[],
  purpose: Purpose,
  trials: readonly Trial[] = [],
  away: readonly Item[] = [],
): Plan {
  const kit = withoutEquals(owned, trials);
  const joints = new JointBook(DEMANDS[purpose]);
  const all = searchChains(kit, purpose, { breaks: 1, missing: 0 }, [], joints);
  const whole = all
    .filter((chain) => chainState(chain) !== 'breaks')
    .map((chain) => ({ ...chain, cost: chain.cost + costOfRecord(chain, trials) }))
    // What was proved comes before what was only reckoned, however short that is.
    .sort((a, b) => Number(isProved(b, trials)) - Number(isProved(a, trials)) || a.cost - b.cost);
  const ordered = distinctChains(whole.filter((chain) => !isThroughTheAir(chain)));
  const breaking = all.filter((chain) => chainState(chain) === 'breaks');
  const served = new Set(ordered.map(endsOf));
  const first = (['radio', 'host'] as const).find((kind) => !kit.some((item) => item.kind === kind));
  const spare = spareBesides(away);
  return {
    holding: ordered.filter((chain) => chainState(chain) === 'holds').slice(0, MOST_HOLDING),
    switches: ordered.filter((chain) => chainState(chain) === 'switches').slice(0, MOST_SWITCHES),
    lastResort: whole.filter(isThroughTheAir).slice(0, 1),
    broken: first ? [] : brokenChains({ kit, purpose, spare, joints }, breaking, served),
    shopping: whole.length === 0 ? shoppingLists(kit, purpose, spare) : [],
    ...(first ? { first } : {}),
  };
}

/** What an item can do, whatever it is called. */
const abilitiesOf = ({ id: _id, name: _name, about: _about, isHere: _isHere, ...abilities }: Item): string =>
  JSON.stringify(abilities);

/** Of several that can do just the same, the first stands for all, unless the own record knows more of another. */
function withoutEquals(kit: readonly Item[], trials: readonly Trial[]): readonly Item[] {
  const tried = new Set(trials.flatMap(({ items }) => items.map(({ id }) => id)));
  const seen = new Set<string>();
  return kit.filter((item) => {
    const key = `${item.isHere} ${abilitiesOf(item)}`;
    if (tried.has(item.id)) return true;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** What is owned elsewhere stands for its like. */
function spareBesides(away: readonly Item[]): readonly Item[] {
  const owned = new Set(away.map(abilitiesOf));
  return [...away, ...SPARE.filter((item) => !owned.has(abilitiesOf(item)))];
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

/** One question to the planner. */
interface Asked {
  readonly kit: readonly Item[];
  readonly purpose: Purpose;
  readonly spare: readonly Item[];
  readonly joints: JointBook;
}

/** Chains with one joint that breaks, and with one part missing, for ends that nothing joins yet. */
function brokenChains(asked: Asked, all: readonly Chain[], served: ReadonlySet<string>): Almost[] {
  const isNew = (chain: Chain): boolean => !served.has(endsOf(chain)) && !isThroughTheAir(chain);
  const breaking = all.filter(isNew);
  const lacking = lackingChains(asked, 1).filter(isNew);
  const byEnds = new Map([...cheapestByEnds(lacking), ...cheapestByEnds(breaking)]);
  const shown = [...byEnds.values()].sort((a, b) => effort(a) - effort(b)).slice(0, MOST_BROKEN);
  const isMended = new Set(lacking.map(endsOf));
  // Two parts are looked for only where one does not do.
  const lackingTwo = shown.every((chain) => isMended.has(endsOf(chain))) ? [] : lackingChains(asked, 2);
  return shown.map((chain) => ({
    chain: markMissing(chain),
    mends: mendsOf(chain, isMended.has(endsOf(chain)) ? lacking : lackingTwo),
  }));
}

function lackingChains({ kit, purpose, spare, joints }: Asked, missing: number): readonly Chain[] {
  return searchChains(kit, purpose, { breaks: 0, missing }, between(kit, spare), joints);
}

/** How near a chain is, whatever it is that breaks: fewer joints and fewer switches first. */
const effort = (chain: Chain): number =>
  chain.joints.length + findingsOf(chain).filter(({ level }) => level === 'switch').length / 2;

/** What one would get to mend a chain: no second radio, host or app of a kind that is there. */
function between(kit: readonly Item[], spare: readonly Item[]): readonly Item[] {
  const isOwned = (kind: Item['kind']): boolean => kit.some((item) => item.kind === kind);
  return spare.filter(
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

/** What would join the same ends, cheapest first. */
function mendsOf(chain: Chain, lacking: readonly Chain[]): (readonly Item[])[] {
  const lists = lacking.filter((one) => endsOf(one) === endsOf(chain)).map(missingOf);
  return distinctLists(lists).slice(0, MOST_MENDS);
}

const missingOf = ({ stones }: Chain): readonly Item[] =>
  stones.filter(({ isMissing }) => isMissing).map(({ item }) => item);

function distinctLists(lists: readonly (readonly Item[])[]): (readonly Item[])[] {
  const nameOf = (list: readonly Item[]): string => [...list.map(({ id }) => id)].sort().join(' ');
  return [...new Map([...lists].reverse().map((list) => [nameOf(list), list])).values()].reverse();
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
      };
      return { ...one, findings: [...one.findings, finding] };
    }),
  };
}

/**
 * The shortest lists of what to get, where nothing that is owned comes to the purpose: first those that keep radio, host
 * and app and mend what is between them, then those that keep less.
 */
function shoppingLists(kit: readonly Item[], purpose: Purpose, spare: readonly Item[]): (readonly Item[])[] {
  const kept: readonly (readonly Item['kind'][])[] = [
    ['radio', 'host', 'app'],
    ['radio', 'host'],
    ['radio'],
    [],
  ];
  const lists: (readonly Item[])[] = [];
  for (const kinds of kept) {
    if (lists.length >= MOST_MENDS) break;
    lists.push(
      ...fewestParts(
        kit,
        purpose,
        spare.filter((item) => isBetween(item) || !kinds.includes(item.kind)),
      ),
    );
  }
  return distinctLists(lists).slice(0, MOST_MENDS);
}

/** A program that is a modem stands between, as an interface does. */
const isBetween = ({ app }: Item): boolean => app?.offers !== undefined;

/** One part more at a time, until it comes to the purpose. */
function fewestParts(kit: readonly Item[], purpose: Purpose, spare: readonly Item[]): (readonly Item[])[] {
  for (let missing = 1; missing <= MOST_BOUGHT; missing++) {
    const chains = searchChains(kit, purpose, { breaks: 0, missing }, spare).filter(
      (chain) => !isThroughTheAir(chain),
    );
    if (chains.length > 0) return chains.map(missingOf);
  }
  return [];
}
