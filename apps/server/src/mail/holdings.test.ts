import { pack } from '@mistpeak/core/lzhuf/container';
import { writeLetter } from '@mistpeak/core/mail/letter';
import { packMessage } from '@mistpeak/core/mail/message';
import { systemClock } from '../adapters/system-clock.js';
import { MailHoldings } from './holdings.service.js';
import type { MailStore } from './mail-store.js';

const octets = packMessage(
  writeLetter({
    mid: 'A',
    dateMs: 0,
    from: 'QH4MPK',
    to: ['QH7CTA'],
    cc: [],
    subject: 'A',
    text: 'x',
    files: [],
    origin: 'QH4MPK',
    beyondLatin1: 'utf-8',
  }),
);
const row = (mid: string, more: object = {}): object => ({
  row: {
    id: mid,
    mid,
    to: ['QH7CTA'],
    from: 'QH4MPK',
    subject: mid,
    precedence: 'routine',
    onlyInternet: false,
    version: 1,
    ...more,
  },
  octets,
});

async function holdings(): Promise<MailHoldings> {
  const store = {
    receivedMids: () => ['HAD'],
    parts: () => new Map([['PART', Uint8Array.of(1, 2, 3)]]),
    outbox: () => [
      row('A'),
      row('NET', { onlyInternet: true }),
      row('LATER', { afterMs: Date.now() + 60_000 }),
      row('TWO', { to: ['QH7CTA', 'QH8CLA'] }),
    ],
    forgetPart: () => undefined,
    keepPart: () => undefined,
    noteSent: () => undefined,
  } as unknown as MailStore;
  const made = new MailHoldings(systemClock, store);
  await made.read();
  return made;
}
const mids = (all: readonly { mid: string }[]): string[] => all.map(({ mid }) => mid);

it('gives each way what may go by it, and a station only what is for it alone', async () => {
  const held = await holdings();
  expect(mids(held.outgoing('s', 'radio'))).toEqual(['A', 'TWO']);
  expect(mids(held.outgoing('s', 'internet'))).toEqual(['A', 'NET', 'TWO']);
  expect(mids(held.outgoing('s', 'radio', 'QH7CTA'))).toEqual(['A']);
  expect(mids(held.outgoing('s', 'radio', 'QH8CLA'))).toEqual([]);
  expect(held.outgoing('s', 'radio')[0]).toMatchObject({
    octets: octets.length,
    packedOctets: pack(octets).length,
  });
});

it('two sessions on one box take different letters, until one lets go', async () => {
  const held = await holdings();
  held.reserve('one', 'mine', ['A']);
  held.reserve('two', 'mine', ['A']);
  expect([
    mids(held.outgoing('one', 'radio')),
    mids(held.outgoing('two', 'radio')),
    held.isGoing('A'),
  ]).toEqual([['A', 'TWO'], ['TWO'], true]);
  held.reserve('one', 'theirs', ['NEW']);
  expect([held.has('one', 'NEW'), held.has('two', 'NEW')]).toEqual([undefined, 'coming']);
  held.release('one');
  expect([mids(held.outgoing('two', 'radio')), held.has('two', 'NEW'), held.isGoing('A')]).toEqual([
    ['A', 'TWO'],
    undefined,
    false,
  ]);
});

it('knows what it had, and as much as there is of what broke off', async () => {
  const held = await holdings();
  expect([held.has('s', 'HAD'), held.has('s', 'PART'), held.has('s', 'NONE')]).toEqual([
    'all',
    Uint8Array.of(1, 2, 3),
    undefined,
  ]);
  held.keepPart('PART', Uint8Array.of(1, 2, 3, 4));
  expect(held.has('s', 'PART')).toHaveLength(4);
  held.forgetPart('PART');
  expect(held.has('s', 'PART')).toBeUndefined();
  held.noteSent('A', 'taken');
  expect(mids(held.outgoing('s', 'radio'))).toEqual(['TWO']);
});
