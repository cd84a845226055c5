import type { Draft } from './draft.js';
import {
  formatForwarding,
  formatIdentification,
  formatSid,
  isPrompt,
  parseAnswer,
  parseChallenge,
  parseForwarding,
  sidOf,
  speaksB2,
} from './lines.js';
import { ourTurn } from './our-turn.js';
import { theirLine } from './their-turn.js';
import { troubleOf } from './trouble.js';

/** Lines that mean nothing to us are shown and passed over, so far. */
const MOST_IDLE_OCTETS = 65_536;

/** As called: who we are, and the prompt. */
export function greet(draft: Draft): void {
  const { own, peer, locator, program, challenge } = draft.context;
  draft.set({ phase: 'greeting' });
  draft.say(
    formatSid(program),
    ...(challenge === undefined ? [] : [`;PQ: ${challenge}`]),
    formatIdentification(peer, own, locator),
    `${own}>`,
  );
  draft.patience();
}

/** One line of theirs before the turns begin; true where it was one of those. */
export function greetingLine(draft: Draft, line: string): void {
  const { role } = draft.context;
  if (line.startsWith('***')) return draft.end(troubleOf(line), { said: line });
  const sid = sidOf(line);
  if (sid) {
    if (!speaksB2(sid)) return draft.refuse('no common form', 'B2 is needed here');
    return draft.set({ sid });
  }
  if (role === 'called') return calledLine(draft, line);
  const challenge = parseChallenge(line);
  if (challenge !== undefined) return draft.set({ challenge });
  if (isPrompt(line) && draft.state.sid) return answerPrompt(draft);
  passOver(draft, line);
}

function calledLine(draft: Draft, line: string): void {
  const addresses = parseForwarding(line);
  if (addresses) return draft.set({ theirAddresses: addresses.map(({ address }) => address) });
  const answer = parseAnswer(line);
  if (answer !== undefined) return draft.set({ theirAnswer: answer });
  if (!/^F[A-Z>]/i.test(line)) return passOver(draft, line);
  const { sid, theirAnswer, theirAddresses } = draft.state;
  const { challenge, isRight, peer } = draft.context;
  if (!sid) return draft.refuse('out of order', 'Say who you are first: a SID is missing');
  if (challenge !== undefined && !isRight?.(theirAnswer, theirAddresses))
    return draft.refuse(
      'they gave a wrong password',
      'Secure login failed: the password is not that of the account',
    );
  if (theirAddresses.length === 0) draft.set({ theirAddresses: [peer.replace(/-\d+$/, '')] });
  draft.set({ phase: 'their turn' });
  theirLine(draft, line);
}

export function passOver(draft: Draft, line: string): void {
  const idleOctets = draft.state.idleOctets + line.length + 1;
  draft.set({ idleOctets });
  if (idleOctets > MOST_IDLE_OCTETS) draft.end('talks without end');
}

/** The prompts of a service on TCP, which end in no line end; and a prompt that does not either. */
export function unendedPrompt(draft: Draft): void {
  const { serviceLogin, role } = draft.context;
  const text = String.fromCharCode(...draft.state.input.subarray(0, 200));
  const take = (): void => {
    draft.do({ kind: 'line', side: 'theirs', text: text.trim() });
    draft.set({ input: new Uint8Array() });
  };
  if (role === 'called') return;
  if (serviceLogin && /^\s*call\s?sign\s*:\s*$/i.test(text)) {
    take();
    return draft.say(serviceLogin.call);
  }
  if (serviceLogin && /^\s*password\s*:\s*$/i.test(text)) {
    take();
    draft.do(
      { kind: 'line', side: 'mine', text: '••••••' },
      {
        kind: 'say',
        octets: Uint8Array.from(`${serviceLogin.word}\r`, (sign) => sign.charCodeAt(0)),
        isSecret: true,
      },
    );
    return;
  }
  if (draft.state.sid && isPrompt(text)) {
    take();
    answerPrompt(draft);
  }
}

/** As caller: for whom, who we are, the answer to the challenge; then the first turn is ours. */
function answerPrompt(draft: Draft): void {
  const { addresses, answerTo, program, own, peer, locator } = draft.context;
  const { challenge } = draft.state;
  const [first = '', ...further] = addresses;
  const answer = challenge === undefined ? undefined : answerTo(challenge, first);
  if (challenge !== undefined && answer === undefined) return draft.end('password needed');
  const withAnswers = further.map((address) => {
    const own = challenge === undefined ? undefined : answerTo(challenge, address);
    return own === undefined ? { address } : { address, answer: own };
  });
  draft.say(
    formatForwarding([{ address: first }, ...withAnswers]),
    formatSid(program),
    ...(answer === undefined ? [] : [`;PR: ${answer}`]),
    formatIdentification(peer, own, locator),
  );
  draft.set({ loginIsOpen: answer !== undefined });
  ourTurn(draft);
}
