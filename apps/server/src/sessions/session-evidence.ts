import type { NewEvidence } from '../proof/proof.service.js';
import type { SessionRun } from './session-run.js';

/** UA to our call. */
export function answered({ spec, openedAtMs }: SessionRun, atMs: number): NewEvidence {
  const { linkId, peer } = spec;
  const seconds = Math.round((atMs - openedAtMs) / 1000);
  return {
    linkId,
    rung: 'far station answered',
    atMs,
    kind: 'frame',
    words: `${peer} answered our call after ${seconds} s`,
  };
}

export function passedBothWays({ spec }: SessionRun, atMs: number): NewEvidence {
  const { linkId, peer } = spec;
  const words = `text of ${peer} read, and ours acknowledged`;
  return { linkId, rung: 'data both ways', atMs, kind: 'frame', words };
}
