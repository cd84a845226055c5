import { catalogueRequest, CHECK_IN, fieldsOf, fillTemplate, KNOWN_FIELDS, positionReport } from './forms.js';
import { carriedMs, paceOf, sessionMs, sessionOctets, wireOctets } from './minutes.js';
import { answerSubject, heldBack, quoted, threadOf } from './queue.js';
import { answeredTest, makeTag, selfTestLetter, type SelfTest } from './self-test.js';

describe('minutes', () => {
  const RECKONED = { octetsPerSecond: 50, setUpMs: 30_000 };

  it('go by own sessions that carried enough, the last nine, else by the reckoning', () => {
    expect(paceOf([], RECKONED)).toEqual({ ...RECKONED, from: 'reckoning', sessions: 0 });
    expect(paceOf([{ octets: 299, setUpMs: 1, exchangeMs: 1 }], RECKONED).from).toBe('reckoning');
    expect(paceOf([{ octets: 300, setUpMs: 1, exchangeMs: 0 }], RECKONED).from).toBe('reckoning');
    expect(paceOf([{ octets: 300, setUpMs: 1, exchangeMs: 1 }], RECKONED).from).toBe('own sessions');
    const past = [40, 20, 60, 29].map((rate) => ({
      octets: rate * 10,
      setUpMs: rate * 100,
      exchangeMs: 10_000,
    }));
    expect(paceOf(past, RECKONED)).toEqual({
      octetsPerSecond: 50,
      setUpMs: 5000,
      from: 'own sessions',
      sessions: 2,
    });
    const many = Array.from({ length: 20 }, (_, i) => ({
      octets: 1000,
      setUpMs: 1,
      exchangeMs: i < 9 ? 10_000 : 1000,
    }));
    expect(paceOf(many, RECKONED)).toMatchObject({ octetsPerSecond: 100, sessions: 9 });
    expect(paceOf(many.slice(0, 3), RECKONED).octetsPerSecond).toBe(100);
  });

  it('are of all that is on the way', () => {
    const pace = paceOf([], RECKONED);
    // 500 of container, 2 blocks of 2 more, a title of 5, its frame of 8, proposal and answer 34.
    expect(wireOctets(500, 'tally')).toBe(500 + 4 + 5 + 8 + 34);
    expect(wireOctets(501, 'x'.repeat(99))).toBe(501 + 6 + 80 + 8 + 34);
    expect([sessionOctets(0), sessionOctets(5), sessionOctets(6)]).toEqual([160, 172, 184]);
    expect(carriedMs(100, pace)).toBe(2000);
    expect(sessionMs([{ packedOctets: 500, subject: 'tally' }], pace)).toBe(
      30_000 + ((172 + 551) * 1000) / 50,
    );
  });
});

describe('forms', () => {
  it('a position report has degrees and minutes that never read 60', () => {
    const { to, subject, text } = positionReport({
      latitudeDeg: -29.6,
      longitudeDeg: -11.4,
      atMs: Date.UTC(2026, 4, 3, 18, 40),
      courseDeg: 359.7,
      speedMps: 2,
      comment: 'on\nthe ridge ',
    });
    expect([to, subject]).toEqual([['QTH'], 'Position Report']);
    expect(text).toBe(
      'DATE: 2026/05/03 18:40\nLATITUDE: 29-36.00S\nLONGITUDE: 011-24.00W\nCOURSE: 000T\nSPEED: 3.9\nCOMMENT: on the ridge',
    );
    const round = positionReport({ latitudeDeg: 9.99999, longitudeDeg: 179.99999, atMs: 0, comment: '' });
    expect(round.text).toMatch('LATITUDE: 10-00.00N\nLONGITUDE: 180-00.00E\nCOMMENT: ');
    expect(round.text).not.toMatch(/COURSE|SPEED/);
  });

  it('a template asks for each field once, and what is left out has its usual value', () => {
    const template = {
      name: 'tally',
      to: 'QH3PRT, count@hollin.example',
      subject: 'Tally {date} {place}',
      text: '{place}: {terns=0} terns\n{terns} again, {call}',
    };
    expect(fieldsOf(template, KNOWN_FIELDS)).toEqual([{ name: 'terns', usual: '0' }]);
    expect(fillTemplate(template, { date: '3 May', place: 'hide', call: 'QH4MPK', terns: '' })).toEqual({
      to: ['QH3PRT', 'count@hollin.example'],
      subject: 'Tally 3 May hide',
      text: 'hide: 0 terns\n again, QH4MPK',
    });
    expect(fillTemplate(template, { terns: '41' }).text).toBe(': 41 terns\n41 again, ');
    expect(fieldsOf(CHECK_IN, KNOWN_FIELDS).map(({ name }) => name)).toEqual([
      'operators',
      'power',
      'all well',
      'remarks',
    ]);
    expect(catalogueRequest(['A', 'B'])).toEqual({ to: ['INQUIRY'], subject: 'REQUEST', text: 'A\nB' });
  });
});

