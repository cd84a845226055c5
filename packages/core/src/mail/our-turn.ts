import { isMalformed } from '../bits/malformed.js';
import { HEAD_OCTETS } from '../lzhuf/container.js';
import { encodeBlocks } from './block.js';
import type { Draft } from './draft.js';
import type { Outgoing } from './exchange.js';
import { formatAnnounced } from './lines.js';
import {
  formatClosing,
  formatProposal,
  inOrder,
  MOST_IN_BLOCK,
  parseAnswers,
  type Answer,
} from './proposal.js';
import { troubleOf } from './trouble.js';

/** Up to five proposals; or nothing more, and the end where they have nothing more either. */
export function ourTurn(draft: Draft): void {
  draft.set({ phase: 'our turn', proposed: [], incoming: [], lines: [] });
  const { isStopping, settled, theirAddresses, theyHaveNothing } = draft.state;
  if (isStopping) {
    draft.say('FQ');
    return draft.end('stopped');
  }
  const queue = draft.context.outgoing(theirAddresses).filter(({ mid }) => !settled.includes(mid));
  const proposed = inOrder(queue).slice(0, MOST_IN_BLOCK);
  if (proposed.length > 0) return propose(draft, proposed);
  if (theyHaveNothing) {
    draft.say('FQ');
    return draft.end('done');
  }
  draft.say('FF');
  draft.set({ phase: 'their turn' });
  draft.patience();
}

function propose(draft: Draft, proposed: readonly Outgoing[]): void {
  const lines = proposed.map(formatProposal);
  const told = draft.context.announces
    ? proposed.map(({ to, mid, packedOctets, from, subject }) =>
        formatAnnounced({
          to,
          mid,
          octets: packedOctets,
          from,
          subject: subject.replace(/[^\x20-\x7e]/g, '?'),
        }),
      )
    : [];
  draft.set({ phase: 'awaiting answers', proposed, theyHaveNothing: false });
  draft.do({ kind: 'proposed', side: 'mine', proposals: proposed });
  draft.say(...told, ...lines, formatClosing(lines));
  draft.patience();
}

/** A line of theirs while proposals of ours stand. */
export function answerLine(draft: Draft, line: string): void {
  if (line.startsWith('***')) return draft.end(troubleOf(line), { said: line });
  if (!/^FS\b/i.test(line)) {
    // Comments may come at any time; a line of the protocol in the wrong place not.
    if (/^F[A-Z>](?:\s|$)/i.test(line))
      draft.refuse('out of order', 'An answer to the proposals was expected');
    return;
  }
  noteLogin(draft);
  const { proposed } = draft.state;
  const answers = parseAnswers(line, proposed.length);
  if (isMalformed(answers)) return draft.refuse('out of order', answers.malformed);
  const unconfirmed: string[] = [];
  for (const [i, message] of proposed.entries()) {
    const blocks = settleBy(draft, message, answers[i] as Answer);
    if (blocks === 'wrong') return draft.refuse('out of order', 'That offset is beyond the message');
    if (!blocks) continue;
    unconfirmed.push(message.mid);
    draft.do({ kind: 'say', octets: blocks, mid: message.mid });
  }
  draft.set({ phase: 'their turn', unconfirmed, proposed: [] });
  draft.patience();
}

/** The blocks of what they want; nothing where it is settled without. */
function settleBy(
  draft: Draft,
  { mid, packed, subject }: Outgoing,
  answer: Answer,
): Uint8Array | 'wrong' | undefined {
  draft.settle(mid);
  switch (answer.kind) {
    case 'yes':
      return encodeBlocks(subject, packed, 0, HEAD_OCTETS);
    case 'resume':
      if (answer.offset > packed.length) return 'wrong';
      return encodeBlocks(subject, packed, answer.offset < HEAD_OCTETS ? 0 : answer.offset, HEAD_OCTETS);
    case 'no':
      draft.do({ kind: 'sent', mid, how: 'had' });
      return undefined;
    case 'later':
    case 'held':
      draft.do({ kind: 'put off', mid, how: answer.kind });
      return undefined;
    case 'rejected':
    case 'error':
      draft.do({ kind: 'refused', mid, how: answer.kind });
      return undefined;
  }
}

/** The first word of the protocol after our answer: it was accepted. */
export function noteLogin(draft: Draft): void {
  if (!draft.state.loginIsOpen) return;
  draft.set({ loginIsOpen: false });
  draft.do({ kind: 'logged in' });
}
