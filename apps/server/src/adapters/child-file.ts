import { join } from 'node:path';

const IS_SOURCE = import.meta.filename.endsWith('.ts');
/** The whole server in one file stands beside this folder. */
const FOLDER = import.meta.filename.endsWith('main.bundle.js')
  ? join(import.meta.dirname, 'adapters')
  : import.meta.dirname;

/** A file of this folder that another process or thread runs: from source in tests, else as built. */
export const childFile = (name: string): string => join(FOLDER, `${name}.${IS_SOURCE ? 'ts' : 'js'}`);

/** From source it needs the same loader. */
export const CHILD_ARGUMENTS: readonly string[] = IS_SOURCE
  ? ['--conditions=source', '--import', '@swc-node/register/esm-register']
  : [];
