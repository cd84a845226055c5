import { parseArgs, type ParseArgsConfig } from 'node:util';

/** One word of the tool. run returns the exit code. */
export interface Verb {
  readonly name: string;
  readonly usage: string;
  readonly about: string;
  run(args: string[]): Promise<number> | number;
}

/** Wrong words on the command line: exit code 2. */
export class WrongUsage extends Error {}

type Options = NonNullable<ParseArgsConfig['options']>;

export function readArguments<Given extends Options>(
  args: string[],
  options: Given,
): ReturnType<typeof parseArgs<{ options: Given; allowPositionals: true }>> {
  try {
    return parseArgs({ args: withNegatives(args, options), options, allowPositionals: true });
  } catch (error) {
    throw new WrongUsage((error as Error).message);
  }
}

/** A value may begin with a minus, as in `--level -6`, which the parser takes for another option. */
function withNegatives(args: readonly string[], options: Options): string[] {
  const isValue = (i: number): boolean => {
    const name = /^--([a-z]+)$/.exec(args[i - 1] ?? '')?.[1];
    return name !== undefined && options[name]?.type === 'string' && /^-[\d.]/.test(args[i] ?? '');
  };
  return args.flatMap((arg, i) => {
    if (isValue(i)) return [];
    return isValue(i + 1) ? [`${arg}=${args[i + 1]}`] : [arg];
  });
}

export function wholeNumber(text: string, from: number, to: number, name: string): number {
  const value = Number(text);
  if (!(Number.isInteger(value) && value >= from && value <= to))
    throw new WrongUsage(`${name} takes a number from ${from} to ${to}`);
  return value;
}
