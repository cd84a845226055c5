import {
  ANSWER_WITHIN_MS,
  beginVisit,
  QUIET_MS,
  step,
  type VisitEffect,
  type VisitEvent,
  type VisitPlan,
  type VisitState,
} from './visit.js';

const PLAN: VisitPlan = {
  me: 'QH4MPK-7',
  reads: true,
  leave: [],
  killsRead: false,
  bye: true,
  endOfText: '/EX',
};
const HEADING = 'Msg# Size To From Subject\r';
const SOUP = '12 40 QH4MPK QH8CLA soup\r';
const FOR_ALL = '11 9 ALL QH2HUT weather\r';
const PROMPT = 'hut (B,K,L,R,S)> \r';
const LETTER = { to: 'QH8CLA', subject: 'lamps', text: 'two left\nwhere to?' };

class Visit {
  state: VisitState;
  told: readonly VisitEffect[];

  constructor(more: Partial<VisitPlan> = {}) {
    [this.state, this.told] = beginVisit({ ...PLAN, ...more });
  }

  does(event: VisitEvent): string[] {
    [this.state, this.told] = step(this.state, event);
    return this.told.flatMap((effect) => (effect.kind === 'say' ? effect.lines : []));
  }

  hears(text: string): string[] {
    return this.does({ kind: 'heard', text });
  }

  get last(): string {
    const one =
      this.state.steps.find(({ state }) => state === 'stopped') ??
      this.state.steps.filter(({ state }) => state === 'done').at(-1);
    return `${this.state.outcome}: ${one?.task.kind}: ${one?.words}`;
  }
}

it('lists, reads what is for me with whatever SSID, and says good-bye', () => {
  const visit = new Visit();
  expect(visit.told).toEqual([{ kind: 'start', timer: 'answer', ms: ANSWER_WITHIN_MS }]);
  expect(visit.hears('Hello QH4MPK\r')).toEqual([]);
  expect(visit.hears(PROMPT)).toEqual(['L']);
  expect(visit.hears(HEADING + SOUP)).toEqual([]);
  expect(visit.hears(FOR_ALL + PROMPT)).toEqual(['R 12']);
  expect(visit.hears(`From QH8CLA\rsoup at 7\r${PROMPT}`)).toEqual(['B']);
  expect(visit.state.steps.map(({ task, state }) => `${task.kind} ${state}`)).toEqual([
    'prompt done',
    'list done',
    'read done',
    'bye runs',
  ]);
  expect(visit.state.steps[2]?.text).toContain('soup at 7');
  visit.does({ kind: 'ended' });
  expect(visit.last).toBe('done: bye: it said good-bye');
});

it('leaves a message: to whom, subject, text and its end, and proves it by listing again', () => {
  const visit = new Visit({ reads: false, leave: [LETTER] });
  visit.hears(PROMPT);
  expect(visit.hears(HEADING + PROMPT)).toEqual(['S QH8CLA']);
  expect(visit.hears('Subject:')).toEqual(['lamps']);
  expect(visit.hears('Text, end with /EX\r')).toEqual(['two left', 'where to?', '/EX']);
  expect(visit.hears(`Kept as 13.\r${PROMPT}`)).toEqual(['L']);
  expect(visit.hears(`${HEADING}13 20 QH8CLA QH4MPK lamps\r${PROMPT}`)).toEqual(['B']);
  expect(visit.last).toBe('runs: list again: 1 listed: all as planned');
});

it('takes silence for a question where no mark says so', () => {
  const visit = new Visit({ reads: false, leave: [LETTER] });
  visit.hears(PROMPT);
  visit.hears(HEADING + PROMPT);
  expect(visit.hears('Give me the title')).toEqual([]);
  expect(visit.told).toContainEqual({ kind: 'start', timer: 'quiet', ms: QUIET_MS });
  expect(visit.does({ kind: 'timer', timer: 'quiet' })).toEqual(['lamps']);
  expect(visit.does({ kind: 'timer', timer: 'quiet' })).toEqual([]);
  expect(visit.hears('Now the text')).toEqual([]);
  expect(visit.does({ kind: 'timer', timer: 'quiet' })).toEqual(['two left', 'where to?', '/EX']);
});

