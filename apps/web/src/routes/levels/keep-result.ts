import type { NewLevelResult } from '@mistpeak/contract/levels';
import { command } from '../../api';

/** Kept at the server, where it becomes evidence and goes into the record. Rejects with Refused. */
export const keepResult = (result: NewLevelResult): Promise<unknown> =>
  command('POST', '/levels/results', {
    ...result,
    words: result.words.slice(0, 600),
    number: result.number.slice(0, 300),
    turn: result.turn.slice(0, 800),
    ...(result.levelDbfs !== undefined && { levelDbfs: Math.round(10 * result.levelDbfs) / 10 }),
  });
