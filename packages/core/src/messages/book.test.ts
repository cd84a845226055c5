import { encodeMessage, readMessage } from '../aprs/message.js';
import type { AprsReport } from '../aprs/report.js';
import { drive } from '../machine/drive.js';
import { Timetable } from '../network/timetable.js';
import {
  EMPTY_BOOK,
  reopened,
  step,
  type Book,
  type BookContext,
  type BookEffect,
  type BookEvent,
  type Written,
} from './book.js';
import { shifted, shiftedReceived } from './entries.js';
import { LATE_ANSWER_MS, numberOf, SAME_MESSAGE_MS, SAME_TRY_MS, USUAL_RULES } from './rules.js';

const ME = 'QH4MPK-9';
const CART = 'QH7CTA-9';
const MESSAGE: Written = {
  id: 'a',
  from: ME,
  to: CART,
  text: 'lamps?',
  linkId: 'radio',
  path: 'WIDE1-1',
  wantsAnswer: true,
};

function rig(rules: Partial<BookContext['rules']> = {}, first: Book = EMPTY_BOOK) {
  const clock = new Timetable(100_000);
  const settings = { isArmed: true, isPrompt: true };
  const effects: Exclude<BookEffect, { kind: 'start' | 'stop' }>[] = [];
  let heard = 0;
  const book = drive<Book, BookEvent, BookEffect, BookContext>(step, first, {
    clock,
    context: (moment) => ({
      ...moment,
      rules: { ...USUAL_RULES, ...rules },
      licence: 'QH4MPK',
      answersFor: [ME],
      groups: ['COUNTERS'],
      mayLeave: (from, linkId) => settings.isArmed && from === ME && linkId === 'radio',
    }),
    perform: (effect) => {
      effects.push(effect);
      if (effect.kind === 'send' && settings.isPrompt)
        book.dispatch({ kind: 'handed', id: effect.message.id });
      if (effect.kind === 'ack') book.dispatch({ kind: 'ack left', id: effect.id });
    },
  });
  const hear = (from: string, info: string, by?: string): void =>
    book.dispatch({
      kind: 'heard',
      heard: {
        id: `h${heard++}`,
        linkId: 'radio',
        from,
        ...(by === undefined ? {} : { by }),
        report: readMessage(info) as AprsReport,
      },
    });
  return {
    clock,
    book,
    settings,
    effects,
    hear,
    write: (message: Partial<Written> = {}) =>
      book.dispatch({ kind: 'write', message: { ...MESSAGE, ...message } }),
    sends: () => effects.filter(({ kind }) => kind === 'send').length,
    infos: () => effects.flatMap((effect) => (effect.kind === 'send' ? [effect.info] : [])),
    acks: () => effects.flatMap((effect) => (effect.kind === 'ack' ? [`${effect.to} ${effect.number}`] : [])),
    phase: (id = 'a') => book.state().outgoing.find((one) => one.id === id)?.phase,
    one: (id = 'a') => book.state().outgoing.find((one) => one.id === id),
    received: () => book.state().received,
  };
}

