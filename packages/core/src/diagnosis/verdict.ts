import { TESTS, type Complaint } from '../faults/tests.js';
import {
  causesOfDyingSessions,
  causesOfLettersThatStay,
  causesOfRefusedLogins,
} from './causes-of-sessions.js';
import type { Rung } from '../proof/evidence.js';
import {
  causesOfLostOctets,
  causesOfNoEcho,
  causesOfNothingDecoded,
  causesOfSilence,
  causesOfSilentTnc,
  isUnusuallySilent,
  losesOctets,
  spanWords,
  type Cause,
  type ChainFacts,
} from './causes.js';

/** What is the matter, or what comes next, with the causes of what is wrong, likeliest first. */
export interface Verdict {
  readonly title: string;
  readonly body: string;
  readonly causes: readonly Cause[];
  /** What the operator would say of it, where something is wrong. */
  readonly complaint?: Complaint;
}

/** next: the first rung that does not stand; isDoubtful: a frame was handed over, and no echo came. */
export interface Standing {
  readonly isOpen: boolean;
  readonly next: Rung | undefined;
  readonly isDoubtful: boolean;
}

/** What stands in the way of everything comes before the next rung. Undefined where the link is not open: that is all that is wrong. */
export function verdictOn({ isOpen, next, isDoubtful }: Standing, facts: ChainFacts): Verdict | undefined {
  if (!isOpen) return undefined;
  const { broken, decoded, silentMs, sinceOpenMs } = facts;
  if (losesOctets(facts))
    return {
      title: 'Much of what comes cannot be read',
      body: `${broken} of ${broken + decoded} frames since the link was opened were damaged on the way from the TNC.`,
      causes: causesOfLostOctets(facts),
    };
  if (isUnusuallySilent(facts))
    return {
      title: 'It has fallen silent',
      body: `No packet was decoded for ${spanWords(silentMs)}, which is unusual here.`,
      causes: causesOfSilence(facts),
      complaint: 'nothing is decoded',
    };
  if (isDoubtful && decoded > 0)
    return {
      title: 'Nobody is known to have heard you',
      body: 'A frame was handed over and no echo came within 30 s. These are the causes, likeliest first; each with the test that tells.',
      causes: causesOfNoEcho(facts),
      complaint: 'it is never repeated',
    };
  if (isDoubtful)
    return {
      title: 'Nothing is heard, so no echo can be',
      body: `No packet was decoded since the link was opened ${spanWords(sinceOpenMs)} ago. That comes first.`,
      causes: causesOfNothingDecoded(facts),
      complaint: 'nothing is decoded',
    };
  return verdictOnRung(next, facts);
}

/** Those for which another station has to answer. */
const TALKING: Partial<Record<Rung, Verdict>> = {
  'message acknowledged': {
    title: 'Next: have one message acknowledged',
    body: 'Write to a station that was heard lately and takes messages, then wait: an acknowledgement with its number is what proves it.',
    causes: [],
  },
  'far station answered': {
    title: 'Next: call a station, and be answered',
    body: 'Call a mailbox or node that you hear: its answer proves that it hears you, and you it.',
    causes: [],
  },
  'data both ways': {
    title: 'Next: say a line, and read one',
    body: 'A connection stood, and no text has passed both ways yet. Where sessions begin and then die, these are the causes, likeliest first.',
    causes: causesOfDyingSessions(),
    complaint: 'the session starts and dies',
  },
  'logged in to mail': {
    title: 'Next: log in to the mail service',
    body: 'A first connection with nothing queued proves gateway, account and password at once: the gateway asks, and your password answers without being sent.',
    causes: causesOfRefusedLogins(),
  },
  'mail sent': {
    title: 'Next: have one letter taken',
    body: 'Post a short one, or a self-test, then call: the gateway’s next turn after it is what proves that it has it.',
    causes: causesOfLettersThatStay(),
  },
  'mail received': {
    title: 'Next: receive one letter',
    body: 'What waits for you comes with the next session that receives. Where nothing waits, the answer to a self-test will.',
    causes: causesOfLettersThatStay(),
  },
  'self-test answered': {
    title: 'Next: the answer to a self-test',
    body: 'Post a self-test, call, and call once more: its answer is due on the next connection. It proves all of the way, there and back.',
    causes: causesOfLettersThatStay(),
  },
};

/** It was called, and did not answer or let nobody in. */
const isRefused = ({ findings = [] }: ChainFacts): boolean =>
  findings.some(({ test, outcome }) => test === 'call' && outcome !== TESTS.call.outcomes[0]);

function verdictOnRung(next: Rung | undefined, facts: ChainFacts): Verdict {
  if (next === undefined)
    return {
      title: 'All of it is proved',
      body: 'Send another beacon when the evidence grows old, or climb for another purpose.',
      causes: [],
    };
  const silence = spanWords(facts.silentMs);
  if (next === 'TNC talks')
    return {
      title: 'Next: hear the TNC talk',
      body: `The link has been open for ${spanWords(facts.sinceOpenMs)}, and no KISS frame that can be read came${facts.decoded > 0 ? ` for ${silence}` : ''}.`,
      causes: causesOfSilentTnc(facts),
      complaint: 'the app does not find the TNC',
    };
  if (next === 'packet decoded')
    return {
      title: 'Next: decode one packet',
      body: `The TNC is there; now a packet must come through the receiver. None was decoded for ${silence}.`,
      causes: causesOfNothingDecoded(facts),
      complaint: 'nothing is decoded',
    };
  const talking = TALKING[next];
  if (talking) return isRefused(facts) ? { ...talking, complaint: 'the gateway does not answer' } : talking;
  return {
    title: 'Next: send one beacon and wait for an echo',
    body: 'Arm the transmitter with your call, send one frame, then listen for 30 s for your own call with a digipeater marked as used.',
    causes: [],
  };
}
