import { concatOctets, fromLatin1 } from '../bits/octets.js';
import { start, stop, type Stepped } from '../machine/machine.js';
import type { Ending, ExchangeContext, ExchangeEffect, ExchangeState, Incoming } from './exchange.js';
import type { TroubleKind } from './trouble.js';

/** A step in the making: the state so far, and what is to be done. */
export class Draft {
  readonly effects: ExchangeEffect[] = [];

  constructor(
    public state: ExchangeState,
    readonly context: ExchangeContext,
  ) {}

  set(change: Partial<ExchangeState>): void {
    this.state = { ...this.state, ...change };
  }

  do(...effects: readonly ExchangeEffect[]): void {
    this.effects.push(...effects);
  }

  /** Lines with their CR. */
  say(...lines: readonly string[]): void {
    for (const text of lines) this.do({ kind: 'line', side: 'mine', text });
    this.do({ kind: 'say', octets: fromLatin1(lines.map((line) => `${line}\r`).join('')) });
  }

  patience(): void {
    this.do(start('patience', this.context.patienceMs));
  }

  /** The next whole line, without its end; a line end may be CR, LF or both. */
  line(): string | undefined {
    const { input } = this.state;
    const end = input.findIndex((octet) => octet === 0x0d || octet === 0x0a);
    if (end < 0) return undefined;
    let text = '';
    for (const octet of input.subarray(0, end)) text += String.fromCharCode(octet);
    const isPair = input[end] === 0x0d && input[end + 1] === 0x0a;
    this.set({ input: input.subarray(end + (isPair ? 2 : 1)) });
    if (text !== '') this.do({ kind: 'line', side: 'theirs', text });
    return text;
  }

  receive(octets: Uint8Array): void {
    this.set({ input: concatOctets(this.state.input, octets) });
  }

  settle(mid: string): void {
    this.set({ settled: [...this.state.settled, mid] });
  }

  incomingAt(at: number): Incoming {
    return this.state.incoming[at] as Incoming;
  }

  /** The last words, if any, still go out. */
  end(kind: Ending['kind'], { said, words }: { said?: string | undefined; words?: string } = {}): void {
    if (this.state.phase === 'over') return;
    if (words !== undefined) this.say(words);
    const ending: Ending = { kind, phase: this.state.phase, ...(said === undefined ? {} : { said }) };
    this.set({ phase: 'over', ending, input: new Uint8Array() });
    this.do(stop('patience'), stop('decision'), { kind: 'ended', ending }, { kind: 'hang up' });
  }

  /** What is wrong is said to the other end too. */
  refuse(kind: TroubleKind, words: string): void {
    this.end(kind, { words: `*** ${words}` });
  }

  done(): Stepped<ExchangeState, ExchangeEffect> {
    return [this.state, this.effects];
  }
}
