import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { formatLocator, parseLocator } from '@mistpeak/core/geo/locator';
import { parseArgs } from 'node:util';
import { wholeNumber, WrongUsage, type Verb } from './verb.js';

export const gridVerb: Verb = {
  name: 'grid',
  usage: 'grid LAT LON [--length 6] | grid LOCATOR',
  about: 'decimal degrees → locator, or a locator → the LAT LON of its centre',
  run(args) {
    const { numbers, length } = readGridArguments(args);
    const [first, second] = numbers;
    if (first === undefined || numbers.length > 2) throw new WrongUsage('grid needs LAT LON or a locator');
    const result = second === undefined ? centre(first) : locator(first, second, length);
    if (typeof result === 'string') {
      console.log(result);
      return 0;
    }
    console.error(result.malformed);
    return 1;
  },
};

/** A southern latitude begins with a hyphen and would be taken for an option. */
function readGridArguments(args: string[]): { numbers: string[]; length: number } {
  const isNumber = (text: string): boolean => /^-?\d/.test(text);
  const at = args.indexOf('--length');
  const rest = at < 0 ? args : [...args.slice(0, at), ...args.slice(at + 2)];
  const length = at < 0 ? 6 : wholeNumber(args[at + 1] ?? '', 2, 10, '--length');
  try {
    parseArgs({ args: rest.filter((text) => !isNumber(text)), options: {}, allowPositionals: true });
  } catch (error) {
    throw new WrongUsage((error as Error).message);
  }
  return { numbers: rest, length };
}

function centre(text: string): string | Malformed {
  const position = parseLocator(text);
  return isMalformed(position)
    ? position
    : `${position.latitudeDeg.toFixed(6)} ${position.longitudeDeg.toFixed(6)}`;
}

function locator(latitude: string, longitude: string, length: number): string | Malformed {
  const position = { latitudeDeg: Number(latitude), longitudeDeg: Number(longitude) };
  if (Number.isNaN(position.latitudeDeg + position.longitudeDeg))
    throw new WrongUsage('LAT and LON are numbers');
  return formatLocator(position, length);
}
