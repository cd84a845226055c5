import type { Item } from '../kit/item.js';
import type { Purpose } from '../proof/ladder.js';
import { chainState, findingsOf, type Chain } from './chain.js';
import { UNPROVEN_PART } from './rules.js';

/** What came of a trial. Only a test counts: what was not tried has no entry. */
export const RESULTS = [
  'works',
  'works with a trick',
  'weak audio',
  'does not key',
  'nothing decoded',
  'no answer',
] as const;
export type Result = (typeof RESULTS)[number];

/** One thing as it was when it was tried. */
export interface TriedItem {
  readonly id: string;
  readonly name: string;
  readonly kind: Item['kind'];
  readonly version?: string;
  readonly switches: Readonly<Record<string, string>>;
}

/** What was tried with what, for which purpose, and what came of it. levelDbfs: RMS of the receive check. */
export interface Trial {
  readonly id: string;
  readonly atMs: number;
  readonly purpose: Purpose;
  readonly items: readonly TriedItem[];
  readonly antenna: string;
  readonly result: Result;
  readonly trick: string;
  readonly levelDbfs?: number;
  /** Values of the setup sheet by step. */
  readonly settings: Readonly<Record<string, string>>;
  readonly note: string;
}

export const isSuccess = ({ result }: Pick<Trial, 'result'>): boolean =>
  result === 'works' || result === 'works with a trick';

/** Weights of the own record, in the planner’s measure of 10 for a joint. */
const RECORD_COSTS = { wholeWorked: -25, jointWorked: -4, wholeFailed: 60 } as const;

/** A combination: what it is made of, whatever the items are called in this kit. */
export const combinationKey = (items: readonly { readonly id: string }[]): string =>
  items.map(({ id }) => id).join(' ');

/** The newest trial of just this combination for that purpose. */
export function lastTrialOf(chain: Chain, trials: readonly Trial[]): Trial | undefined {
  const key = combinationKey(chain.stones.map(({ item }) => item));
  return trials
    .filter(({ purpose, items }) => purpose === chain.purpose && combinationKey(items) === key)
    .reduce<Trial | undefined>((kept, one) => (kept && kept.atMs > one.atMs ? kept : one), undefined);
}

/** The words for a chain: works is said only of what was tried with that result. */
export type Word = 'works' | 'should work' | 'untested' | 'failed' | 'switches' | 'breaks';

/** What may be said of a chain: of one that the rules let through, what its last trial says; without one, that it should work. */
export function wordFor(chain: Chain, trials: readonly Trial[]): Word {
  const state = chainState(chain);
  if (state !== 'holds') return state;
  const last = lastTrialOf(chain, trials);
  if (last) return isSuccess(last) ? 'works' : 'failed';
  return findingsOf(chain).some(({ rule }) => rule === UNPROVEN_PART) ? 'untested' : 'should work';
}

/** Whether all of it worked at the last trial, or each of its joints did in some. */
export function isProved(chain: Chain, trials: readonly Trial[]): boolean {
  const last = lastTrialOf(chain, trials);
  if (last) return isSuccess(last);
  const joints = provedJoints(chain, trials);
  return joints.length > 0 && joints.every((at) => at !== undefined);
}

/** When each joint of a chain was last proved in any trial that worked, ms; undefined: never. */
export function provedJoints(chain: Chain, trials: readonly Trial[]): readonly (number | undefined)[] {
  const successes = trials.filter(isSuccess);
  return chain.stones.slice(0, -1).map(({ item }, i) => {
    const next = chain.stones[i + 1]?.item.id;
    const times = successes.filter(({ items }) => hasPair(items, item.id, next)).map(({ atMs }) => atMs);
    return times.length > 0 ? Math.max(...times) : undefined;
  });
}

const hasPair = (items: readonly TriedItem[], id: string, next: string | undefined): boolean =>
  items.some((item, i) => item.id === id && items[i + 1]?.id === next);

/** What the own record adds to a chain's weight: less for what was proved, more for what failed last time. */
export function costOfRecord(chain: Chain, trials: readonly Trial[]): number {
  if (trials.length === 0) return 0;
  const last = lastTrialOf(chain, trials);
  const ofJoints =
    provedJoints(chain, trials).filter((at) => at !== undefined).length * RECORD_COSTS.jointWorked;
  if (!last) return ofJoints;
  return ofJoints + (isSuccess(last) ? RECORD_COSTS.wholeWorked : RECORD_COSTS.wholeFailed);
}

/** What differs now from that trial: parts, versions, switches, and values of the sheet. */
export interface Change {
  readonly what: string;
  readonly then: string;
  readonly now: string;
}

export function changesSince(
  trial: Trial,
  chain: Chain,
  antenna: string,
  settings: Readonly<Record<string, string>>,
): readonly Change[] {
  const items = chain.stones.map(({ item }) => item);
  const names = (list: readonly { readonly name: string }[]): string =>
    list.map(({ name }) => name).join(' – ');
  const changes: Change[] = [];
  const tell = (what: string, then: string | undefined, now: string | undefined): void => {
    if ((then ?? '') !== (now ?? '')) changes.push({ what, then: then || 'nothing', now: now || 'nothing' });
  };
  tell('parts', names(trial.items), names(items));
  tell('antenna', trial.antenna, antenna);
  for (const item of items) {
    const then = trial.items.find(({ id }) => id === item.id);
    if (!then) continue;
    tell(`${item.name}, version`, then.version, item.version);
    const ids = new Set([...Object.keys(then.switches), ...Object.keys(item.switches)]);
    const now = item.switches as Readonly<Record<string, string>>;
    for (const id of ids) tell(`${item.name}, ${id}`, then.switches[id], now[id]);
  }
  for (const step of Object.keys(trial.settings)) {
    if (settings[step] !== undefined) tell(step, trial.settings[step], settings[step]);
  }
  return changes;
}

/** The form in which an item goes into a trial. */
export function triedItem({ id, name, kind, version, switches }: Item): TriedItem {
  return {
    id,
    name,
    kind,
    ...(version ? { version } : {}),
    switches: switches,
  };
}

const TAG_LETTERS = '23456789ABCDEFGHJKMNPQRSTVWXYZ';
const TAG_LENGTH = 4;

/**
 * A short mark of a combination for comments and subjects, as “mp-7K2Q”: the same parts for the same purpose give the
 * same mark, so that a remote record shows which combination sent it. FNV-1a, 32 bits (Fowler, Noll, Vo).
 */
export function trialTag(
  purpose: Purpose,
  items: readonly { readonly name: string; readonly kind: string }[],
): string {
  const text = [purpose, ...items.map(({ kind, name }) => `${kind}:${name}`)].join('\n');
  let hash = 0x811c9dc5;
  for (const char of text) hash = Math.imul(hash ^ (char.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  let rest = hash;
  let tag = '';
  for (let i = 0; i < TAG_LENGTH; i++) {
    tag += TAG_LETTERS.charAt(rest % TAG_LETTERS.length);
    rest = Math.floor(rest / TAG_LETTERS.length);
  }
  return `mp-${tag}`;
}
