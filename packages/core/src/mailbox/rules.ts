import { callWithoutSsid } from '../callsign/callsign.js';
import type { Readers } from './letters.js';

/** Who may do what in the mailbox. */
export const ACCESSES = ['open', 'listed', 'leave only'] as const;
export type Access = (typeof ACCESSES)[number];

export interface MailboxRules {
  readonly access: Access;
  /** Calls without SSID, where only listed ones may come in. */
  readonly listed: readonly string[];
  readonly readers: Readers;
  readonly greeting: string;
  readonly information: string;
  readonly mostLetterOctets: number;
  /** All letters together. */
  readonly memoryOctets: number;
  readonly visitMinutes: number;
  readonly idleMinutes: number;
  readonly callsAnHour: number;
}

export const USUAL_RULES: MailboxRules = {
  access: 'open',
  listed: [],
  readers: 'addressee',
  greeting: '',
  information: '',
  mostLetterOctets: 4000,
  memoryOctets: 64_000,
  visitMinutes: 30,
  idleMinutes: 5,
  callsAnHour: 12,
};

/** Why this caller is not let in now, in words for him; undefined: he is. */
export function refusalAtTheDoor(
  { access, listed, callsAnHour }: MailboxRules,
  caller: string,
  callsWithinHour: number,
): string | undefined {
  if (access === 'listed' && !listed.includes(callWithoutSsid(caller)))
    return 'This mailbox is for listed stations only.';
  if (callsWithinHour >= callsAnHour)
    return `You have called ${callsWithinHour} times within the hour; please call later.`;
  return undefined;
}