describe('a message', () => {
  it('goes out six times with doubling gaps, each kept before it is sent, and then has no answer', () => {
    const { clock, write, effects, sends, phase, one } = rig();
    write();
    expect(effects.map(({ kind }) => kind)).toEqual(['keep', 'keep', 'send', 'keep']);
    const atMs = () => one()?.tries.map((each) => each.atMs - 100_000);
    const gaps = [30, 60, 120, 240, 480];
    for (const [i, gap] of gaps.entries()) {
      clock.advance(gap * 1000 - 1);
      expect(sends()).toBe(i + 1);
      clock.advance(1);
      expect(sends()).toBe(i + 2);
    }
    expect(atMs()).toEqual([0, 30_000, 90_000, 210_000, 450_000, 930_000]);
    clock.advance(480_000 - 1);
    expect(phase()?.kind).toBe('waiting');
    clock.advance(1);
    expect([phase(), clock.leftovers()]).toEqual([{ kind: 'no answer' }, 0]);
  });

  it('by its rules: fewer tries, other gaps', () => {
    const { clock, write, sends, phase } = rig({ tries: 2, firstGapMs: 10_000, longestGapMs: 15_000 });
    write();
    clock.advance(10_000);
    expect(sends()).toBe(2);
    clock.advance(14_999);
    expect(phase()?.kind).toBe('waiting');
    clock.advance(1);
    expect(phase()?.kind).toBe('no answer');
  });

  it('is acknowledged by whom, after how long from its first try, at which try; then nothing more is sent', () => {
    const { clock, write, hear, sends, phase, infos } = rig();
    write();
    expect(infos()).toEqual([':QH7CTA-9 :lamps?{00']);
    clock.advance(41_000);
    hear('QH7CTB-9', encodeMessage(ME, 'ack00'));
    hear(CART, encodeMessage('QH4MPK-7', 'ack00'));
    hear(CART, encodeMessage(ME, 'ack01'));
    expect(phase()?.kind).toBe('waiting');
    hear(CART, encodeMessage(ME, 'ack00'));
    expect(phase()).toEqual({ kind: 'acknowledged', by: CART, linkId: 'radio', afterMs: 41_000, atTry: 2 });
    clock.advance(3_600_000);
    expect(sends()).toBe(2);
    // The same again, or a rejection after it, changes nothing.
    hear(CART, encodeMessage(ME, 'rej00'));
    expect(phase()?.kind).toBe('acknowledged');
  });

  it('another SSID of the other may acknowledge, and is named; a rejection is the end', () => {
    const { write, hear, phase } = rig();
    write();
    hear('QH7CTA-5', encodeMessage(ME, 'ack00'));
    expect(phase()).toMatchObject({ kind: 'acknowledged', by: 'QH7CTA-5' });
    write({ id: 'b' });
    hear(CART, encodeMessage(ME, 'rej01'));
    expect(phase('b')).toMatchObject({ kind: 'rejected', by: CART, atTry: 1 });
  });

  it('an echoed reply-ack number acknowledges the message, and nothing of the number behind it', () => {
    const { write, hear, phase } = rig();
    write();
    write({ id: 'b' });
    hear(CART, encodeMessage(ME, 'ack01}00'));
    expect([phase()?.kind, phase('b')?.kind]).toEqual(['waiting', 'acknowledged']);
  });

  it('that came to its end unanswered is acknowledged after all, for a day', () => {
    const { clock, write, hear, phase } = rig({ tries: 1 });
    write();
    write({ id: 'b' });
    clock.advance(30_000);
    clock.advance(LATE_ANSWER_MS - 30_001);
    hear(CART, encodeMessage(ME, 'ack00'));
    expect(phase()).toMatchObject({ kind: 'acknowledged', atTry: 1 });
    clock.advance(1);
    hear(CART, encodeMessage(ME, 'ack01'));
    expect(phase('b')).toBeUndefined();
  });

  it('waits for the transmitter, and goes on when it is told of it', () => {
    const { clock, write, settings, sends, phase, book } = rig();
    settings.isArmed = false;
    write();
    clock.advance(100_000);
    expect([sends(), phase(), clock.leftovers()]).toEqual([0, { kind: 'queued' }, 0]);
    settings.isArmed = true;
    book.dispatch({ kind: 'look' });
    expect(sends()).toBe(1);
    settings.isArmed = false;
    clock.advance(1_000_000);
    expect([sends(), phase()?.kind]).toEqual([1, 'waiting']);
    settings.isArmed = true;
    book.dispatch({ kind: 'look' });
    expect(sends()).toBe(2);
  });

  it('what did not leave is no try, and is offered again after ten seconds', () => {
    const { clock, write, settings, sends, phase, one, book } = rig();
    settings.isPrompt = false;
    write();
    expect(phase()).toEqual({ kind: 'leaving' });
    book.dispatch({ kind: 'not sent', id: 'a', trouble: 'the queue is full' });
    expect([one()?.tries, phase()]).toEqual([
      [],
      { kind: 'queued', notBeforeMs: 110_000, trouble: 'the queue is full' },
    ]);
    clock.advance(9_999);
    expect(sends()).toBe(1);
    clock.advance(1);
    expect(sends()).toBe(2);
    book.dispatch({ kind: 'handed', id: 'a' });
    // Told twice, it is one.
    book.dispatch({ kind: 'not sent', id: 'a', trouble: 'x' });
    book.dispatch({ kind: 'handed', id: 'a' });
    expect([one()?.tries.length, phase()?.kind]).toEqual([1, 'waiting']);
  });

  it('is cancelled, or of no use after its time; what waits at the way out is withdrawn', () => {
    const { clock, write, settings, effects, phase, book, hear } = rig();
    write({ expiresAtMs: 145_000 });
    book.dispatch({ kind: 'cancel', id: 'a' });
    expect(phase()).toEqual({ kind: 'cancelled' });
    write({ id: 'b', expiresAtMs: 145_000 });
    settings.isPrompt = false;
    clock.advance(44_999);
    expect(phase('b')?.kind).toBe('leaving');
    clock.advance(1);
    expect(phase('b')).toEqual({ kind: 'expired' });
    expect(effects.filter(({ kind }) => kind === 'withdraw')).toEqual([{ kind: 'withdraw', id: 'b' }]);
    book.dispatch({ kind: 'cancel', id: 'b' });
    expect(phase('b')).toEqual({ kind: 'expired' });
    hear(CART, encodeMessage(ME, 'ack00'));
    expect(phase()?.kind).toBe('acknowledged');
  });

  it('acknowledged while its next try waits: that try is withdrawn and not counted', () => {
    const { clock, write, settings, effects, one, hear } = rig();
    write();
    settings.isPrompt = false;
    clock.advance(30_000);
    hear(CART, encodeMessage(ME, 'ack00'));
    expect(one()).toMatchObject({ phase: { kind: 'acknowledged', atTry: 1, afterMs: 30_000 } });
    expect(one()?.tries).toHaveLength(1);
    expect(effects.at(-1)).toEqual({ kind: 'withdraw', id: 'a' });
  });

  it('asked twice is one; sent again, it begins anew under its number; an acknowledged one does not', () => {
    const { clock, write, sends, book, hear, phase, one } = rig({ tries: 1 });
    write();
    write();
    expect(book.state().outgoing).toHaveLength(1);
    book.dispatch({ kind: 'again', id: 'a' });
    expect(sends()).toBe(1);
    clock.advance(30_000);
    book.dispatch({ kind: 'again', id: 'a' });
    expect([sends(), one()?.number]).toEqual([2, '00']);
    hear(CART, encodeMessage(ME, 'ack00'));
    book.dispatch({ kind: 'again', id: 'a' });
    expect([sends(), phase()?.kind]).toEqual([2, 'acknowledged']);
  });

  it('heard back: by whom and after how long, at its last try', () => {
    const { clock, write, hear, one, received } = rig();
    write({ text: 'Grüße' });
    clock.advance(1200);
    hear(ME, ':QH7CTA-9 :Gr\u00c3\u00bc\u00c3\u009fe{00', 'QH1ANR');
    hear(ME, ':QH7CTA-9 :Gr\u00c3\u00bc\u00c3\u009fe{00');
    expect(one()?.tries[0]?.heardBack).toEqual([{ by: 'QH1ANR', afterMs: 1200 }, { afterMs: 1200 }]);
    expect(received()).toEqual([]);
  });

  it('a bulletin bears no number, goes out three times and is told', () => {
    const { clock, write, sends, phase, infos, book } = rig();
    write({ to: 'BLN1', wantsAnswer: false });
    expect(infos()).toEqual([':BLN1     :lamps?']);
    clock.advance(30_000 + 60_000 + 120_000);
    expect([sends(), phase(), book.state().numbered]).toEqual([3, { kind: 'told' }, 0]);
  });

  it('numbers go on after a restart, and what was leaving counts as sent', () => {
    const { write, settings, book } = rig();
    settings.isPrompt = false;
    write();
    const next = rig({}, reopened(book.state(), USUAL_RULES));
    expect(next.phase()).toEqual({ kind: 'waiting', untilMs: 130_000 });
    next.book.dispatch({ kind: 'look' });
    expect(next.sends()).toBe(0);
    next.write({ id: 'b' });
    expect(next.one('b')?.number).toBe('01');
    next.clock.advance(30_000);
    expect(next.one()?.tries).toHaveLength(2);
  });
});

