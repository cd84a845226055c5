import { isMalformed } from '../bits/malformed.js';
import { concatOctets } from '../bits/octets.js';
import { HEAD_OCTETS, unpack } from '../lzhuf/container.js';
import { isChecked, nextPart, type BlockPart } from './block.js';
import type { Draft } from './draft.js';
import type { Incoming, Receiving } from './exchange.js';
import { headerOf, readMessage } from './message.js';
import { ourTurn } from './our-turn.js';
import { troubleOf } from './trouble.js';

/** The next message that was asked for, from that place on; after the last one the turn is ours, once all is kept. */
export function receiveNext(draft: Draft, from: number): void {
  const at = draft.state.incoming.findIndex(
    ({ answer }, i) => i >= from && (answer.kind === 'yes' || answer.kind === 'resume'),
  );
  if (at >= 0) {
    draft.set({ receiving: { at, packed: new Uint8Array(), sum: 0, headOctets: 0 } });
    return;
  }
  const { receiving: _, ...without } = draft.state;
  draft.state = { ...without, phase: 'keeping' };
  turnOverWhenKept(draft);
}

export function turnOverWhenKept(draft: Draft): void {
  if (draft.state.phase === 'keeping' && draft.state.unkept.length === 0) ourTurn(draft);
}

/** Reads on in what has come; true where there was a whole part. */
export function takePart(draft: Draft): boolean {
  const { input, receiving } = draft.state;
  const next = nextPart(input);
  if (!next || !receiving) return false;
  draft.set({ input: input.subarray(next.taken) });
  takeOne(draft, receiving, draft.incomingAt(receiving.at), next.part);
  return true;
}

function takeOne(draft: Draft, receiving: Receiving, incoming: Incoming, part: BlockPart): void {
  switch (part.kind) {
    case 'title':
      return begin(draft, receiving, incoming, part);
    case 'data':
      return more(draft, receiving, incoming, part.octets);
    case 'end':
      return finish(draft, receiving, incoming, part.checksum);
    case 'wrong':
      return brokenOff(draft, part.octet);
  }
}

/** Instead of a block: a line with a reason, or nonsense. */
function brokenOff(draft: Draft, octet: number): void {
  const said = String.fromCharCode(octet, ...draft.state.input.subarray(0, 200)).split(/[\r\n]/)[0] as string;
  if (said.startsWith('***')) return draft.end(troubleOf(said), { said });
  draft.refuse('out of order', 'A block was expected');
}

function begin(
  draft: Draft,
  receiving: Receiving,
  { answer, mid }: Incoming,
  { title, offset }: { readonly title: string; readonly offset: number },
): void {
  if (receiving.title !== undefined) return draft.refuse('out of order', 'A second title in one message');
  const asked = answer.kind === 'resume' ? answer.offset : 0;
  if (offset !== 0 && offset !== asked) return draft.refuse('out of order', 'That offset was not asked for');
  const there = draft.context.has(mid);
  const kept = offset > 0 && there instanceof Uint8Array ? there.subarray(0, offset) : new Uint8Array();
  draft.set({ receiving: { ...receiving, title, packed: kept, headOctets: offset > 0 ? HEAD_OCTETS : 0 } });
}

function more(draft: Draft, receiving: Receiving, { mid, packedOctets }: Incoming, octets: Uint8Array): void {
  if (receiving.title === undefined) return draft.refuse('out of order', 'A title was expected');
  const sum = octets.reduce((all, octet) => all + octet, receiving.sum);
  // A resumed message begins with its head again, which must be the same.
  const head = octets.subarray(0, receiving.headOctets);
  const at = HEAD_OCTETS - receiving.headOctets;
  if (head.some((octet, i) => octet !== receiving.packed[at + i])) {
    draft.do({ kind: 'forget part', mid });
    return draft.refuse('wrong content', 'The message has changed since its first part came');
  }
  const packed = concatOctets(receiving.packed, octets.subarray(head.length));
  if (packed.length > packedOctets)
    return wrong(draft, mid, 'wrong content', 'The message is longer than was offered');
  draft.set({ receiving: { ...receiving, packed, sum, headOctets: receiving.headOctets - head.length } });
  draft.do({ kind: 'part', mid, packed });
}

function wrong(draft: Draft, mid: string, kind: 'wrong content' | 'wrong checksum', words: string): void {
  draft.do({ kind: 'forget part', mid });
  draft.refuse(kind, words);
}

function finish(draft: Draft, { at, packed, sum }: Receiving, incoming: Incoming, checksum: number): void {
  const { mid, octets: size, packedOctets } = incoming;
  if (!isChecked(sum, checksum))
    return wrong(draft, mid, 'wrong checksum', 'The checksum of the message is wrong');
  if (packed.length !== packedOctets)
    return wrong(draft, mid, 'wrong content', 'The message is not as long as was offered');
  const octets = unpack(packed, draft.context.largestOctets);
  if (isMalformed(octets))
    return wrong(
      draft,
      mid,
      /CRC/.test(octets.malformed) ? 'wrong checksum' : 'wrong content',
      octets.malformed,
    );
  const message = readMessage(octets);
  if (isMalformed(message))
    return wrong(draft, mid, 'wrong content', `The message cannot be read: ${message.malformed}`);
  if (octets.length !== size || headerOf(message, 'Mid')?.trim() !== mid)
    return wrong(draft, mid, 'wrong content', 'The message is not the one that was offered');
  draft.set({ unkept: [...draft.state.unkept, mid] });
  draft.do({ kind: 'keep', mid, octets, packedOctets });
  receiveNext(draft, at + 1);
}
