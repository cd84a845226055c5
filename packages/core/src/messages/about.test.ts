import { readAddressee, meantPerhaps, strokesBetween, wantsAnswer } from './addressee.js';
import { answerTo, SILENT, type Knowledge } from './auto-answer.js';
import { reckonCorrespondents } from './correspondents.js';
import { sortBulletins, sortConversations } from './conversations.js';
import type { Outgoing, Phase, Standing } from './entries.js';
import { HeardCounts } from './heard-counts.js';
import { checkInText, isNear, nextBeginning, type Net } from './nets.js';
import { USUAL_RULES } from './rules.js';
import { octetsOf, troubleWithText } from './text.js';
import { spell, standingInWords } from './words.js';

describe('the text of a message (1.0.1, "Message format")', () => {
  it.each([
    ['', 'write something'],
    ['a|b', '“|” may not stand in a message'],
    ['a~b', '“~” may not stand in a message'],
    ['a{b', '“{” may not stand in a message'],
    ['a\nb', 'a line break or a control character'],
    ['x'.repeat(68), '68 octets, 1 too many: at most 67'],
    ['ü'.repeat(34), '68 octets, 1 too many'],
    ['ack12', 'it would be read as an acknowledgement'],
    ['rej1', 'it would be read as an acknowledgement'],
  ])('%j: %s', (text, trouble) => expect(troubleWithText('QH7CTA-9', text)).toContain(trouble));

  it.each(['x'.repeat(67), 'ü'.repeat(33), 'acknowledge please', 'a}b', '?APRSD'])('%j may go out', (text) =>
    expect(troubleWithText('QH7CTA-9', text)).toBeUndefined(),
  );

  it('counts octets, not characters', () => {
    expect(['a', 'ü', '€', '😀', '\ud83d'].map(octetsOf)).toEqual([1, 2, 3, 4, 3]);
  });
});

describe('an addressee', () => {
  it.each([
    [' qh7cta-9 ', 'QH7CTA-9', 'station'],
    ['QH7CTA-0', 'QH7CTA', 'station'],
    ['HTEXT', 'HTEXT', 'station'],
    ['QH7CTA-AB', 'QH7CTA-AB', 'station'],
    ['BLN3', 'BLN3', 'bulletin'],
    ['BLNX', 'BLNX', 'announcement'],
    ['BLN1WX', 'BLN1WX', 'group bulletin'],
    ['counters', 'COUNTERS', 'group'],
  ])('%s', (typed, to, kind) => {
    expect(readAddressee(typed, ['COUNTERS'])).toEqual({ ok: true, to, kind });
    expect(wantsAnswer(kind as 'station')).toBe(kind === 'station');
  });

  it.each(['', 'TOOLONGNAME', 'QH7 CTA', '-9'])('%j is none', (typed) =>
    expect(readAddressee(typed, []).ok).toBe(false),
  );

  it('a call never heard is compared with those that were', () => {
    const heard = ['QH7CTA-9', 'QH7CTB-9', 'QH8CLA-7', 'QH7CAT-1'];
    expect(meantPerhaps('QH7CAT-9', heard)).toEqual(['QH7CAT-1', 'QH7CTA-9']);
    expect(meantPerhaps('QH8CLA', heard)).toEqual(['QH8CLA-7']);
    expect(meantPerhaps('QH7CTA-9', heard)).toEqual([]);
    expect(meantPerhaps('QH5VEL-10', heard)).toEqual([]);
  });

  it.each([
    ['abc', 'abc', 0],
    ['abc', 'acb', 1],
    ['abc', 'ab', 1],
    ['ab', 'abc', 1],
    ['abc', 'axc', 1],
    ['abc', 'cab', 2],
    ['', 'abc', 3],
  ])('%s to %s: %d', (one, other, strokes) => expect(strokesBetween(one, other)).toBe(strokes));
});

