import { join } from 'node:path';

/**
 * A file of this folder that another process or thread runs: as built, also in tests, where each would have the sources
 * translated anew. The whole server in one file stands as deep as this folder.
 */
export const childFile = (name: string): string =>
  join(import.meta.dirname, '../../dist/adapters', `${name}.js`);
