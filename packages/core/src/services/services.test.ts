import { compose, FORM_KINDS, roomLeft, troubleWithForm, type ServiceForm } from './form.js';
import { answersTo, recordOf, stageOf, type Stage } from './outcome.js';

const PHONE: ServiceForm = {
  ...(FORM_KINDS.phone as ServiceForm),
  addressee: 'HTEXT',
  fields: [
    { name: 'number', label: 'Number', kind: 'number', digits: 7, prefix: '999' },
    { name: 'text', label: 'Text', kind: 'text' },
  ],
};

describe('a form', () => {
  it.each([
    [{ number: '999 0107', text: 'soup' }, '@9990107 soup'],
    [{ number: '+999-01(07)', text: ' soup ' }, '@9990107 soup'],
  ])('makes the strict text of %j', (values, text) =>
    expect(compose(PHONE, values)).toEqual({ ok: true, text }),
  );

  it.each<[Record<string, string>, string, string]>([
    [{ text: 'soup' }, 'number', 'fill it in'],
    [{ number: '999010', text: 'soup' }, 'number', '6 digits; this service wants 7, beginning with 999'],
    [{ number: '99901077', text: 'soup' }, 'number', '8 digits'],
    [{ number: '1990107', text: 'soup' }, 'number', 'it has to begin with 999'],
    [{ number: '999o107', text: 'soup' }, 'number', 'a number has digits only'],
    [{ number: '9990107', text: ' ' }, 'text', 'fill it in'],
    [{ number: '9990107', text: 'a|b' }, 'text', '“|” may not stand in a message'],
    [{ number: '9990107', text: 'x'.repeat(59) }, 'text', '68 octets, 1 too many'],
  ])('%j: %s', (values, field, trouble) => {
    const made = compose(PHONE, values);
    expect(made).toMatchObject({ ok: false, field });
    expect(made.ok ? '' : made.trouble).toContain(trouble);
  });

  it('without a prefix it says so; the room is what is left of 67 octets', () => {
    const form = {
      ...PHONE,
      fields: [{ name: 'number', label: '', kind: 'number' as const, digits: 7 }, PHONE.fields[1]!],
    };
    expect(compose(form, { number: '1', text: 'x' })).toMatchObject({
      trouble: '1 digits; this service wants 7, without a country prefix',
    });
    expect(compose(form, { number: '1234567', text: 'x' })).toMatchObject({ ok: true });
    expect(roomLeft(PHONE, { number: '9990107', text: 'süp' })).toBe(67 - 9 - 4);
  });

  it.each([
    ['address', 'a@b.example', undefined],
    ['address', 'a@b', 'a mail address'],
    ['address', 'a b@c.example', 'a mail address'],
    ['word', 'now', undefined],
    ['word', 'then', 'it knows now, tonight'],
    ['word', 'a b', 'one word'],
  ] as const)('%s %s', (kind, value, trouble) => {
    const form: ServiceForm = {
      name: '',
      addressee: 'X',
      template: '{a}',
      fields: [{ name: 'a', label: '', kind, words: ['now', 'tonight'] }],
      optIn: '',
      deliveredMark: '',
    };
    const made = compose(form, { a: value });
    expect(made.ok ? undefined : made.trouble).toEqual(
      trouble === undefined ? undefined : expect.stringContaining(trouble),
    );
    const any = { ...form, fields: [{ name: 'a', label: '', kind: 'word' as const, words: [] }] };
    expect(compose(any, { a: 'then' }).ok).toBe(true);
  });

  it('is refused where template and fields do not fit; those to begin with do', () => {
    expect(troubleWithForm({ template: '{a}', fields: [] })).toContain('no field “a”');
    expect(troubleWithForm({ template: 'x', fields: PHONE.fields })).toContain('{number}');
    for (const form of Object.values(FORM_KINDS)) expect(troubleWithForm(form)).toBeUndefined();
  });
});

describe('what became of a message to a service', () => {
  const sent = (kind: string, writtenAtMs: number, by?: string) => ({
    to: 'HTEXT',
    from: 'QH4MPK-7',
    writtenAtMs,
    tries: [{ heardBack: by === undefined ? [{}] : [{ by }] }],
    phase: { kind },
  });
  const got = (text: string, atMs: number, from = 'HTEXT', to = 'QH4MPK-7') => ({ text, atMs, from, to });

  it.each<[Stage, ReturnType<typeof sent>, string[]]>([
    ['on its way', sent('waiting', 0), []],
    ['repeated', sent('waiting', 0, 'QH1ANR'), []],
    ['taken', sent('acknowledged', 0, 'QH1ANR'), []],
    ['delivered', sent('acknowledged', 0), ['Delivered to 9990107']],
    ['delivered', sent('no answer', 0), ['delivered to 9990107']],
    ['answered', sent('acknowledged', 0), ['delivered', 'thank you']],
    ['answered', sent('waiting', 0), ['no such number']],
    ['failed', sent('no answer', 0, 'QH1ANR'), []],
    ['failed', sent('rejected', 0), []],
    ['failed', sent('expired', 0), []],
  ])('%s', (stage, message, answers) =>
    expect(
      stageOf(
        message,
        answers.map((text) => got(text, 1)),
        'delivered',
      ),
    ).toBe(stage),
  );

  it('a service that never says so delivers nothing, it answers', () =>
    expect(stageOf(sent('acknowledged', 0), [got('delivered', 1)], '')).toBe('answered'));

  it('answers belong to the last question before them', () => {
    const [first, second] = [sent('acknowledged', 100), sent('acknowledged', 200)];
    const all = [
      got('early', 99),
      got('a', 100),
      got('other', 150, 'HSKY'),
      got('not me', 150, 'HTEXT', 'QH4MPK-9'),
      got('b', 199),
      got('c', 200),
      got('d', 86_400_199),
      got('late', 86_400_200),
    ];
    const texts = (message: ReturnType<typeof sent>) =>
      answersTo(message, [first, second, { ...sent('x', 120), to: 'HSKY' }], all).map(({ text }) => text);
    expect(texts(first)).toEqual(['a', 'b']);
    expect(texts(second)).toEqual(['c', 'd']);
  });

  it('two failures on end: it may be closed', () => {
    const stages: Stage[] = ['taken', 'failed', 'answered', 'failed', 'failed', 'on its way', 'repeated'];
    const messages = stages.map((_, i) => sent('x', i * 100));
    const stage = (message: { writtenAtMs: number }): Stage => stages[message.writtenAtMs / 100] as Stage;
    expect(recordOf([...messages].reverse(), stage)).toEqual({
      asked: 5,
      worked: 2,
      lastWorkedAtMs: 200,
      mayBeClosed: true,
    });
    expect(recordOf(messages.slice(0, 4), stage).mayBeClosed).toBe(false);
    expect(recordOf(messages.slice(1, 2), stage)).toEqual({ asked: 1, worked: 0, mayBeClosed: false });
    expect(recordOf([{ ...sent('cancelled', 100) }, ...messages.slice(3, 4)], stage).asked).toBe(1);
  });
});