const message = (phase: Phase, tries = 2, more: Partial<Outgoing> = {}): Outgoing => ({
  id: 'a',
  from: 'QH4MPK-9',
  to: 'QH7CTA-9',
  text: 'x',
  number: '00',
  linkId: 'radio',
  path: '',
  writtenAtMs: 0,
  tries: Array.from({ length: tries }, (_, i) => ({ atMs: i * 30_000, heardBack: [] })),
  phase,
  ...more,
});

describe('how it stands, in words', () => {
  it.each<[string, Outgoing, string?]>([
    ['queued', message({ kind: 'queued' }, 0)],
    ['queued, waits for the transmitter', message({ kind: 'queued' }, 0), 'the transmitter'],
    ['sent 2 of 6, the queue is full', message({ kind: 'queued', trouble: 'the queue is full' })],
    ['on its way out', message({ kind: 'leaving' }, 1)],
    ['on its way out, try 2 of 6', message({ kind: 'leaving' })],
    ['sent 2 of 6, next in 1 min 50 s', message({ kind: 'waiting', untilMs: 210_000 })],
    ['sent 6 of 6, given up in 8 min', message({ kind: 'waiting', untilMs: 580_000 }, 6)],
    [
      'sent 3 of 3, done in 10 s',
      { ...message({ kind: 'waiting', untilMs: 110_000 }, 3, {}), number: undefined as never },
    ],
    [
      'sent 2 of 6, waits for the transmitter',
      message({ kind: 'waiting', untilMs: 100_000 }),
      'the transmitter',
    ],
    ['sent 2 of 6, next in 1 s', message({ kind: 'waiting', untilMs: 100_600 }), 'the transmitter'],
    [
      'acknowledged by QH7CTA-9 after 41 s, at try 2',
      message({ kind: 'acknowledged', by: 'QH7CTA-9', linkId: 'radio', afterMs: 41_000, atTry: 2 }),
    ],
    [
      'rejected by QH7CTA-5, not by QH7CTA-9 after 1 h 1 min, at try 2',
      message({ kind: 'rejected', by: 'QH7CTA-5', linkId: 'radio', afterMs: 3_665_000, atTry: 2 }),
    ],
    [
      'acknowledged by QH7CTA-9 after 41 s, at try 2, heard by another way',
      message({ kind: 'acknowledged', by: 'QH7CTA-9', linkId: 'wire', afterMs: 41_000, atTry: 2 }),
    ],
    ['no answer after 2 tries', message({ kind: 'no answer' })],
    ['no answer after one try', message({ kind: 'no answer' }, 1)],
    ['sent once', message({ kind: 'told' }, 1)],
    ['sent 3 times', message({ kind: 'told' }, 3)],
    ['cancelled before it was sent', message({ kind: 'cancelled' }, 0)],
    ['cancelled, sent 2 of 6', message({ kind: 'cancelled' })],
    ['expired before it was sent', message({ kind: 'expired' }, 0)],
    ['expired, sent 2 of 6', message({ kind: 'expired' })],
  ])('%s', (words, one, ...[waitsFor]) =>
    expect(standingInWords(one, USUAL_RULES, 100_000, waitsFor)).toBe(words),
  );

  it('times', () =>
    expect([0, 499, 59_499, 60_000, 110_000, 3_600_000].map(spell)).toEqual([
      '0 s',
      '0 s',
      '59 s',
      '1 min',
      '1 min 50 s',
      '1 h 0 min',
    ]));
});

