import type { MailPulse, MailRunView } from '../mail-session.js';

/** No word of any message: those are asked for by whom they are for. */
export interface MailSnapshot {
  readonly mail: MailPulse;
  readonly mailRuns: readonly MailRunView[];
}

export interface MailEvents {
  mail: MailPulse;
  'mail-run': MailRunView;
}
