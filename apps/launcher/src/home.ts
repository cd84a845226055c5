import { resolve } from 'node:path';

/** The checkout. */
export const HOME = resolve(import.meta.dirname, '../../..');