describe('correspondents', () => {
  const acked = (to: string, afterMs: number, atTry: number): Outgoing =>
    message({ kind: 'acknowledged', by: to, linkId: 'radio', afterMs, atTry }, atTry, { to });

  it('how often at the first try, and the usual time', () => {
    const messages = [
      message({ kind: 'no answer' }, 6, { to: 'QH8BTA-8' }),
      acked('QH7CTA-9', 5000, 1),
      acked('QH7CTA-9', 7000, 1),
      acked('QH7CTA-9', 40_000, 2),
      message({ kind: 'no answer' }),
      message({ kind: 'cancelled' }),
      message({ kind: 'waiting', untilMs: 0 }),
      acked('QH8CLA-7', 3000, 1),
      acked('QH8CLA-7', 5000, 2),
      { ...message({ kind: 'told' }), to: 'BLN1' },
    ];
    expect(reckonCorrespondents(messages)).toEqual([
      {
        call: 'QH7CTA-9',
        ended: 4,
        acknowledged: 3,
        firstTryRate: 2 / 3,
        usualMs: 7000,
        lastAckAtMs: 40_000,
      },
      { call: 'QH8CLA-7', ended: 2, acknowledged: 2, firstTryRate: 0.5, usualMs: 4000, lastAckAtMs: 5000 },
      { call: 'QH8BTA-8', ended: 1, acknowledged: 0 },
    ]);
  });
});

describe('a net', () => {
  const net: Net = {
    name: 'Evening count',
    weekday: 3,
    time: '19:30',
    zoneMin: -60,
    addressee: 'COUNTERS',
    template: 'CQ {call} {locator}, {name}',
    remindMin: 15,
  };
  // 2026-04-15 was a Wednesday; 19:30 one hour behind UTC is 20:30 UTC.
  const beginning = Date.parse('2026-04-15T20:30:00Z');

  it('begins each week on its day, in its zone', () => {
    expect(nextBeginning(net, beginning - 1)).toBe(beginning);
    expect(nextBeginning(net, beginning)).toBe(beginning);
    expect(nextBeginning(net, beginning + 1)).toBe(beginning + 7 * 86_400_000);
    const late = { ...net, weekday: 6, time: '23:30', zoneMin: -120 };
    // Saturday night there is Sunday morning in UTC.
    expect(new Date(nextBeginning(late, beginning)).toISOString()).toBe('2026-04-19T01:30:00.000Z');
    const early = { ...net, weekday: 0, time: '00:15', zoneMin: 600 };
    expect(new Date(nextBeginning(early, beginning)).toISOString()).toBe('2026-04-18T14:15:00.000Z');
  });

  it('reminds so long before', () => {
    expect([-900_001, -900_000, 0, 1].map((ms) => isNear(net, beginning + ms))).toEqual([
      false,
      true,
      true,
      false,
    ]);
  });

  it('fills the check-in text; what is not known is left out', () => {
    expect(checkInText(net.template, { call: 'QH4MPK', locator: 'IG40', name: 'hut' })).toBe(
      'CQ QH4MPK IG40, hut',
    );
    expect(checkInText('CQ {call} {locator}', { call: 'QH4MPK' })).toBe('CQ QH4MPK');
  });
});

describe('answers without a person', () => {
  const knowledge: Knowledge = {
    direct: ['QH1ANR', 'QH7CTA-9'],
    heardCounts: (call) => (call === 'QH1ANR' ? [2, 0, 5] : undefined),
    way: 'QH7CTA-9>APZMPK,QH1ANR*',
  };
  const all = { heardDirect: true, heardStation: true, way: true, position: true, text: 'on the cliff' };
  const ask = (text: string, name?: string, number?: string) => ({
    text,
    ...(name === undefined ? {} : { query: { name } }),
    number,
  });

  it.each([
    [ask('?APRSD', 'APRSD'), { kind: 'text', text: 'Directs= QH1ANR QH7CTA-9' }],
    [ask('?APRSH QH1ANR', 'APRSH'), { kind: 'text', text: 'QH1ANR HEARD: 2 . 5' }],
    [ask('?APRSH QH9BLN-1', 'APRSH'), undefined],
    [ask('?APRSH', 'APRSH'), undefined],
    [ask('?APRST', 'APRST'), { kind: 'text', text: 'PATH= QH7CTA-9>APZMPK,QH1ANR*' }],
    [ask('?PING?', 'PING'), { kind: 'text', text: 'PATH= QH7CTA-9>APZMPK,QH1ANR*' }],
    [ask('?APRSP', 'APRSP'), { kind: 'position' }],
    [ask('?APRSM', 'APRSM'), undefined],
    [ask('where are you?', undefined, '1'), { kind: 'text', text: 'on the cliff' }],
    [ask('on the road'), undefined],
  ])('%j', (question, answer) => {
    expect(answerTo(question, all, knowledge)).toEqual(answer);
    expect(answerTo(question, SILENT, knowledge)).toBeUndefined();
  });
});

