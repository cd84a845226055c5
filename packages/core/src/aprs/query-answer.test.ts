import fc from 'fast-check';
import { fromLatin1 } from '../bits/octets.js';
import { encodeMessage, LONGEST_MESSAGE } from './message.js';
import { parseAprs } from './parse.js';
import { encodeQueryAnswer, readQueryAnswer } from './query-answer.js';
import type { QueryAnswer } from './report.js';

const call = fc
  .tuple(fc.stringMatching(/^[A-Z][A-Z0-9]{2,5}$/), fc.nat(15))
  .map(([base, ssid]) => (ssid ? `${base}-${ssid}` : base));
const anyAnswer: fc.Arbitrary<QueryAnswer> = fc.oneof(
  fc.array(call, { maxLength: 6 }).map((stations): QueryAnswer => ({ to: 'APRSD', stations })),
  fc.tuple(call, call).map(([a, b]): QueryAnswer => ({ to: 'APRST', path: `${a}>APZMPK,${b}*` })),
  fc
    .tuple(call, fc.array(fc.nat(999), { minLength: 8, maxLength: 8 }))
    .map(([station, counts]): QueryAnswer => ({ to: 'APRSH', station, counts })),
);

// from: 1.0.1, "Station capabilities, queries and responses" (from memory)
describe('the answer to a query', () => {
  it.each<[string, QueryAnswer]>([
    ['Directs= QH1ANR QH7CTC-9', { to: 'APRSD', stations: ['QH1ANR', 'QH7CTC-9'] }],
    ['PATH= QH4MPK>APZMPK,QH1TOP*', { to: 'APRST', path: 'QH4MPK>APZMPK,QH1TOP*' }],
    [
      'QH7CTC-9 HEARD: 3 . 12 . . . . 1',
      { to: 'APRSH', station: 'QH7CTC-9', counts: [3, 0, 12, 0, 0, 0, 0, 1] },
    ],
  ])('%s, both ways, and within a message', (text, answer) => {
    expect(readQueryAnswer(text)).toEqual(answer);
    expect(encodeQueryAnswer(answer, LONGEST_MESSAGE)).toBe(text);
    const report = parseAprs(fromLatin1(encodeMessage('QH4MPK', text)), 'APZMPK');
    expect(report).toMatchObject({ type: 'message', queryAnswer: answer, message: { addressee: 'QH4MPK' } });
  });

  it('comes back where it fits, and is cut at a word where it does not', () => {
    fc.assert(
      fc.property(anyAnswer, fc.integer({ min: 20, max: 200 }), (answer, longest) => {
        const text = encodeQueryAnswer(answer, longest);
        expect(text.length).toBeLessThanOrEqual(longest);
        if (encodeQueryAnswer(answer, 1000).length <= longest) expect(readQueryAnswer(text)).toEqual(answer);
        if (answer.to !== 'APRSD') return;
        const kept = (readQueryAnswer(text) as typeof answer).stations;
        expect(kept).toEqual(answer.stations.slice(0, kept.length));
      }),
    );
  });

  it.each(['Direct hit', 'HEARD: 1 2', 'QH1ANR HEARD: many', 'path= x', 'the PATH= is long'])(
    'a person’s own words are none: %s',
    (text) => expect(readQueryAnswer(text)).toBeUndefined(),
  );
});
