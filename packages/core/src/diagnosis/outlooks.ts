import type { Outlook } from '../faults/faults.js';

/**
 * How tests come out with what is none of the table of faults; what is not named comes out as when nothing is wrong
 * (common practice, no source).
 */
const SILENT_PORT = { port: { silence: 0.85 }, decode: { none: 0.95 } } as const;
export const QUIET: Outlook = {
  listen: { 'only noise': 0.9 },
  ...SILENT_PORT,
  meter: { 'no signal at all': 0.8 },
};
export const NO_SPEECH: Outlook = {
  ...SILENT_PORT,
  lamp: { dark: 0.9 },
  echo: { 'it does not come back': 0.97 },
};
export const SOON: Outlook = { port: { silence: 0.4 } };
export const OTHER_RATE: Outlook = { decode: { none: 0.95 }, echo: { 'it does not come back': 0.95 } };
export const NOT_REPEATED: Outlook = { echo: { 'it does not come back': 0.7 } };
export const NOT_KEYED: Outlook = {
  lamp: { dark: 0.95 },
  second: { nothing: 0.95 },
  echo: { 'it does not come back': 0.97 },
  call: { 'no answer': 0.97 },
};
export const START_MISSING: Outlook = {
  second: { 'its start is missing': 0.85 },
  echo: { 'it does not come back': 0.9 },
};
/** The next one may get through. */
export const COLLIDED: Outlook = { echo: { 'it does not come back': 0.4 } };
export const WEAK: Outlook = {
  meter: { 'too weak': 0.6 },
  decode: { 'a few': 0.6 },
  call: { 'no answer': 0.5 },
};

/** It answers wherever one calls, and lets nobody in. */
export const CLOSES: Outlook = { call: { 'it answers and closes': 0.9 } };