describe('what is heard', () => {
  it('a message for us is acknowledged and shown; repeated, it is acknowledged again and shown once', () => {
    const { clock, hear, acks, received, settings, book } = rig();
    hear(CART, ':QH4MPK-9 :soup at 7{12');
    clock.advance(SAME_TRY_MS - 1);
    // The same try by another digipeater.
    hear(CART, ':QH4MPK-9 :soup at 7{12', 'QH1TOP');
    expect(acks()).toEqual([`${CART} 12`]);
    clock.advance(SAME_TRY_MS);
    hear(CART, ':QH4MPK-9 :soup at 7{12');
    expect(acks()).toEqual([`${CART} 12`, `${CART} 12`]);
    expect(received()).toMatchObject([{ standing: 'for me', copies: 3, acksSent: 2, atMs: 100_000 }]);
    // By a way that is shut none is asked for; the next copy by one that is open is answered, however soon.
    settings.isArmed = false;
    hear(CART, ':QH4MPK-9 :lamps out{14');
    settings.isArmed = true;
    hear(CART, ':QH4MPK-9 :lamps out{14');
    hear(CART, ':QH4MPK-9 :lamps out{14');
    expect(acks().filter((ack) => ack === `${CART} 14`)).toHaveLength(1);
    book.dispatch({ kind: 'look' });
    // Another number, another text or another time is another message.
    hear(CART, ':QH4MPK-9 :soup at 7{13');
    hear(CART, ':QH4MPK-9 :soup at 8{12');
    hear(CART, ':QH4MPK-9 :no number');
    expect([received().length, acks().length]).toEqual([5, 5]);
    clock.advance(SAME_MESSAGE_MS);
    hear(CART, ':QH4MPK-9 :soup at 7{12');
    expect(received()).toMatchObject([{ copies: 1 }]);
  });

  it.each([
    [CART, ':QH4MPK-7 :to my other{1', 'for another of mine'],
    ['QH4MPK-5', ':QH7CTA-9 :from my phone{1', 'from another of mine'],
    ['QH4MPK-5', ':QH4MPK-9 :to myself{1', 'for me'],
    [CART, ':COUNTERS :all in', 'group'],
    [CART, ':BLN1     :rain at noon', 'bulletin'],
    [CART, ':BLNQ     :rain at noon', 'bulletin'],
    [CART, ':NWS-WARN :gale', 'bulletin'],
    [CART, ':QH7CTB-9 :not ours{1', undefined],
    [CART, ':OTHERS   :not ours', undefined],
    [CART, ':QH7CTA-9 :PARM.volt', undefined],
    [CART, ':QH4MPK   :to the base hut{1', 'for another of mine'],
  ])('%s%s: %s', (from, info, standing) => {
    const { hear, acks, received } = rig();
    hear(from, info);
    expect(received().map((one) => one.standing)).toEqual(standing === undefined ? [] : [standing]);
    expect(acks()).toHaveLength(standing === 'for me' ? 1 : 0);
  });

  it('names who acknowledged what another device of ours wrote or was sent', () => {
    const { hear, received } = rig();
    hear('QH4MPK-5', ':QH7CTA-9 :from my phone{1');
    hear('QH7CTB-9', ':QH4MPK-5 :ack1');
    expect(received()[0]?.acknowledgedBy).toBeUndefined();
    hear(CART, ':QH4MPK-5 :rej1');
    expect(received()[0]?.acknowledgedBy).toBeUndefined();
    hear(CART, ':QH4MPK-5 :ack1');
    expect(received()[0]?.acknowledgedBy).toBe(CART);
    hear(CART, ':QH4MPK-9 :for me{7');
    hear(ME, ':QH7CTA-9 :ack7');
    expect(received()[1]?.acknowledgedBy).toBeUndefined();
    hear('QH4MPK-5', ':QH7CTA-9 :ack7');
    expect(received()[1]?.acknowledgedBy).toBe('QH4MPK-5');
  });

  it('a reply-ack acknowledges ours, and whoever uses them is answered so', () => {
    const { hear, write, phase, infos } = rig();
    write();
    hear(CART, ':QH4MPK-9 :two, why?{AA}00');
    expect(phase()?.kind).toBe('acknowledged');
    write({ id: 'b', text: 'for hide 2' });
    write({ id: 'c', to: 'QH7CTB-9' });
    expect(infos().slice(1)).toEqual([':QH7CTA-9 :for hide 2{01}AA', ':QH7CTB-9 :lamps?{02']);
    const inviting = rig({ offersReplyAcks: true });
    inviting.write();
    expect(inviting.infos()).toEqual([':QH7CTA-9 :lamps?{00}']);
  });

  it('a reply-ack to another of ours acknowledges nothing of this book', () => {
    const { hear, write, phase } = rig();
    write();
    hear(CART, ':QH4MPK-7 :two, why?{AA}00');
    expect(phase()?.kind).toBe('waiting');
  });
});