describe('the queue', () => {
  it('holds back what is for the internet only, and what is not due', () => {
    expect(heldBack({ onlyInternet: true }, 'radio', 0)).toBe('only over the internet');
    expect(heldBack({ onlyInternet: true }, 'internet', 0)).toBeUndefined();
    expect(heldBack({ onlyInternet: false, afterMs: 10 }, 'radio', 9)).toBe('not before its time');
    expect(heldBack({ onlyInternet: false, afterMs: 10 }, 'radio', 10)).toBeUndefined();
  });

  it('a letter and its answers are one thread', () => {
    for (const one of ['Tally', 'Re: tally', 'RE: Fwd: Tally', 'AW: re[2]:  tally '])
      expect(threadOf(one)).toBe('tally');
    expect(answerSubject('RE: Fwd: Tally')).toBe('Re: Tally');
    expect(quoted('a\nb\n', 'QH7CTA', '3 May')).toBe('\n\nQH7CTA wrote on 3 May:\n> a\n> b\n');
  });
});

describe('the self-test', () => {
  const test = (number: number, more: Partial<SelfTest> = {}): SelfTest => ({
    number,
    tag: `T${number}ABCD`,
    mid: `MID${number}`,
    sentAtMs: number * 3_600_000,
    ...more,
  });
  const letter = (more: object): Parameters<typeof answeredTest>[1] => ({
    mid: 'X',
    from: 'TEST',
    to: [],
    cc: [],
    subject: '',
    text: '',
    files: [],
    ...more,
  });

  it('is answered by what repeats its tag or id, though several wait; else the oldest by the test address', () => {
    const all = [test(2), test(1), test(3, { answeredAtMs: 1 })];
    expect(answeredTest(all, letter({ subject: 'Re: Self-test t2abcd' }))?.number).toBe(2);
    expect(answeredTest(all, letter({ from: 'QH3PRT', text: 'your message MID1' }))?.number).toBe(1);
    expect(answeredTest(all, letter({}))?.number).toBe(1);
    expect(answeredTest(all, letter({ from: 'QH3PRT' }))).toBeUndefined();
    expect(answeredTest(all, letter({ text: 'Self-test T3ABCD' }))).toBeUndefined();
    expect(answeredTest([test(1, { sentAtMs: undefined as never })], letter({}))).toBeUndefined();
    expect(answeredTest([test(1)], letter({ dateMs: 3_540_000 }))?.number).toBe(1);
    expect(answeredTest([test(1)], letter({ dateMs: 3_539_999 }))).toBeUndefined();
  });

  it('has a tag of its own, in subject and text', () => {
    expect(makeTag(12, () => 0)).toBe('T12AAAA');
    expect(selfTestLetter('T12AAAA', 'mobile – cable')).toMatchObject({
      to: ['TEST'],
      subject: 'Self-test T12AAAA',
      text: expect.stringMatching(/T12AAAA[^]*mobile – cable/),
    });
  });
});
