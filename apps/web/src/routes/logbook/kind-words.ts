import type { EntryKind } from '@mistpeak/core/logbook/entry';

export const KIND_WORDS: Readonly<Record<EntryKind, string>> = {
  trial: 'trials of chains',
  check: 'levels',
  proof: 'proofs',
  beacon: 'beacons',
  session: 'sessions',
  mail: 'mail',
  gateway: 'gateways',
  message: 'messages',
  alarm: 'watch',
  battery: 'battery',
  change: 'changes',
  note: 'notes',
};
