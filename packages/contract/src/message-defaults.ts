import { SILENT } from '@mistpeak/core/messages/auto-answer';
import { USUAL_RULES } from '@mistpeak/core/messages/rules';
import type { MessageSettings } from './messages.js';

/** So many of each are shown at once. Apart from the classes, whose decorators a page need not load. */
export const MESSAGES_SHOWN = 300;

/** Until the operator chooses otherwise. */
export const USUAL_MESSAGE_SETTINGS: MessageSettings & { readonly version: number } = {
  firstGapS: USUAL_RULES.firstGapMs / 1000,
  longestGapS: USUAL_RULES.longestGapMs / 1000,
  tries: USUAL_RULES.tries,
  bulletinTries: USUAL_RULES.bulletinTries,
  offersReplyAcks: USUAL_RULES.offersReplyAcks,
  groups: [],
  nets: [],
  services: [],
  answers: SILENT,
  version: 0,
};
