import type { MessagesEvents } from '@mistpeak/contract/live/messages';
import { MESSAGES_SHOWN, USUAL_MESSAGE_SETTINGS } from '@mistpeak/contract/message-defaults';
import type { MessagesView } from '@mistpeak/contract/messages';
import { replaceById, type Slice } from './slice';

export interface MessagesState {
  readonly messages: MessagesView;
}

export const messages: Slice<MessagesState, keyof MessagesEvents> = {
  empty: {
    messages: {
      outgoing: [],
      received: [],
      settings: USUAL_MESSAGE_SETTINGS,
      readUpTo: {},
      correspondents: [],
    },
  },
  ofSnapshot: ({ messages: view }) => ({ messages: view }),
  on: {
    'message-out': ({ messages: view }, message) => ({
      messages: { ...view, outgoing: replaceById(view.outgoing, message).slice(-MESSAGES_SHOWN) },
    }),
    'message-in': ({ messages: view }, message) => ({
      messages: { ...view, received: replaceById(view.received, message).slice(-MESSAGES_SHOWN) },
    }),
    'message-settings': ({ messages: view }, settings) => ({ messages: { ...view, settings } }),
    'message-read': ({ messages: view }, { conversation, atMs }) => ({
      messages: { ...view, readUpTo: { ...view.readUpTo, [conversation]: atMs } },
    }),
    correspondents: ({ messages: view }, correspondents) => ({ messages: { ...view, correspondents } }),
  },
};
