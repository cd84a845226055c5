import { Inject, Injectable } from '@nestjs/common';
import { answeredTest, makeTag, selfTestLetter } from '@mistpeak/core/mail/self-test';
import type { ReadLetter } from '@mistpeak/core/mail/letter';
import type { MailRow } from '@mistpeak/contract/mail';
import type { SelfTestView } from '@mistpeak/contract/mail-session';
import type { Clock } from '@mistpeak/link/clock';
import { CLOCK } from '../adapters/system-clock.js';
import { dice, MailBoxService } from './box.service.js';
import { MailRunStore } from './run-store.js';

/** Messages to the test address: numbered, and matched with their answers. */
@Injectable()
export class MailSelfTests {
  private tests: SelfTestView[] = [];

  constructor(
    @Inject(CLOCK) private readonly clock: Clock,
    private readonly boxes: MailBoxService,
    private readonly store: MailRunStore,
  ) {}

  async read(): Promise<void> {
    this.tests = await this.store.selfTests();
  }

  views(): readonly SelfTestView[] {
    return this.tests;
  }

  /** Posts one. The same id again is the same test. */
  async order(id: string, chain: string): Promise<SelfTestView> {
    const number = await this.store.nextSelfTest();
    const tag = makeTag(number, dice);
    const { to, subject, text } = selfTestLetter(tag, chain);
    const row: MailRow = await this.boxes.write(id, {
      to,
      cc: [],
      subject,
      text,
      files: [],
      beyondLatin1: 'utf-8',
      precedence: 'routine',
      onlyInternet: false,
      box: 'outbox',
    });
    const known = this.tests.find(({ mid }) => mid === row.mid);
    if (known) return known;
    const test = { number, tag, mid: row.mid, chain, atMs: this.clock.nowMs() };
    await this.store.addSelfTest(test);
    this.tests = [test, ...this.tests];
    return test;
  }

  noteSent(mid: string): void {
    const test = this.tests.find((one) => one.mid === mid && one.sentAtMs === undefined);
    if (test) this.change(test, 'sent_at', (sentAtMs) => ({ sentAtMs }));
  }

  /** The test that a letter answers, if it does. */
  noteReceived(letter: ReadLetter): SelfTestView | undefined {
    const found = answeredTest(this.tests, letter);
    const test = this.tests.find(({ number }) => number === found?.number);
    if (test) this.change(test, 'answered_at', (answeredAtMs) => ({ answeredAtMs }));
    return test;
  }

  /** One time, for what is shown and for what is kept. */
  private change(
    test: SelfTestView,
    column: 'sent_at' | 'answered_at',
    changeAt: (atMs: number) => Partial<SelfTestView>,
  ): void {
    const atMs = Math.floor(this.clock.nowMs());
    this.tests = this.tests.map((one) => (one === test ? { ...one, ...changeAt(atMs) } : one));
    void this.store.noteSelfTest(test.number, column, atMs);
  }
}
