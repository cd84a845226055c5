import { parseCallSign } from '../callsign/callsign.js';
import { isMalformed } from '../bits/malformed.js';
import { start, stop, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';
import { FOR_ALL, isNew, lettersFor, mayKill, mayRead, octetsOf, type Letter } from './letters.js';
import { refusalAtTheDoor, type MailboxRules } from './rules.js';

/**
 * The conversation with one caller.
 *
 *   connected ─> command ──S call──> subject ─> text ──/EX, Ctrl-Z──> command ──B──> over
 *                   └── L, R n, K n, J, I, ? ──┘          link dies in between: told as half-received
 */
export type CallerState =
  | { readonly phase: 'command' }
  | { readonly phase: 'subject'; readonly to: string }
  | {
      readonly phase: 'text';
      readonly to: string;
      readonly subject: string;
      readonly lines: readonly string[];
      readonly octets: number;
    }
  | { readonly phase: 'over' };

export type CallerEvent =
  | { readonly kind: 'connected' }
  /** One line, without its end. */
  | { readonly kind: 'line'; readonly text: string }
  | { readonly kind: 'lost' }
  | TimerEvent;

export type CallerTimer = 'idle' | 'visit';

export type CallerEffect =
  | { readonly kind: 'say'; readonly lines: readonly string[] }
  | { readonly kind: 'keep'; readonly letter: Omit<Letter, 'number' | 'atMs' | 'isRead'> }
  /** The link died before its end came: what there was of it, which is no letter. */
  | {
      readonly kind: 'half-received';
      readonly from: string;
      readonly to: string;
      readonly subject: string;
      readonly text: string;
    }
  | { readonly kind: 'read'; readonly number: number }
  | { readonly kind: 'kill'; readonly number: number }
  | { readonly kind: 'hang up' }
  | TimerEffect<CallerTimer>;

export interface CallerContext {
  /** The mailbox's call and the caller's, as on the air. */
  readonly own: string;
  readonly caller: string;
  readonly letters: readonly Letter[];
  readonly rules: MailboxRules;
  /** Calls before this one within the last hour. */
  readonly callsWithinHour: number;
  /** Stations heard lately, newest first, in words. */
  readonly heard: readonly string[];
  readonly timeOf: (atMs: number) => string;
}

/** The first step, so that nothing of it depends on time. */
export const NOT_CONNECTED: CallerState = { phase: 'command' };

const CTRL_Z = '\u001a';
const LONGEST_SUBJECT = 60;
const HEARD_SHOWN = 10;

type Outcome = Stepped<CallerState, CallerEffect>;

export function step(state: CallerState, event: CallerEvent, context: CallerContext): Outcome {
  if (state.phase === 'over') return [state, []];
  switch (event.kind) {
    case 'connected':
      return greet(context);
    case 'line':
      return heardLine(state, event.text, context);
    case 'lost':
      return lost(state, context);
    case 'timer':
      return good(event.timer === 'idle' ? 'Nothing came for a while.' : 'Your time is up.', state, context);
  }
}

const say = (...lines: string[]): CallerEffect => ({ kind: 'say', lines });
const idle = ({ rules }: CallerContext): CallerEffect => start('idle', rules.idleMinutes * 60_000);

/** The prompt shows what may be typed, as far as this caller may. */
const promptOf = ({ own, rules }: CallerContext): string =>
  `${own} (${rules.access === 'leave only' ? 'S,B,I,J,?' : 'L,R,S,K,B,I,J,?'})>`;

function greet(context: CallerContext): Outcome {
  const { own, caller, letters, rules, callsWithinHour } = context;
  const refusal = refusalAtTheDoor(rules, caller, callsWithinHour);
  if (refusal !== undefined) return [{ phase: 'over' }, [say(refusal), { kind: 'hang up' }]];
  const waiting = letters.filter((letter) => isNew(letter, caller)).length;
  const lines = [
    `Mailbox ${own}. Good day, ${caller}.`,
    ...(rules.greeting === '' ? [] : rules.greeting.split('\n')),
    `${memoryLeft(context)} octets of memory left.`,
    ...(waiting === 0 ? [] : [`${waiting} unread for you: L lists ${waiting === 1 ? 'it' : 'them'}.`]),
    promptOf(context),
  ];
  const over = start('visit' as const, rules.visitMinutes * 60_000);
  return [{ phase: 'command' }, [say(...lines), idle(context), over]];
}

export function memoryLeft({ letters, rules }: Pick<CallerContext, 'letters' | 'rules'>): number {
  return Math.max(0, rules.memoryOctets - letters.reduce((sum, letter) => sum + octetsOf(letter), 0));
}

function good(words: string, state: CallerState, context: CallerContext): Outcome {
  const [, effects] = lost(state, context);
  return [{ phase: 'over' }, [...effects, say(words, `73 from ${context.own}.`), { kind: 'hang up' }]];
}

function lost(state: CallerState, { caller }: CallerContext): Outcome {
  const timers = [stop('idle' as const), stop('visit' as const)];
  if (state.phase !== 'text' || state.lines.length === 0) return [{ phase: 'over' }, timers];
  const { to, subject, lines } = state;
  return [
    { phase: 'over' },
    [...timers, { kind: 'half-received', from: caller, to, subject, text: lines.join('\n') }],
  ];
}

function heardLine(state: CallerState, text: string, context: CallerContext): Outcome {
  switch (state.phase) {
    case 'command':
      return command(text, context);
    case 'subject':
      return subject(state.to, text, context);
    case 'text':
      return more(state, text, context);
    case 'over':
      return [state, []];
  }
}

const answer = (context: CallerContext, lines: readonly string[], ...more: CallerEffect[]): Outcome => [
  { phase: 'command' },
  [...more, say(...lines, promptOf(context)), idle(context)],
];

function command(text: string, context: CallerContext): Outcome {
  const [, word = '', rest = ''] = /^\s*(\S*)\s*(.*?)\s*$/.exec(text) ?? [];
  const letter = word.toUpperCase();
  const mayNot = context.rules.access === 'leave only' && ['L', 'R', 'K'].includes(letter);
  if (mayNot) return answer(context, ['Here you can leave messages; they are read by the operator only.']);
  switch (letter) {
    case '':
      return answer(context, []);
    case 'L':
      return answer(context, listing(context));
    case 'R':
      return read(rest, context);
    case 'S':
    case 'SP':
      return write(rest, context);
    case 'K':
      return kill(rest, context);
    case 'J':
      return answer(context, heard(context));
    case 'I':
      return answer(context, information(context));
    case '?':
    case 'H':
      return answer(context, HELP);
    case 'B':
      return good('Thank you for calling.', { phase: 'command' }, context);
    default:
      return answer(context, [`“${word.slice(0, 20)}” is no command here; ? explains them.`]);
  }
}

const HELP = [
  'L       what is here, unread ones first',
  'R n     read message n',
  'S call  leave a message; S ALL for everybody',
  'K n     delete message n, if it is for you or yours',
  'J       who was heard here lately',
  'I       about this station',
  'B       good-bye',
  'This mailbox connects nobody onward.',
];

const heard = ({ heard: stations }: CallerContext): string[] =>
  stations.length === 0 ? ['Nobody was heard lately.'] : stations.slice(0, HEARD_SHOWN);

const information = ({ rules, own }: CallerContext): string[] =>
  rules.information === '' ? [`${own}: nothing is written here yet.`] : rules.information.split('\n');

function listing({ letters, caller, rules, timeOf }: CallerContext): string[] {
  const rows = lettersFor(letters, caller, rules.readers);
  if (rows.length === 0) return ['No messages for you.'];
  return [
    'No    New Size To        From      Date        Subject',
    ...rows.map((letter) =>
      [
        String(letter.number).padEnd(5),
        (isNew(letter, caller) ? 'N' : '-').padEnd(3),
        String(octetsOf(letter)).padEnd(4),
        letter.to.padEnd(9),
        letter.from.padEnd(9),
        timeOf(letter.atMs).padEnd(11),
        letter.subject,
      ].join(' '),
    ),
  ];
}

function numbered(rest: string, { letters, caller, rules }: CallerContext): Letter | undefined {
  const letter = /^\d{1,7}$/.test(rest) ? letters.find(({ number }) => number === Number(rest)) : undefined;
  return letter && mayRead(letter, caller, rules.readers) ? letter : undefined;
}

function read(rest: string, context: CallerContext): Outcome {
  const letter = numbered(rest, context);
  if (!letter) return answer(context, [`There is no message ${rest.slice(0, 10)} for you.`]);
  const { number, from, to, atMs, subject: about, text } = letter;
  const head = [`Message ${number} from ${from} to ${to}, ${context.timeOf(atMs)}`, `Subject: ${about}`, ''];
  const lines = [...head, ...text.split('\n'), `-- end of message ${number}`];
  return answer(
    context,
    lines,
    ...(isNew(letter, context.caller) ? [{ kind: 'read', number } as const] : []),
  );
}

function kill(rest: string, context: CallerContext): Outcome {
  const letter = numbered(rest, context);
  if (!letter) return answer(context, [`There is no message ${rest.slice(0, 10)} for you.`]);
  if (!mayKill(letter, context.caller))
    return answer(context, [`Message ${letter.number} is neither for you nor yours.`]);
  return answer(context, [`Message ${letter.number} is deleted.`], { kind: 'kill', number: letter.number });
}

function write(rest: string, context: CallerContext): Outcome {
  const [to = ''] = rest.toUpperCase().split(/[\s@]/);
  const call = parseCallSign(to);
  if (to !== FOR_ALL && isMalformed(call))
    return answer(context, [`To whom? S and a call, as S QH4MPK; or S ALL.`]);
  if (memoryLeft(context) === 0) return answer(context, ['The memory is full; nothing more can be left.']);
  const addressee = to === FOR_ALL || isMalformed(call) ? FOR_ALL : call.call;
  return [
    { phase: 'subject', to: addressee },
    [say(`Subject of your message to ${addressee}:`), idle(context)],
  ];
}

function subject(to: string, text: string, context: CallerContext): Outcome {
  const about = text
    .replace(/[\u0000-\u001f]/g, '')
    .trim()
    .slice(0, LONGEST_SUBJECT);
  return [
    { phase: 'text', to, subject: about, lines: [], octets: about.length },
    [say('Text, then a line with /EX or Ctrl-Z:'), idle(context)],
  ];
}

function more(
  state: Extract<CallerState, { phase: 'text' }>,
  given: string,
  context: CallerContext,
): Outcome {
  const { to, subject: about, lines, octets } = state;
  const isLast = /^\s*\/EX\s*$/i.test(given) || given.includes(CTRL_Z);
  const rest = given.includes(CTRL_Z) ? given.slice(0, given.indexOf(CTRL_Z)) : given;
  const text = isLast && (rest === '' || !given.includes(CTRL_Z)) ? lines : [...lines, rest];
  const size = octets + (text.length > lines.length ? rest.length + 1 : 0);
  const most = Math.min(context.rules.mostLetterOctets, memoryLeft(context));
  if (size > most) return answer(context, [`That is more than ${most} octets: it is not kept.`]);
  if (!isLast) return [{ ...state, lines: text, octets: size }, [idle(context)]];
  const letter = { from: callOf(context.caller), to, subject: about, text: text.join('\n') };
  return answer(context, [`Kept for ${to}.`], { kind: 'keep', letter });
}

function callOf(caller: string): string {
  const read = parseCallSign(caller);
  return isMalformed(read) ? caller : read.call;
}
