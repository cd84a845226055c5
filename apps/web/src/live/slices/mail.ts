import type { MailEvents } from '@mistpeak/contract/live/mail';
import type { MailPulse, MailRunView } from '@mistpeak/contract/mail-session';
import { replaceById, type Slice } from './slice';

export interface MailState {
  readonly mail: MailPulse;
  /** Oldest first. */
  readonly mailRuns: readonly MailRunView[];
}

const SHOWN_RUNS = 40;

export const mail: Slice<MailState, keyof MailEvents> = {
  empty: { mail: { unread: 0, waiting: 0, revision: 0 }, mailRuns: [] },
  ofSnapshot: ({ mail: pulse, mailRuns }) => ({ mail: pulse, mailRuns }),
  on: {
    mail: (_, pulse) => ({ mail: pulse }),
    'mail-run': ({ mailRuns }, run) => ({ mailRuns: replaceById(mailRuns, run).slice(-SHOWN_RUNS) }),
  },
};
