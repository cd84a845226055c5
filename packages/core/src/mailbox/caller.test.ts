import fc from 'fast-check';
import {
  NOT_CONNECTED,
  step,
  type CallerContext,
  type CallerEffect,
  type CallerEvent,
  type CallerState,
} from './caller.js';
import { lettersFor, mayKill, type Letter } from './letters.js';
import { refusalAtTheDoor, USUAL_RULES, type MailboxRules } from './rules.js';

const letter = (number: number, from: string, to: string, more: Partial<Letter> = {}): Letter => ({
  number,
  from,
  to,
  subject: `subject ${number}`,
  text: `text ${number}`,
  atMs: number,
  isRead: false,
  ...more,
});
const LETTERS = [
  letter(1, 'QH8CLB', 'QH4MPK'),
  letter(2, 'QH4MPK', 'QH8CLA', { isRead: true }),
  letter(3, 'QH8CLA', 'QH4MPK'),
  letter(4, 'QH2HUT', 'ALL'),
  letter(5, 'QH4MPK', 'QH8CLA'),
];

class Call {
  state: CallerState = NOT_CONNECTED;
  effects: readonly CallerEffect[] = [];
  readonly context: CallerContext;

  constructor(rules: Partial<MailboxRules> = {}, more: Partial<CallerContext> = {}) {
    this.context = {
      own: 'QH4MPK-1',
      caller: 'QH8CLA-7',
      letters: LETTERS,
      rules: { ...USUAL_RULES, ...rules },
      callsWithinHour: 0,
      heard: ['QH7CTA-9 14:05'],
      timeOf: (atMs) => `at ${atMs}`,
      ...more,
    };
  }

  does(event: CallerEvent): string {
    [this.state, this.effects] = step(this.state, event, this.context);
    return this.effects.flatMap((effect) => (effect.kind === 'say' ? effect.lines : [])).join('\n');
  }

  types(text: string): string {
    return this.does({ kind: 'line', text });
  }

  did(kind: CallerEffect['kind']): CallerEffect | undefined {
    return this.effects.find((effect) => effect.kind === kind);
  }
}

const PROMPT = 'QH4MPK-1 (L,R,S,K,B,I,J,?)>';

it('greets with its call, the memory left, what is unread, and a prompt', () => {
  const call = new Call({ greeting: 'Seabird Count\nbase hut' });
  const used = LETTERS.reduce((sum, { subject, text }) => sum + subject.length + text.length, 0);
  expect(call.does({ kind: 'connected' })).toBe(
    `Mailbox QH4MPK-1. Good day, QH8CLA-7.\nSeabird Count\nbase hut\n${64_000 - used} octets of memory left.\n1 unread for you: L lists it.\n${PROMPT}`,
  );
  expect(call.effects).toContainEqual({ kind: 'start', timer: 'idle', ms: 300_000 });
  expect(call.effects).toContainEqual({ kind: 'start', timer: 'visit', ms: 1_800_000 });
});

it('lists what is for the caller, for all or his, unread first, then the newest', () => {
  expect(lettersFor(LETTERS, 'QH8CLA-7', 'addressee').map(({ number }) => number)).toEqual([5, 4, 3, 2]);
  expect(lettersFor(LETTERS, 'QH8CLA', 'everybody').map(({ number }) => number)).toEqual([5, 4, 3, 2, 1]);
  const lines = new Call().types('l').split('\n');
  expect(lines.slice(0, 2)).toEqual([
    'No    New Size To        From      Date        Subject',
    '5     N   15   QH8CLA    QH4MPK    at 5        subject 5',
  ]);
  expect(lines.at(-1)).toBe(PROMPT);
  expect(new Call({}, { caller: 'QH9NEW', letters: [] }).types('L')).toBe(`No messages for you.\n${PROMPT}`);
});

it('gives a message to whom it is for, and notes that he read it', () => {
  const call = new Call();
  expect(call.types('R 5')).toBe(
    `Message 5 from QH4MPK to QH8CLA, at 5\nSubject: subject 5\n\ntext 5\n-- end of message 5\n${PROMPT}`,
  );
  expect(call.did('read')).toEqual({ kind: 'read', number: 5 });
  call.types('R 3');
  expect(call.did('read')).toBeUndefined();
  expect(call.types('R 1')).toMatch('There is no message 1 for you.');
  expect(call.types('R x')).toMatch('There is no message x for you.');
  expect(new Call({ readers: 'everybody' }).types('R 1')).toMatch('text 1');
});

it('deletes for whom it is for and who wrote it', () => {
  expect(LETTERS.filter((one) => mayKill(one, 'QH8CLA-7')).map(({ number }) => number)).toEqual([2, 3, 5]);
  const call = new Call();
  call.types('K 3');
  expect(call.did('kill')).toEqual({ kind: 'kill', number: 3 });
  expect(call.types('K 4')).toMatch('neither for you nor yours');
  expect(call.did('kill')).toBeUndefined();
  expect(call.types('K 1')).toMatch('There is no message 1');
});