it('numbers are two characters, and begin anew', () => {
  expect([0, 35, 36, 1295, 1296].map(numberOf)).toEqual(['00', '0Z', '10', 'ZZ', '00']);
});

it('by another clock every moment is moved, and nothing else', () => {
  const { clock, write, hear, one, settings, book, received } = rig();
  write({ expiresAtMs: 500_000 });
  clock.advance(30_000);
  expect(shifted(one() as never, 7)).toEqual({
    ...one(),
    writtenAtMs: 100_007,
    expiresAtMs: 500_007,
    tries: [
      { atMs: 100_007, heardBack: [] },
      { atMs: 130_007, heardBack: [] },
    ],
    phase: { kind: 'waiting', untilMs: 190_007 },
  });
  settings.isPrompt = false;
  write({ id: 'b' });
  book.dispatch({ kind: 'not sent', id: 'b', trouble: 'x' });
  expect(shifted(one('b') as never, 7)).toEqual({
    ...one('b'),
    writtenAtMs: 130_007,
    phase: { kind: 'queued', notBeforeMs: 140_007, trouble: 'x' },
  });
  hear(CART, ':QH4MPK-9 :a{1');
  expect(shiftedReceived(received()[0] as never, 7)).toMatchObject({ atMs: 130_007, lastCopyAtMs: 130_007 });
});
