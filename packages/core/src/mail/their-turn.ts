import { isMalformed } from '../bits/malformed.js';
import { HEAD_OCTETS } from '../lzhuf/container.js';
import { start } from '../machine/machine.js';
import type { Draft } from './draft.js';
import type { Incoming } from './exchange.js';
import { parseAnnounced } from './lines.js';
import { noteLogin, ourTurn } from './our-turn.js';
import {
  closes,
  formatAnswers,
  MOST_IN_BLOCK,
  parseProposal,
  type Answer,
  type Proposal,
} from './proposal.js';
import { receiveNext } from './taking.js';
import { troubleOf } from './trouble.js';

/** The operator has so long to say whether a large one is wanted; then it is put off. */
const DECISION_MS = 60_000;
const MOST_IDLE_OCTETS = 65_536;

/** A line of theirs when it is their turn. */
export function theirLine(draft: Draft, line: string): void {
  if (line === '') return;
  if (line.startsWith('***')) return draft.end(troubleOf(line), { said: line });
  const announced = parseAnnounced(line);
  if (announced) {
    draft.set({ announced: [...draft.state.announced, announced].slice(-200) });
    return draft.do({ kind: 'announced', what: announced });
  }
  const word = /^(F[A-Z>])(?:\s|$)/i.exec(line)?.[1]?.toUpperCase();
  if (word === undefined || line.startsWith(';')) return idle(draft, line);
  noteLogin(draft);
  confirmSent(draft);
  switch (word) {
    case 'FF':
      draft.set({ theyHaveNothing: true });
      return ourTurn(draft);
    case 'FQ':
      return draft.end(draft.state.isStopping ? 'stopped' : 'done');
    case 'F>':
      return close(draft, line);
    case 'FA':
    case 'FB':
    case 'FC':
      if (draft.state.lines.length >= MOST_IN_BLOCK)
        return draft.refuse('out of order', `More than ${MOST_IN_BLOCK} proposals in a block`);
      return draft.set({ lines: [...draft.state.lines, line] });
    default:
      return draft.refuse('out of order', 'Proposals were expected');
  }
}

function idle(draft: Draft, line: string): void {
  const idleOctets = draft.state.idleOctets + line.length + 1;
  draft.set({ idleOctets });
  if (idleOctets > MOST_IDLE_OCTETS) draft.end('talks without end');
}

/** Their turn after our blocks: they have them. */
function confirmSent(draft: Draft): void {
  for (const mid of draft.state.unconfirmed) draft.do({ kind: 'sent', mid, how: 'taken' });
  draft.set({ unconfirmed: [] });
}

function close(draft: Draft, line: string): void {
  const { lines, announced } = draft.state;
  if (!closes(line, lines)) return draft.refuse('wrong checksum', 'The checksum of the proposals is wrong');
  if (lines.length === 0) return draft.refuse('out of order', 'A block without proposals');
  const mids = new Set<string>();
  const incoming: Incoming[] = lines.map((each) => {
    const proposal = parseProposal(each);
    // Of a kind that is not taken here.
    if (isMalformed(proposal)) return { mid: '', octets: 0, packedOctets: 0, answer: { kind: 'rejected' } };
    const told = announced.find(({ mid }) => mid === proposal.mid);
    const answer: Answer = mids.has(proposal.mid) ? { kind: 'no' } : answerOf(draft, proposal);
    mids.add(proposal.mid);
    return { ...proposal, answer, ...(told ? { announced: told } : {}) };
  });
  draft.set({ incoming, lines: [], theyHaveNothing: false });
  draft.do({ kind: 'proposed', side: 'theirs', proposals: incoming });
  const large = incoming.filter((one) => isLarge(draft, one));
  if (large.length === 0) return answer(draft);
  draft.set({ phase: 'asking' });
  draft.do({ kind: 'ask', incoming: large }, start('decision', DECISION_MS));
}

function answerOf(draft: Draft, { mid, octets, packedOctets }: Proposal): Answer {
  const { has, takes, largestOctets } = draft.context;
  const there = has(mid);
  if (there === 'all') return { kind: 'no' };
  if (!takes || draft.state.isStopping || there === 'coming') return { kind: 'later' };
  if (octets > largestOctets || packedOctets > largestOctets) return { kind: 'rejected' };
  const isPart = there !== undefined && there.length > HEAD_OCTETS && there.length < packedOctets;
  return isPart ? { kind: 'resume', offset: there.length } : { kind: 'yes' };
}

const isLarge = (draft: Draft, { answer, packedOctets }: Incoming): boolean =>
  draft.context.askOver !== undefined &&
  packedOctets > draft.context.askOver &&
  (answer.kind === 'yes' || answer.kind === 'resume');

/** What the operator said; without a word of his it is put off. */
export function decide(draft: Draft, answers: Readonly<Record<string, 'yes' | 'no' | 'later'>>): void {
  const incoming = draft.state.incoming.map((one) => {
    if (!isLarge(draft, one)) return one;
    const said = answers[one.mid] ?? 'later';
    return said === 'yes' ? one : { ...one, answer: { kind: said } };
  });
  draft.set({ incoming });
  draft.do({ kind: 'stop', timer: 'decision' });
  answer(draft);
}

function answer(draft: Draft): void {
  draft.say(formatAnswers(draft.state.incoming.map((one) => one.answer)));
  draft.set({ phase: 'receiving', unkept: [] });
  draft.patience();
  receiveNext(draft, 0);
}