describe('leaving a message', () => {
  it('takes subject and text up to /EX, for a call without its SSID', () => {
    const call = new Call();
    expect(call.types('S qh4mpk-7')).toBe('Subject of your message to QH4MPK:');
    expect(call.types('  terns \u0007')).toBe('Text, then a line with /EX or Ctrl-Z:');
    call.types('41 terns');
    call.types('');
    expect(call.types('/ex')).toBe(`Kept for QH4MPK.\n${PROMPT}`);
    expect(call.did('keep')).toEqual({
      kind: 'keep',
      letter: { from: 'QH8CLA', to: 'QH4MPK', subject: 'terns', text: '41 terns\n' },
    });
    expect(call.state).toEqual({ phase: 'command' });
  });

  it.each([
    ['last words\u001aand more', 'last words'],
    ['\u001a', ''],
  ])('takes %j for its end', (line, text) => {
    const call = new Call();
    call.types('S ALL');
    call.types('x');
    call.types(line);
    expect(call.did('keep')).toMatchObject({ letter: { to: 'ALL', text } });
  });

  it('asks to whom where that is no call', () => {
    expect(new Call().types('S')).toMatch('To whom?');
    expect(new Call().types('S toolongcall')).toMatch('To whom?');
  });

  it('keeps nothing that is too long, and takes nothing when the memory is full', () => {
    const call = new Call({ mostLetterOctets: 10 });
    call.types('S ALL');
    call.types('abc');
    expect(call.types('123456')).toBe('');
    expect(call.types('1')).toMatch('more than 10 octets');
    expect(call.state).toEqual({ phase: 'command' });
    const full = new Call({ memoryOctets: 60 });
    expect(full.types('S ALL')).toMatch('The memory is full');
    expect(full.state).toEqual({ phase: 'command' });
  });

  it('half-received when the link dies, it is told as that', () => {
    const call = new Call();
    call.types('S ALL');
    call.does({ kind: 'lost' });
    expect(call.did('half-received')).toBeUndefined();
    const begun = new Call();
    begun.types('S ALL');
    begun.types('terns');
    begun.types('41');
    begun.does({ kind: 'lost' });
    expect(begun.effects).toEqual([
      { kind: 'stop', timer: 'idle' },
      { kind: 'stop', timer: 'visit' },
      { kind: 'half-received', from: 'QH8CLA-7', to: 'ALL', subject: 'terns', text: '41' },
    ]);
    expect(begun.types('/EX')).toBe('');
    expect(begun.did('keep')).toBeUndefined();
  });
});

it.each([
  ['J', /^QH7CTA-9 14:05\n/],
  ['I', /nothing is written here yet/],
  ['?', /connects nobody onward/],
  ['h', /leave a message/],
  ['', /^QH4MPK-1 /],
  ['NODES', /“NODES” is no command here/],
])('%j', (typed, words) => expect(new Call().types(typed)).toMatch(words));

it('says good-bye and hangs up: when asked, when idle, when time is up', () => {
  for (const event of [
    { kind: 'line', text: 'b' } as const,
    { kind: 'timer', timer: 'idle' } as const,
    { kind: 'timer', timer: 'visit' } as const,
  ]) {
    const call = new Call();
    expect(call.does(event)).toMatch(/73 from QH4MPK-1\.$/);
    expect(call.effects.at(-1)).toEqual({ kind: 'hang up' });
    expect(call.state).toEqual({ phase: 'over' });
  }
});

describe('the door', () => {
  it.each([
    [{}, 11, undefined],
    [{}, 12, /12 times within the hour/],
    [{ access: 'listed', listed: ['QH8CLA'] }, 0, undefined],
    [{ access: 'listed', listed: ['QH8CLB'] }, 0, /listed stations only/],
  ] as [Partial<MailboxRules>, number, RegExp | undefined][])('%j after %i calls', (rules, calls, words) => {
    const refusal = refusalAtTheDoor({ ...USUAL_RULES, ...rules }, 'QH8CLA-7', calls);
    if (words) expect(refusal).toMatch(words);
    else expect(refusal).toBeUndefined();
  });

  it('tells why and hangs up', () => {
    const call = new Call({ access: 'listed' });
    call.does({ kind: 'connected' });
    expect(call.effects.map(({ kind }) => kind)).toEqual(['say', 'hang up']);
  });

  it('where messages are only taken, nothing is read', () => {
    const call = new Call({ access: 'leave only' });
    for (const typed of ['L', 'R 5', 'K 5']) expect(call.types(typed)).toMatch('read by the operator only');
    expect(call.types('')).toBe('QH4MPK-1 (S,B,I,J,?)>');
    expect(call.types('S ALL')).toMatch('Subject');
  });
});

it('any lines leave it in some state, and a prompt or an end behind each answer', () => {
  const line = fc.oneof(fc.constantFrom('S ALL', '/EX', 'R 5', 'L', 'K 5', '\u001a', 'B'), fc.string());
  fc.assert(
    fc.property(fc.array(line, { maxLength: 20 }), (lines) => {
      const call = new Call();
      for (const text of lines) {
        const said = call.types(text);
        if (call.state.phase === 'command') expect(said.endsWith(PROMPT)).toBe(true);
      }
      expect(['command', 'subject', 'text', 'over']).toContain(call.state.phase);
    }),
  );
});