it('kills what it read, and believes it when the listing says so: numbers may have moved', () => {
  const visit = new Visit({ killsRead: true });
  visit.hears(PROMPT);
  visit.hears(HEADING + SOUP + FOR_ALL + PROMPT);
  expect(visit.hears(`From QH8CLA\rsoup at 7\r${PROMPT}`)).toEqual(['K 12']);
  expect(visit.hears(`Killed.\r${PROMPT}`)).toEqual(['L']);
  expect(visit.hears(`${HEADING}10 9 ALL QH2HUT weather\r${PROMPT}`)).toEqual(['B']);
});

describe('the first surprise stops it, and says which', () => {
  const listed = (more: Partial<VisitPlan>, rows = SOUP): Visit => {
    const visit = new Visit(more);
    visit.hears(PROMPT);
    visit.hears(HEADING + rows + PROMPT);
    return visit;
  };

  it('what was to be killed is still there', () => {
    const visit = listed({ killsRead: true });
    visit.hears(`From QH8CLA\rsoup at 7\r${PROMPT}`);
    visit.hears(`Killed.\r${PROMPT}`);
    expect(visit.hears(HEADING + SOUP.replace('12', '9') + PROMPT)).toEqual([]);
    expect(visit.last).toBe('stopped: list again: “soup” from QH8CLA is still there');
  });

  it('what was left is not there', () => {
    const visit = listed({ reads: false, leave: [LETTER] });
    visit.hears('Subject:');
    visit.hears('/EX');
    visit.hears(PROMPT);
    visit.hears(`${HEADING}13 20 QH8CLB QH4MPK lamps\r${PROMPT}`);
    expect(visit.last).toBe('stopped: list again: the message to QH8CLA, “lamps”, is not in the listing');
  });

  it('the mailbox takes no message', () => {
    const visit = listed({ reads: false, leave: [LETTER] });
    expect(visit.hears(`Mailbox full\r${PROMPT}`)).toEqual([]);
    expect(visit.last).toBe('stopped: leave: the message to QH8CLA was not taken: “Mailbox full”');
  });

  it('a message is not given', () => {
    const visit = listed({});
    visit.hears(`Not found: 12\r${PROMPT}`);
    expect(visit.last).toBe('stopped: read: number 12 was not given: “Not found: 12”');
  });

  it('a listing that nobody can read', () => {
    const visit = new Visit();
    visit.hears(PROMPT);
    visit.hears(`12 items on the shelf\r${PROMPT}`);
    expect(visit.last).toBe('stopped: list: its listing was not understood: “12 items on the shelf”');
  });

  it.each([
    [{ kind: 'ended' } as const, 'the session ended'],
    [{ kind: 'stop' } as const, 'stopped by the operator'],
    [{ kind: 'timer', timer: 'answer' } as const, 'nothing came for five minutes'],
  ])('%j', (event, words) => {
    const visit = listed({});
    visit.does(event);
    expect(visit.last).toBe(`stopped: read: ${words}`);
    expect(visit.hears(PROMPT)).toEqual([]);
  });
});

it('an empty mailbox is no surprise; another line that ends like a prompt is none', () => {
  const visit = new Visit();
  visit.hears(PROMPT);
  expect(visit.hears(`No messages.\r${PROMPT}`)).toEqual(['B']);
  const reading = new Visit();
  reading.hears(PROMPT);
  reading.hears(HEADING + SOUP + PROMPT);
  expect(reading.hears('From QH8CLA\rhe said: go there>')).toEqual([]);
  expect(reading.hears(`\rand so on\r${PROMPT}`)).toEqual(['B']);
});

it('without good-bye it is done when the last is proved, and the session stays', () => {
  const visit = new Visit({ bye: false });
  visit.hears(PROMPT);
  expect(visit.hears(HEADING + FOR_ALL + PROMPT)).toEqual([]);
  expect(visit.last).toBe('done: list: 1 listed, 0 for QH4MPK');
  expect(visit.told).toContainEqual({ kind: 'stop', timer: 'answer' });
});
