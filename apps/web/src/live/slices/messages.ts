import type { MessagesEvents } from '@mistpeak/contract/live/messages';
import type { MessagesView } from '@mistpeak/contract/messages';
import { USUAL_RULES } from '@mistpeak/core/messages/rules';
import { SILENT } from '@mistpeak/core/messages/auto-answer';
import { replaceById, type Slice } from './slice';

export interface MessagesState {
  readonly messages: MessagesView;
}

export const messages: Slice<MessagesState, keyof MessagesEvents> = {
  empty: {
    messages: {
      outgoing: [],
      received: [],
      settings: {
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
      },
      readUpTo: {},
      correspondents: [],
    },
  },
  ofSnapshot: ({ messages: view }) => ({ messages: view }),
  on: {
    'message-out': ({ messages: view }, message) => ({
      messages: { ...view, outgoing: replaceById(view.outgoing, message) },
    }),
    'message-in': ({ messages: view }, message) => ({
      messages: { ...view, received: replaceById(view.received, message) },
    }),
    'message-settings': ({ messages: view }, settings) => ({ messages: { ...view, settings } }),
    'message-read': ({ messages: view }, { conversation, atMs }) => ({
      messages: { ...view, readUpTo: { ...view.readUpTo, [conversation]: atMs } },
    }),
    correspondents: ({ messages: view }, correspondents) => ({ messages: { ...view, correspondents } }),
  },
};
