import fc from 'fast-check';

/** The same examples at every run, so that a failure is the change's own; MISTPEAK_SEED explores others. */
fc.configureGlobal({ seed: Number(process.env.MISTPEAK_SEED ?? 1987) });
