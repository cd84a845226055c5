import { encodeMessage, readMessage } from '../aprs/message.js';
import { isMalformed } from '../bits/malformed.js';
import { drive, type Driven } from '../machine/drive.js';
import { seededDice } from '../network/dice.js';
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
} from '../messages/book.js';
import { isOpen, type Outgoing } from '../messages/entries.js';
import { LATE_ANSWER_MS, mostTries, USUAL_RULES, type MessageRules } from '../messages/rules.js';

/**
 * Two books over a bad channel, from a seed: loss, duplication, reordering, delay, garbling, answers to others, and a crash
 * of either between any two effects, after which only what was kept is there. The same seed is the same trial.
 */
export interface TrialFindings {
  readonly faults: readonly string[];
  readonly acknowledged: number;
  readonly crashes: number;
  readonly resent: number;
}

const HOUR_MS = 3_600_000;
const CALLS = ['QH4MPK-9', 'QH7CTA-9'] as const;
const LINK = 'link';

interface Channel {
  readonly loss: number;
  readonly doubles: number;
  readonly garbles: number;
  readonly longestDelayMs: number;
  readonly refuses: number;
  crashes: number;
}

/** One station: its book, what of it is on disk, and what it showed its operator. */
class Station {
  driven: Driven<Book, BookEvent>;
  private kept: Book = EMPTY_BOOK;
  readonly shown: string[] = [];
  readonly handed = new Map<string, number>();
  readonly acks: string[] = [];
  crashes = 0;
  isArmed = true;
  private life = 0;

  constructor(
    readonly call: string,
    private readonly clock: Timetable,
    private readonly dice: () => number,
    private readonly channel: Channel,
    private readonly rules: MessageRules,
    private readonly air: (from: string, info: string) => void,
  ) {
    this.driven = this.open();
  }

  end(): void {
    this.driven.end();
  }

  private open(): Driven<Book, BookEvent> {
    const life = ++this.life;
    const context = (moment: { atMs: number; dice: number }): BookContext => ({
      ...moment,
      rules: this.rules,
      licence: this.call.split('-')[0] as string,
      answersFor: [this.call],
      groups: [],
      mayLeave: () => this.isArmed,
    });
    const driven = drive<Book, BookEvent, BookEffect, BookContext>(step, reopened(this.kept, this.rules), {
      clock: this.clock,
      context,
      perform: (effect) => {
        // A process that has ended carries out nothing more.
        if (life !== this.life) return;
        if (this.dice() < this.channel.crashes) return this.crash();
        this.perform(effect, driven);
      },
    });
    return driven;
  }

  private crash(): void {
    this.crashes++;
    this.driven.end();
    this.driven = this.open();
    this.clock.after(this.dice() * 60_000, () => this.driven.dispatch({ kind: 'look' }));
  }

  private perform(effect: BookEffect, driven: Driven<Book, BookEvent>): void {
    const replaced = <Entry extends { id: string }>(all: readonly Entry[], one: Entry): Entry[] => [
      ...all.filter(({ id }) => id !== one.id),
      one,
    ];
    switch (effect.kind) {
      case 'keep':
        this.kept = {
          ...this.kept,
          numbered: effect.numbered,
          outgoing: replaced(this.kept.outgoing, effect.message),
        };
        return;
      case 'keep received':
        // Copies of our own that came back garbled are shown as another device's.
        if (
          effect.message.standing === 'for me' &&
          !this.kept.received.some(({ id }) => id === effect.message.id)
        )
          this.shown.push(effect.message.text);
        this.kept = { ...this.kept, received: replaced(this.kept.received, effect.message) };
        return;
      case 'send':
        return void this.clock.after(this.dice() * 3000, () => this.leave(effect, driven));
      case 'ack':
        this.acks.push(`${effect.to} ${effect.number}`);
        this.air(effect.from, encodeMessage(effect.to, `ack${effect.number}`));
        return driven.dispatch({ kind: 'ack left', id: effect.id });
    }
  }

  private leave(
    { message, info }: Extract<BookEffect, { kind: 'send' }>,
    driven: Driven<Book, BookEvent>,
  ): void {
    const isStill =
      driven === this.driven &&
      driven.state().outgoing.find(({ id }) => id === message.id)?.phase.kind === 'leaving';
    if (!isStill) return;
    if (this.dice() < this.channel.refuses)
      return driven.dispatch({ kind: 'not sent', id: message.id, trouble: 'the channel is busy' });
    this.handed.set(message.id, (this.handed.get(message.id) ?? 0) + 1);
    this.air(message.from, info);
    driven.dispatch({ kind: 'handed', id: message.id });
  }
}

