import {
  facilityOf,
  SAME_MHZ,
  toldFacts,
  type Facility,
  type FacilityFacts,
  type Source,
} from './facility.js';

/** A fact of which two sources tell differently. */
export interface Conflict {
  readonly call: string;
  readonly frequencyMHz: number;
  readonly fact: keyof FacilityFacts;
  readonly known: unknown;
  readonly told: unknown;
  /** Of what is known; absent: nobody remembers. */
  readonly knownBy: Source | undefined;
}

export interface Merged {
  readonly directory: readonly Facility[];
  readonly added: number;
  /** Already there, with facts that it lacked or that were renewed. */
  readonly completed: number;
  /** What was known stays until the operator decides. */
  readonly conflicts: readonly Conflict[];
}

const LONGEST_NOTES = 200;
/** How near two positions are for one of them to be the other written otherwise: a locator of six signs is 4 km wide. */
const SAME_DEG = 0.05;

/**
 * Takes what a source tells into the directory. The same: call and frequency (within 2.5 kHz). What was not known is added, what
 * is told alike renews its source; where they differ the known stays and the conflict is told.
 */
export function merge(
  directory: readonly Facility[],
  told: readonly FacilityFacts[],
  source: Source,
): Merged {
  const merged = [...directory];
  const places = new Map<string, number[]>();
  merged.forEach(({ call }, i) => places.set(call, [...(places.get(call) ?? []), i]));
  const conflicts: Conflict[] = [];
  let added = 0;
  const completed = new Set<number>();
  for (const facts of told) {
    const at = (places.get(facts.call) ?? []).find(
      (i) => Math.abs((merged[i] as Facility).frequencyMHz - facts.frequencyMHz) < SAME_MHZ,
    );
    if (at === undefined) {
      places.set(facts.call, [...(places.get(facts.call) ?? []), merged.length]);
      merged.push(facilityOf(facts, source));
      added++;
      continue;
    }
    const known = merged[at] as Facility;
    const next: Record<string, unknown> = { ...known };
    const sources = { ...known.sources };
    for (const fact of toldFacts(facts)) {
      if (fact === 'call' || fact === 'frequencyMHz') continue;
      const isKnown = known[fact] !== undefined && known[fact] !== '';
      if (isKnown && fact === 'notes' && !isAlike(known.notes, facts.notes)) {
        next.notes = joined(known.notes, facts.notes);
        continue;
      }
      if (isKnown && !isAlike(known[fact], facts[fact])) {
        const { call, frequencyMHz } = known;
        conflicts.push({
          ...{ call, frequencyMHz, fact },
          ...{ known: known[fact], told: facts[fact], knownBy: sources[fact] },
        });
        continue;
      }
      if (!isKnown) next[fact] = facts[fact];
      sources[fact] = source;
      completed.add(at);
    }
    merged[at] = { ...next, sources } as unknown as Facility;
  }
  return { directory: merged, added, completed: completed.size, conflicts };
}

/** Notes of two sources contradict each other in nothing: both stand there, as far as there is room. */
function joined(known: string, told: string): string {
  if (known.includes(told)) return known;
  const both = `${known}; ${told}`;
  return both.length <= LONGEST_NOTES ? both : known;
}

function isAlike(one: unknown, other: unknown): boolean {
  if (typeof one === 'object' && typeof other === 'object') {
    const [a, b] = [one, other] as [FacilityFacts['position'], FacilityFacts['position']];
    return (
      Math.abs((a?.latitudeDeg ?? 0) - (b?.latitudeDeg ?? 0)) < SAME_DEG &&
      Math.abs((a?.longitudeDeg ?? 0) - (b?.longitudeDeg ?? 0)) < SAME_DEG
    );
  }
  if (typeof one === 'string' && typeof other === 'string')
    return one.trim().toLowerCase() === other.trim().toLowerCase();
  return one === other;
}

/** The operator has decided: what was told takes the place of what was known. */
export function decide(directory: readonly Facility[], conflict: Conflict, source: Source): Facility[] {
  return directory.map((one) =>
    one.call === conflict.call && Math.abs(one.frequencyMHz - conflict.frequencyMHz) < SAME_MHZ
      ? { ...one, [conflict.fact]: conflict.told, sources: { ...one.sources, [conflict.fact]: source } }
      : one,
  );
}
