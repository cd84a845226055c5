import type { PathHop } from '../ax25/frame.js';
import { formatWideAlias, isStationEntry, readWideAlias } from '../digipeating/alias.js';

/** By far the commonest way to ask for two hops (common practice, no source): what is left of it looks like WIDE2-2. */
const USUAL = ['WIDE1-1', 'WIDE2-1'];

/**
 * The path that the source most likely asked for, of a copy that was repeated: who signed before an alias took one off it;
 * who signed in the place of one was a fill-in for WIDE1-1, if it came first, else was asked by name.
 */
export function askedPath(path: readonly PathHop[]): string {
  const asked: string[] = [];
  let signed: string[] = [];
  const settle = (): void => {
    for (const call of signed) asked.push(asked.length === 0 ? 'WIDE1-1' : call);
    signed = [];
  };
  for (const { call, used } of path) {
    const alias = readWideAlias(call);
    if (used && isStationEntry(call)) signed.push(call);
    else if (alias && signed.length > 0 && alias.left + signed.length <= alias.n) {
      const whole = alias.left + signed.length;
      asked.push(
        ...(whole === 2 && asked.length === 0 ? USUAL : [formatWideAlias({ n: alias.n, left: whole })]),
      );
      signed = [];
    } else {
      settle();
      // Used up without a trace: it asked for one hop at least.
      asked.push(used && alias ? formatWideAlias({ n: alias.n, left: alias.left + 1 }) : call);
    }
  }
  settle();
  return asked.join(',');
}

/** Which alias each of the repeaters most likely served: `WIDE1`, `WIDE2` …, or `by name` where the path does not tell. */
export function aliasesServed(path: readonly PathHop[]): readonly { call: string; alias: string }[] {
  const asked = askedPath(path)
    .split(',')
    .flatMap((entry) => {
      const alias = readWideAlias(entry);
      return alias ? Array<string>(alias.left).fill(`WIDE${alias.n}`) : ['by name'];
    });
  return path
    .filter(({ call, used }) => used && isStationEntry(call))
    .map(({ call }, i) => ({ call, alias: asked[i] ?? 'by name' }));
}
