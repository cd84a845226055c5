import { success, type Success } from './compare.js';

/** What was heard with the knob at one position, as the operator names it: “9 o’clock”, “3”. */
export interface SweepStep {
  readonly position: string;
  readonly carriers: number;
  readonly read: number;
  readonly levelDbfs?: number;
}

export interface SweepVerdict {
  readonly steps: readonly (SweepStep & { readonly success: Success })[];
  /** The middle of the good range; undefined: none was good, or too little was heard. */
  readonly best?: string;
  readonly words: string;
}

/** A position is good when it may well decode nearly as much as the best one: a packet more or less is chance. */
const NEARLY = 0.05;
const LEAST_CARRIERS = 5;
const LEAST_SHARE = 0.3;

/** Positions in the order of the knob. */
export function judgeSweep(steps: readonly SweepStep[]): SweepVerdict {
  const judged = steps.map((step) => ({ ...step, success: success(step.read, step.carriers) }));
  const enough = judged.filter(({ carriers }) => carriers >= LEAST_CARRIERS);
  if (enough.length < 2)
    return {
      steps: judged,
      words: `Too little was heard: at least two positions with ${LEAST_CARRIERS} packets each are needed.`,
    };
  const top = Math.max(...enough.map(({ success: { share } }) => share));
  if (top < LEAST_SHARE)
    return { steps: judged, words: 'No position decodes well: it is not the level. Do the receive check.' };
  const isGood = ({ carriers, success: { to } }: (typeof judged)[number]): boolean =>
    carriers >= LEAST_CARRIERS && to >= top - NEARLY;
  const range = longestRun(judged, isGood);
  const middle = range[Math.floor((range.length - 1) / 2)];
  const [first, last] = [range[0], range.at(-1)];
  if (!middle || !first || !last) return { steps: judged, words: 'No position stands out.' };
  const edge = first === last ? 'only this one is good' : `good from ${first.position} to ${last.position}`;
  return {
    steps: judged,
    best: middle.position,
    words: `Leave the knob at ${middle.position}: ${edge}.`,
  };
}

function longestRun<Item>(items: readonly Item[], fits: (item: Item) => boolean): readonly Item[] {
  let best: Item[] = [];
  let run: Item[] = [];
  for (const item of items) {
    run = fits(item) ? [...run, item] : [];
    if (run.length > best.length) best = run;
  }
  return best;
}
