import { isMalformed, malformed, type Malformed } from '@mistpeak/core/bits/malformed';

/**
 * A modem program: what is run, and the configuration file that is put in place before and put back after. card: the sound
 * card that it takes, by the name that the link has.
 */
export interface ProgramSettings {
  readonly name: string;
  readonly command: readonly string[];
  readonly card?: string;
  readonly configuration?: { readonly path: string; readonly text: string };
}

/** The text of the file: a JSON list. What is wrong with it is told by the name of the program. */
export function readPrograms(text: string): readonly ProgramSettings[] | Malformed {
  let list: unknown;
  try {
    list = JSON.parse(text);
  } catch (error) {
    return malformed(`the file is no JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
  if (!Array.isArray(list)) return malformed('the file is a list of programs');
  const programs = list.map(readProgram);
  const wrong = programs.find((one) => isMalformed(one));
  if (wrong) return wrong;
  const names = (programs as ProgramSettings[]).map(({ name }) => name);
  const twice = names.find((name, i) => names.indexOf(name) !== i);
  return twice === undefined
    ? (programs as ProgramSettings[])
    : malformed(`two programs are called “${twice}”`);
}

function readProgram(given: unknown): ProgramSettings | Malformed {
  const { name, command, card, configuration } = (given ?? {}) as Record<string, unknown>;
  if (typeof name !== 'string' || name.trim() === '') return malformed('a program has no name');
  const isCommand =
    Array.isArray(command) && command.length > 0 && command.every((word) => typeof word === 'string');
  if (!isCommand) return malformed(`“${name}” has no command: a list of words, the program first`);
  if (card !== undefined && typeof card !== 'string') return malformed(`“${name}”: card is a name`);
  const { path, text } = (configuration ?? {}) as Record<string, unknown>;
  if (
    configuration !== undefined &&
    (typeof path !== 'string' || !path.startsWith('/') || typeof text !== 'string')
  )
    return malformed(`“${name}”: a configuration has a path from / and a text`);
  return {
    name,
    command: command,
    ...(typeof card === 'string' && { card }),
    ...(typeof path === 'string' && typeof text === 'string' && { configuration: { path, text } }),
  };
}