/** messages: so many from each side, some of them cancelled or of no use after a while. */
export function runTrial(seed: number, messages = 4): TrialFindings {
  const dice = seededDice(seed);
  const clock = new Timetable(1000);
  const channel: Channel = {
    loss: dice() * 0.6,
    doubles: dice() * 0.5,
    garbles: dice() * 0.1,
    longestDelayMs: dice() * 40_000,
    refuses: dice() * 0.2,
    crashes: dice() < 0.7 ? dice() * 0.05 : 0,
  };
  const heardIds = { next: 0 };
  const stations: Station[] = [];
  const air = (from: string, info: string): void => {
    for (const one of stations) {
      const copies = dice() < channel.doubles ? 2 : 1;
      for (let i = 0; i < copies; i++) {
        if (dice() < channel.loss) continue;
        // What gets past the FCS or comes from elsewhere: it is to somebody else.
        const garbled = dice() < channel.garbles ? `:${info.slice(2, 10)}Z${info.slice(10)}` : info;
        clock.after(500 + dice() * channel.longestDelayMs, () => hear(one, from, garbled));
      }
    }
  };
  const hear = (one: Station, from: string, info: string): void => {
    const report = info.length > 10 ? readMessage(info) : undefined;
    if (!report || isMalformed(report)) return;
    const id = `h${heardIds.next++}`;
    one.driven.dispatch({ kind: 'heard', heard: { id, linkId: LINK, from, report } });
  };
  for (const call of CALLS) stations.push(new Station(call, clock, dice, channel, USUAL_RULES, air));
  const written = writeAll(stations, clock, dice, messages);
  // Somebody answers a message that is not ours, with a number of ours.
  for (let i = 0; i < 6; i++)
    clock.after(dice() * HOUR_MS, () =>
      air('QH7CTB-9', encodeMessage(dice() < 0.5 ? 'QH4MPK-5' : 'QH8CLA-7', `ack0${i}`)),
    );
  for (const one of stations)
    for (let i = 0; i < 2; i++) {
      clock.after(dice() * HOUR_MS, () => (one.isArmed = false));
      clock.after(dice() * HOUR_MS + HOUR_MS / 2, () => {
        one.isArmed = true;
        one.driven.dispatch({ kind: 'look' });
      });
    }
  clock.advance(HOUR_MS * 1.5);
  channel.crashes = 0;
  // A command that a crash swallowed is asked again by the page.
  for (const { by, message } of written.values()) stations[by]?.driven.dispatch({ kind: 'write', message });
  for (const one of stations) {
    one.isArmed = true;
    one.driven.dispatch({ kind: 'look' });
  }
  clock.advance(HOUR_MS * 2);
  const faults = judge(stations, written);
  const ends = stations.flatMap((one) => one.driven.state().outgoing);
  for (const one of stations) one.end();
  return {
    faults,
    acknowledged: ends.filter(({ phase }) => phase.kind === 'acknowledged').length,
    crashes: stations.reduce((sum, { crashes }) => sum + crashes, 0),
    resent: ends.reduce((sum, { tries }) => sum + Math.max(0, tries.length - 1), 0),
  };
}

type WrittenBy = ReadonlyMap<string, { readonly by: number; readonly message: Written }>;

function writeAll(
  stations: readonly Station[],
  clock: Timetable,
  dice: () => number,
  messages: number,
): WrittenBy {
  const written = new Map<string, { by: number; message: Written }>();
  stations.forEach((one, by) => {
    for (let i = 0; i < messages; i++) {
      const id = `${by}-${i}`;
      const text = `count ${by} ${i}`;
      const atMs = dice() * HOUR_MS;
      const expires = dice() < 0.2 ? { expiresAtMs: 1000 + atMs + dice() * HOUR_MS } : {};
      const to = CALLS[1 - by] as string;
      const message = { id, from: one.call, to, text, linkId: LINK, path: '', wantsAnswer: true, ...expires };
      written.set(id, { by, message });
      for (let times = dice() < 0.2 ? 2 : 1; times > 0; times--)
        clock.after(atMs, () => one.driven.dispatch({ kind: 'write', message }));
      if (dice() < 0.15)
        clock.after(atMs + dice() * HOUR_MS, () => one.driven.dispatch({ kind: 'cancel', id }));
    }
  });
  return written;
}

function judge(stations: readonly Station[], written: WrittenBy): string[] {
  const faults: string[] = [];
  const ends = stations.flatMap((one) => one.driven.state().outgoing);
  if (ends.length < written.size) faults.push('a message is not there');
  for (const one of ends) if (isOpen(one)) faults.push(`${one.id} has not come to an end: ${one.phase.kind}`);
  for (const [by, one] of stations.entries()) {
    for (const [id, times] of one.handed)
      if (times > mostTries(true, USUAL_RULES)) faults.push(`${id} went out ${times} times`);
    const numbers = one.driven.state().outgoing.map(({ number }) => number);
    if (new Set(numbers).size < numbers.length) faults.push(`${one.call} gave a number away twice`);
    for (const text of new Set(one.shown)) {
      if (one.shown.filter((other) => other === text).length > 1) faults.push(`“${text}” was shown twice`);
      const is = [...written.values()].some((message) => message.by !== by && message.message.text === text);
      if (!is) faults.push(`“${text}” was shown and never written`);
    }
    for (const ack of one.acks)
      if (!ack.startsWith(`${CALLS[1 - by] as string} `)) faults.push(`${one.call} acknowledged ${ack}`);
  }
  for (const one of ends) faults.push(...judgeAck(one, stations));
  return faults;
}

/** Only what the other side was shown is acknowledged. */
function judgeAck({ id, from, text, phase, tries }: Outgoing, stations: readonly Station[]): string[] {
  if (phase.kind !== 'acknowledged') return [];
  const other = stations.find(({ call }) => call !== from) as Station;
  const faults = other.shown.includes(text) ? [] : [`${id} is acknowledged and was never shown`];
  if (phase.afterMs < 0 || phase.afterMs > LATE_ANSWER_MS) faults.push(`${id}: after ${phase.afterMs} ms`);
  if (phase.atTry !== tries.length) faults.push(`${id}: at try ${phase.atTry} of ${tries.length}`);
  return faults;
}
