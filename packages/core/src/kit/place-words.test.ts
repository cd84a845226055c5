import { isMalformed } from '../bits/malformed.js';
import { fromLibrary, LIBRARY_KINDS } from './library.js';
import { parseItem } from './kit-file.js';
import { inFormWords } from './place-words.js';

/** Every place of a value, as the steps that lead there. */
function placesOf(value: unknown, steps: readonly string[] = []): (readonly string[])[] {
  if (typeof value !== 'object' || value === null) return [steps];
  return [steps, ...Object.entries(value).flatMap(([name, one]) => placesOf(one, [...steps, name]))];
}

function withWrong(value: unknown, [step, ...rest]: readonly string[]): unknown {
  if (step === undefined) return Symbol('wrong');
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...(value as object) }) as Record<
    string,
    unknown
  >;
  copy[step] = withWrong(copy[step], rest);
  return copy;
}

describe('a refusal in the words of a form', () => {
  it.each([
    ['item.drawMilliamps must be a number', 'the draw in mA must be a number'],
    ['item.ports[1].usb must be one of host', 'the ports, number 2, the role at USB must be one of host'],
    ['item.switches.txDelay must be text', 'the switches, “txDelay” must be text'],
    ['item must be an object', 'the item must be an object'],
    ['this is not JSON', 'this is not JSON'],
  ])('%s', (refusal, words) => {
    expect(inFormWords(refusal)).toBe(words);
  });

  it('names no field of any kind in the library', () => {
    let refused = 0;
    for (const item of LIBRARY_KINDS.map((kind) => fromLibrary(kind)))
      for (const steps of placesOf({ ...item, switches: {} })) {
        const read = parseItem(withWrong(item, steps));
        if (!isMalformed(read)) continue;
        refused++;
        expect(inFormWords(read.malformed).replace(/“[^”]*”/g, '')).not.toMatch(
          /^item|[a-z][A-Z][a-z]+ must/,
        );
      }
    expect(refused).toBeGreaterThan(500);
  });
});