describe('conversations', () => {
  const sent = (to: string, writtenAtMs: number) => ({ id: `s${writtenAtMs}`, to, writtenAtMs });
  const heard = (standing: Standing, from: string, to: string, atMs: number, text = 'x') => ({
    id: `h${atMs}`,
    standing,
    from,
    to,
    text,
    atMs,
  });
  const lines = [
    heard('for me', 'QH7CTA-9', 'QH4MPK-9', 20),
    heard('for another of mine', 'QH7CTA-9', 'QH4MPK-5', 40),
    heard('from another of mine', 'QH4MPK-5', 'QH7CTA-9', 30),
    heard('group', 'QH8CLA-7', 'COUNTERS', 50),
    heard('bulletin', 'QH3PRT-10', 'BLN1', 60),
  ];

  it('are by the other side, in order of time; what is ours or a bulletin is not unread in them', () => {
    const all = sortConversations([sent('QH7CTA-9', 10), sent('BLN2', 70)], lines, { 'QH7CTA-9': 20 }, [
      'COUNTERS',
    ]);
    expect(
      all.map((one) => [one.with, one.kind, one.unread, one.lastAtMs, one.lines.map(({ atMs }) => atMs)]),
    ).toEqual([
      ['COUNTERS', 'group', 1, 50, [50]],
      ['QH7CTA-9', 'station', 1, 40, [10, 20, 30, 40]],
    ]);
  });

  it('bulletins stand as they were told last', () => {
    const told = [
      heard('bulletin', 'QH3PRT-10', 'BLN1', 60, 'new'),
      heard('bulletin', 'QH3PRT-10', 'BLN1', 10, 'old'),
      heard('bulletin', 'QH3PRT-10', 'BLN2', 70),
      heard('bulletin', 'QH1ANR', 'BLN1', 65),
      heard('group', 'QH1ANR', 'COUNTERS', 90),
    ];
    expect(sortBulletins(told).map(({ atMs }) => atMs)).toEqual([70, 65, 60]);
  });
});

describe('how often a station was heard', () => {
  const HOUR = 3_600_000;
  it('by hour, the present one first; direct ones for an hour', () => {
    const heard = new HeardCounts();
    heard.note('QH1ANR', true, 10 * HOUR);
    heard.note('QH1ANR', false, 10 * HOUR + 1);
    heard.note('QH7CTA-9', true, 11 * HOUR - 1);
    heard.note('QH1ANR', false, 12 * HOUR);
    expect(heard.counts('QH1ANR', 12 * HOUR)).toEqual([1, 0, 2, 0, 0, 0, 0, 0]);
    expect(heard.counts('QH7CTA-9', 10 * HOUR)?.[0]).toBe(1);
    expect(heard.counts('QH8CLA-7', 12 * HOUR)).toBeUndefined();
    expect(heard.direct(11 * HOUR - 1)).toEqual(['QH7CTA-9', 'QH1ANR']);
    expect(heard.direct(11 * HOUR)).toEqual(['QH7CTA-9']);
    expect(heard.direct(12 * HOUR - 1)).toEqual([]);
  });

  it('forgets what is older than eight hours, and the longest unheard of very many', () => {
    const heard = new HeardCounts();
    heard.note('QH1ANR', true, 0);
    heard.note('QH1ANR', true, 8 * HOUR);
    expect(heard.counts('QH1ANR', 7 * HOUR)).toBeUndefined();
    for (let i = 0; i < 5000; i++) heard.note(`Q${i}`, false, 9 * HOUR);
    expect(heard.counts('QH1ANR', 9 * HOUR)).toBeUndefined();
    expect(heard.counts('Q0', 9 * HOUR)?.[0]).toBe(1);
  });
});
