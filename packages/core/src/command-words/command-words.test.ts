import {
  modemStep,
  NEUTRAL_WORDS,
  NOT_OPENED,
  type ModemContext,
  type ModemEvent,
  type ModemState,
} from './modem-program.js';
import {
  NEUTRAL_RADIO_WORDS,
  NOT_TUNED,
  tuningStep,
  whyNoRadioWords,
  type TuningState,
} from './radio-control.js';
import { cutLines, fieldsOf, fill, read } from './templates.js';

it('templates are filled and read by the same words', () => {
  expect(fill('LINK {from} {to} {n:3}', { from: 'A', to: 'B-1', n: 7 })).toBe('LINK A B-1 007');
  expect([
    fill('F{mhz:3.4};', { mhz: 29.6 }),
    fill('{hz}', { hz: 144_800_000.4 }),
    fill('{gone}x', {}),
  ]).toEqual(['F029.6000;', '144800000', 'x']);
  expect(read('LINK {from} {to}', ' link a  b-1 ')).toEqual({ from: 'a', to: 'b-1' });
  expect([read('A.{x}', 'AB1'), read('', 'x'), read('A', 'AB'), read('A {x}', 'B 1')]).toEqual([
    undefined,
    undefined,
    undefined,
    undefined,
  ]);
  expect(fieldsOf('{a} {b:2}')).toEqual(['a', 'b']);
  expect(cutLines('one\r\ntwo\rth')).toEqual({ lines: ['one', 'two'], rest: 'th' });
  expect(cutLines('FA1;FB2;', ';')).toEqual({ lines: ['FA1', 'FB2'], rest: '' });
  expect(cutLines('x'.repeat(5000)).rest).toHaveLength(1000);
});

describe('a modem program', () => {
  const CONTEXT: ModemContext = { words: NEUTRAL_WORDS, own: 'QH4MPK', peer: 'QH5VEL-10', tries: 4 };
  function run(events: (ModemEvent | string)[], context = CONTEXT): { state: ModemState; did: string[] } {
    let state = NOT_OPENED;
    const did: string[] = [];
    for (const event of events) {
      const [next, effects] = modemStep(
        state,
        typeof event === 'string' ? { kind: 'line', text: event } : event,
        context,
      );
      state = next;
      for (const one of effects)
        did.push(
          one.kind === 'command'
            ? `> ${one.text}`
            : one.kind === 'start'
              ? `${one.timer} ${one.ms}`
              : one.kind === 'over'
                ? `over: ${one.outcome}`
                : one.kind,
        );
    }
    return { state, did };
  }
  const CALLED = [{ kind: 'opened' }, 'OWN IS qh4mpk-0'] as const;

  it('is told the call, says it back, calls, and is let go of', () => {
    expect(
      run([
        ...CALLED,
        'CHANNEL BUSY',
        'CHANNEL CLEAR',
        'LINKED qh5vel-10',
        'WAITING 90',
        'WAITING 0',
        'WAITING 0',
        { kind: 'disconnect' },
        'UNLINKED',
      ]).did,
    ).toEqual([
      '> OWN QH4MPK',
      '> OWN?',
      'answer 5000',
      '> LINK QH4MPK QH5VEL-10 4',
      'answer 120000',
      'stop',
      'connected',
      'buffer empty',
      '> UNLINK',
      'answer 30000',
      'stop',
      'over: disconnected',
    ]);
    expect([run(['CHANNEL BUSY']).state.isBusy, run(['CHANNEL BUSY', 'CHANNEL CLEAR']).state.isBusy]).toEqual(
      [true, false],
    );
  });

  it.each([
    [[{ kind: 'opened' }, 'OWN IS QH7CTA'], 'the modem program has the call QH7CTA, not QH4MPK'],
    [
      [{ kind: 'opened' }, { kind: 'timer', timer: 'answer' }],
      'the modem program does not say which call it has',
    ],
    [[...CALLED, { kind: 'timer', timer: 'answer' }], 'nobody answered'],
    [[...CALLED, 'UNLINKED'], 'nobody answered, or the other end is busy'],
    [[...CALLED, 'NO sound card'], 'the modem program refused: sound card'],
    [[...CALLED, 'LINKED QH5OST-10'], 'the modem program is linked with QH5OST-10, not with QH5VEL-10'],
    [[...CALLED, 'LINKED QH5VEL-10', 'UNLINKED'], 'the other end has let the link go'],
    [[...CALLED, { kind: 'lost' }], 'the modem program has closed its port'],
    [[...CALLED, { kind: 'disconnect' }], 'stopped'],
    [[...CALLED, 'LINKED QH5VEL-10', { kind: 'abort' }], 'stopped'],
    [
      [...CALLED, 'LINKED QH5VEL-10', { kind: 'disconnect' }, { kind: 'timer', timer: 'answer' }],
      'the link was let go without an answer',
    ],
  ] as [(ModemEvent | string)[], string][])('%#: %s', (events, outcome) => {
    const { state, did } = run(events);
    expect([state.phase, state.outcome]).toEqual(['over', outcome]);
    expect(did.includes('> DROP')).toBe(outcome === 'stopped');
    expect(run([...events, 'LINKED QH5VEL-10']).did).toEqual(did);
  });

  it('what came before its time changes nothing; a program without an abort is disconnected', () => {
    expect(run(['UNLINKED', 'LINKED QH5VEL-10']).state.phase).toBe('naming');
    expect(
      run([...CALLED, { kind: 'abort' }], { ...CONTEXT, words: { ...NEUTRAL_WORDS, abort: '' } }).did,
    ).toContain('> UNLINK');
  });
});

