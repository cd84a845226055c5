import { USUAL_PATHS } from '../digipeating/usual-paths.js';
import { hopsIn, type PathResult } from './compare.js';
import type { Lab, Sender } from './lab.js';
import type { LevelTable } from './level-table.js';

/** Where the sender stands, as far as it decides between the schools. */
export interface Situation {
  readonly country: 'dense' | 'between' | 'empty';
  readonly isMoving: boolean;
  /** Heard by many: a well-placed station. */
  readonly isHigh: boolean;
  /** Digipeaters that read the sender on average. */
  readonly inReach: number;
  /** Share of the time that the others hold the channel at the sender's place, 0–1. */
  readonly load: number;
}

/** path: the recommended one, none where no path helps. */
export interface Advice {
  readonly path?: string;
  readonly verdict: string;
  readonly why: readonly string[];
  /** What each school would do here, and what the trial says of it. */
  readonly schools: readonly { readonly name: string; readonly path: string; readonly says: string }[];
}

/** A dearer path must bring more than so much, and more than its bounds leave open; else the cheaper one is as good. */
const WORTH = 0.03;
/** Below this no path is the answer: the first hop is. */
const HOPELESS = 0.3;
/** Digipeaters in reach from which on country is called dense, and a load from which on every copy hurts (common practice, no source). */
const DENSE_REACH = 4;
const HIGH_REACH = 3;
const HEAVY_LOAD = 0.25;

export function situationOf(lab: Lab, sender: Sender, table: LevelTable, load: number): Situation {
  const inReach = lab.stations.filter(
    ({ role }, i) =>
      (role === 'digipeater' || role === 'fill-in') &&
      sender.places.some((_, place) => table.marginDb(i + 1, 0, place) > 0),
  ).length;
  const country = inReach >= DENSE_REACH || load > HEAVY_LOAD ? 'dense' : inReach <= 1 ? 'empty' : 'between';
  const isHigh = inReach >= HIGH_REACH;
  return { country, isMoving: sender.places.length > 1, isHigh, inReach, load };
}

/** The cheapest path that does as well as the best, and why. */
export function advise(results: readonly PathResult[], situation: Situation): Advice {
  const schools = USUAL_PATHS.map(({ name, path, goodFor }) => {
    const result = results.find((one) => one.path === path);
    return { name, path, says: result ? `${goodFor}. Here: ${figures(result)}.` : `${goodFor}.` };
  });
  const best = [...results].sort((a, b) => b.withinThree.share - a.withinThree.share)[0];
  if (!best) return { verdict: 'Nothing was tried.', why: [], schools };
  const isAsGood = ({ withinThree }: PathResult): boolean =>
    withinThree.share >= best.withinThree.share - WORTH || withinThree.high >= best.withinThree.low;
  const chosen = results
    .filter(isAsGood)
    .sort((a, b) => a.channelMs - b.channelMs || hopsIn(a.path) - hopsIn(b.path))[0] as PathResult;
  if (best.withinThree.share < HOPELESS) return { ...hopeless(best, situation), schools };
  return {
    path: chosen.path,
    verdict: `${named(chosen.path)}: ${percent(chosen.withinThree.share)} reach ${goalWords(chosen)} within three tries.`,
    why: reasons(chosen, best, results, situation),
    schools,
  };
}

function hopeless(best: PathResult, { inReach }: Situation): Omit<Advice, 'schools'> {
  const first =
    inReach === 0
      ? 'No digipeater hears you here on average: the first hop is what fails, and no path mends that.'
      : 'You are repeated, but what repeats you is not passed on far enough.';
  return {
    verdict: `No path helps much here: even ${named(best.path)} reaches ${goalWords(best)} in ${percent(best.withinThree.share)} of three tries.`,
    why: [first, 'Get higher or into the open; the best places nearby are named under Reach.'],
  };
}

function reasons(
  chosen: PathResult,
  best: PathResult,
  results: readonly PathResult[],
  situation: Situation,
): string[] {
  const { firstTry, withinThree, copies, channelMs } = chosen;
  const why = [
    `At the first try ${percent(firstTry.share)} (${range(firstTry)}), within three ${percent(withinThree.share)} (${range(withinThree)}); ` +
      `each packet makes ${copies.toFixed(1)} transmissions and holds the channel for ${seconds(channelMs)} in all.`,
  ];
  if (best !== chosen)
    why.push(
      `${named(best.path)} reaches ${percent(best.withinThree.share)}, which ${chosen.withinThree.trials} trials cannot tell apart or is hardly more, at ${times(best.channelMs / channelMs)} the channel time; at the first try ${percent(best.firstTry.share)}.`,
    );
  const dearer = results
    .filter(({ channelMs: other }) => other > channelMs)
    .sort((a, b) => b.channelMs - a.channelMs)[0];
  if (dearer && dearer !== best)
    why.push(
      `${named(dearer.path)} takes ${times(dearer.channelMs / channelMs)} the channel time and reaches ${percent(dearer.withinThree.share)}.`,
    );
  return [...why, placeReason(situation)];
}

function placeReason({ country, isMoving, isHigh, inReach, load }: Situation): string {
  const reach = `${inReach === 0 ? 'No digipeater' : inReach === 1 ? 'One digipeater' : `${inReach} digipeaters`} would read you on average, and others hold the channel ${percent(load)} of the time`;
  const school = {
    dense: 'dense country, where the schools ask for the first hop only, or none',
    between: isHigh
      ? 'a well-placed station, for which the schools ask for one wide hop, two at most'
      : isMoving
        ? 'neither dense nor empty: movers use a fill-in and one wide hop'
        : 'neither dense nor empty: a fixed station needs one wide hop at most',
    empty: 'empty country, where the schools allow more hops',
  }[country];
  return `${reach}: ${school}.`;
}

const figures = ({ withinThree, copies }: PathResult): string =>
  `${percent(withinThree.share)} within three tries, ${copies.toFixed(1)} transmissions a packet`;

const goalWords = ({ goal }: PathResult): string => (goal === 'gateway' ? 'a gateway' : 'a digipeater');
export const named = (path: string): string => (path === '' ? 'No path' : path);
const percent = (share: number): string => `${Math.round(share * 100)} %`;
const range = ({ low, high }: PathResult['firstTry']): string =>
  `${Math.round(low * 100)} to ${Math.round(high * 100)} %`;
const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;
const times = (factor: number): string => `${factor.toFixed(1)} times`;
