import type { ChainFacts } from '../causes.js';

/** A link on which all is well and packets come, for tests that make one thing otherwise. */
export const FACTS: ChainFacts = {
  linkKind: 'network',
  sinceOpenMs: 600_000,
  decoded: 30,
  broken: 0,
  brokenPerMinute: 0,
  silentMs: 5000,
  usualGapMs: 8000,
  txDelayMs: 300,
  hopsAsked: 2,
  heardDigipeaters: ['QH1ANR'],
  channelUse: 0.1,
};