describe('radio control', () => {
  function run(...lines: string[]): { state: TuningState; did: string[] } {
    let [state, effects] = tuningStep(
      NOT_TUNED,
      { kind: 'opened' },
      { words: NEUTRAL_RADIO_WORDS, wantedHz: 144_850_000 },
    );
    const did: string[] = [];
    const note = (): void =>
      void did.push(...effects.flatMap((one) => (one.kind === 'command' ? [one.text] : [])));
    note();
    for (const line of lines) {
      [state, effects] = tuningStep(
        state,
        line === '' ? { kind: 'timer', timer: 'answer' } : { kind: 'line', text: line },
        { words: NEUTRAL_RADIO_WORDS, wantedHz: 144_850_000 },
      );
      note();
    }
    return { state, did };
  }

  it('reads, sets, reads back, and knows what to put back', () => {
    expect(run('noise', 'FREQ 144800000 BAND A', 'FREQ 144850500 BAND A')).toEqual({
      state: { phase: 'set', beforeHz: 144_800_000, outcome: 'the radio says 144.851 MHz on band A' },
      did: ['FREQ?', 'FREQ 0144850000', 'FREQ?'],
    });
  });

  it('a mismatch is named, with the band; silence too', () => {
    expect(run('FREQ 144800000 BAND A', 'FREQ 144850501 BAND B').state).toMatchObject({
      phase: 'wrong',
      outcome: '144.850 MHz was asked for, and the radio says 144.851 MHz on band B',
    });
    expect(run('FREQ 430100000 BAND B', 'FREQ 430100000 BAND B').state.outcome).toMatch(
      /430\.100 MHz on band B, as before: the command may have set its other band/,
    );
    expect(run('').state).toMatchObject({ phase: 'silent' });
    expect(run('FREQ 144800000 BAND A', '').state).toMatchObject({ phase: 'silent', beforeHz: 144_800_000 });
    expect(run('FREQ x BAND A').state.phase).toBe('before');
  });

  it('a profile has a place for a frequency only', () => {
    expect(whyNoRadioWords(NEUTRAL_RADIO_WORDS)).toBeUndefined();
    expect(whyNoRadioWords({ ...NEUTRAL_RADIO_WORDS, set: 'SEND 1' })).toMatch('no {hz}');
    expect(whyNoRadioWords({ ...NEUTRAL_RADIO_WORDS, ask: ' ' })).toMatch('read back');
    expect(whyNoRadioWords({ ...NEUTRAL_RADIO_WORDS, frequencyIs: 'OK' })).toMatch('the answer has no');
    const mhz = { set: 'F{mhz:3.3}', ask: 'F', frequencyIs: 'F{mhz}' };
    expect(
      tuningStep(
        { phase: 'setting' },
        { kind: 'line', text: 'F144.850' },
        { words: mhz, wantedHz: 144_850_000 },
      )[0].phase,
    ).toBe('set');
    const khz = { ...mhz, frequencyIs: 'F{khz}' };
    expect(
      tuningStep(
        { phase: 'setting' },
        { kind: 'line', text: 'F144850' },
        { words: khz, wantedHz: 144_850_000 },
      )[0].phase,
    ).toBe('set');
  });
});
