import type { Correspondent } from '@mistpeak/core/messages/correspondents';
import type { MessageSettingsView, MessagesView, OutgoingView, ReceivedView } from '../messages.js';

/** What is written and heard as messages. */
export interface MessagesSnapshot {
  readonly messages: MessagesView;
}

export interface MessagesEvents {
  'message-out': OutgoingView;
  'message-in': ReceivedView;
  'message-settings': MessageSettingsView;
  'message-read': { readonly conversation: string; readonly atMs: number };
  correspondents: readonly Correspondent[];
}
