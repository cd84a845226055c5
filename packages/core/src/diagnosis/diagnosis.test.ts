import { portVoice } from '../port-voice/port-voice.js';
import { fromLatin1 } from '../bits/octets.js';
import {
  causesOfLostOctets,
  causesOfNoEcho,
  causesOfNothingDecoded,
  causesOfSilence,
  causesOfSilentTnc,
  isUnusuallySilent,
  losesOctets,
  type ChainFacts,
} from './causes.js';
import { causesOfLettersThatStay, causesOfRefusedLogins } from './causes-of-sessions.js';
import { verdictOn } from './verdict.js';
import { FACTS } from './testing/facts.js';

describe('the next step, where another station has to answer', () => {
  const standing = { isOpen: true, isDoubtful: false };
  it.each([
    ['message acknowledged', /message acknowledged/, 0],
    ['far station answered', /call a station/, 0],
    ['logged in to mail', /log in/, 4],
    ['mail sent', /one letter taken/, 3],
    ['mail received', /receive one letter/, 3],
    ['self-test answered', /answer to a self-test/, 3],
    ['data both ways', /say a line/, 4],
    ['repeated', /send one beacon/, 0],
  ] as const)('%s', (next, title, causes) => {
    const verdict = verdictOn({ ...standing, next }, FACTS);
    expect(verdict?.title).toMatch(title);
    expect(verdict?.causes).toHaveLength(causes);
  });
});

const first = (causes: readonly { cause: string }[]): string => causes[0]?.cause ?? '';
const heard = (text: string): Partial<ChainFacts> => ({ text: portVoice(fromLatin1(text)) });

// common practice, no source: how practitioners trace these symptoms
describe('causes, likeliest first', () => {
  it.each([
    ['a path that asks nobody', { hopsAsked: 0 }, /asks nobody/],
    ['the same words again too soon', { sameWordsAfterMs: 12_000 }, /same words went out 12 s before/],
    ['octets are lost', { broken: 9, brokenPerMinute: 0.9 }, /9 of 39 frames .* 0\.9 a minute/],
    ['no digipeater in reach', { heardDigipeaters: [] }, /out of reach/],
    ['a short TXDELAY', { txDelayMs: 249 }, /249 ms cuts/],
    ['a sufficient one', { txDelayMs: 250 }, /did not key/],
    ['the same words after half a minute', { sameWordsAfterMs: 30_000 }, /did not key/],
    ['nothing special is known', {}, /did not key/],
  ] as [string, Partial<ChainFacts>, RegExp][])('of no echo: %s', (_, known, words) => {
    expect(first(causesOfNoEcho({ ...FACTS, ...known }))).toMatch(words);
  });

  it.each([
    ['a prompt', heard('\r\ncmd:'), /command prompt/],
    [
      'position sentences',
      heard('$GPGGA,102705,5157.9762,N,00029.3256,W,1,04,2.0,75.7,M,47.6,M,,*62\r\n'),
      /position sentences/,
    ],
    ['packets as text', heard('QH7CTC-9>APZMPK,WIDE1-1:>hi\r\n'), /packets as text/],
    ['it was opened just now', { sinceOpenMs: 19_999 }, /opened 20 s ago/],
    ['a network port', { sinceOpenMs: 20_000 }, /another service/],
    ['a sound card', { linkKind: 'sound' }, /No sound reaches/],
    ['a serial port', { linkKind: 'serial' }, /other transport/],
  ] as [string, Partial<ChainFacts>, RegExp][])('of a silent TNC: %s', (_, known, words) => {
    expect(first(causesOfSilentTnc({ ...FACTS, ...known }))).toMatch(words);
  });

  it('text tells the switch that leads to KISS', () => {
    expect(causesOfSilentTnc({ ...FACTS, ...heard('\r\ncmd:') })[0]?.test).toMatch(/KISS ON/);
    expect(causesOfNothingDecoded({ ...FACTS, ...heard('\r\ncmd:') })[0]?.test).toMatch(/KISS ON/);
  });

  it('of nothing decoded: the group that looks alike, with the test that splits it', () => {
    const [group, ...rest] = causesOfNothingDecoded({ ...FACTS, decoded: 0 });
    for (const word of [/frequency or band/, /squelch/, /volume/, /power cycle/, /half open/])
      expect(group?.cause).toMatch(word);
    expect(group?.test).toMatch(/squelch.*Packets.*noise.*Nothing.*open it again/);
    expect(rest.map(({ cause }) => cause).join(' ')).toMatch(/another rate/);
    expect(rest.some(({ cause }) => /TXDELAY|keyed|echo/.test(cause))).toBe(false);
  });

  it('of nothing decoded: broken frames point to the cable', () => {
    expect(first(causesOfNothingDecoded({ ...FACTS, decoded: 0, broken: 3 }))).toMatch(/Octets are lost/);
  });

  it('of silence after packets: the half-open link, and for how long', () => {
    expect(first(causesOfSilence({ ...FACTS, silentMs: 50_000 }))).toMatch(
      /half open.*for 50 s, where one comes every 8 s/,
    );
    expect(first(causesOfSilence({ ...FACTS, silentMs: 240_000 }))).toMatch(/for 4 min/);
  });

  it.each([
    ['no echo', causesOfNoEcho, {}, 'key, QH1ANR, loud, TXDELAY, collided, rate'],
    [
      'no echo, the channel two fifths full',
      causesOfNoEcho,
      { channelUse: 0.4 },
      'key, QH1ANR, loud, TXDELAY, collided, rate',
    ],
    [
      'no echo, the channel fuller',
      causesOfNoEcho,
      { channelUse: 0.41 },
      'key, collided, QH1ANR, loud, TXDELAY, rate',
    ],
    [
      'no echo and no digipeater',
      causesOfNoEcho,
      { heardDigipeaters: [] },
      'reach, key, loud, TXDELAY, collided, rate',
    ],
    [
      'no echo, all at once',
      causesOfNoEcho,
      { hopsAsked: 0, sameWordsAfterMs: 1, broken: 30, txDelayMs: 1, heardDigipeaters: [], channelUse: 1 },
      'asks, same words, lost, TXDELAY, reach, key, collided, loud, rate',
    ],
    ['a silent network port', causesOfSilentTnc, {}, 'service, Nobody'],
    ['a silent sound card', causesOfSilentTnc, { linkKind: 'sound' }, 'No sound, Nobody'],
    ['a silent serial port', causesOfSilentTnc, { linkKind: 'serial' }, 'transport, speed, Nobody'],
    ['a silent port, just opened', causesOfSilentTnc, { sinceOpenMs: 1 }, 'opened, service, Nobody'],
    [
      'nothing decoded',
      causesOfNothingDecoded,
      {},
      'look alike, digital-voice, tight, half open, rate, mutes, no traffic',
    ],
    ['silence', causesOfSilence, {}, 'half open, moved, quiet'],
  ] as [string, (facts: ChainFacts) => readonly { cause: string }[], Partial<ChainFacts>, string][])(
    'of %s stand in this order',
    (_, causes, known, order) => {
      const found = causes({ ...FACTS, ...known });
      const words = order.split(', ');
      expect(found).toHaveLength(words.length);
      found.forEach(({ cause }, i) => expect(cause).toContain(words[i]));
    },
  );

  it('never names what cannot be: a network link has no serial speed', () => {
    expect(causesOfSilentTnc(FACTS).some(({ cause }) => /speed/.test(cause))).toBe(false);
  });

  it('gives every cause its next test, and says of none that the same words may go out at once', () => {
    for (const causes of [
      causesOfNoEcho(FACTS),
      causesOfSilentTnc(FACTS),
      causesOfNothingDecoded(FACTS),
      causesOfSilence(FACTS),
      causesOfRefusedLogins(),
      causesOfLettersThatStay(),
      causesOfLostOctets({ ...FACTS, broken: 30 }),
    ])
      for (const { cause, test } of causes)
        expect([cause, test]).toEqual([
          expect.stringMatching(/\.$/),
          expect.stringMatching(/^(?!.*send one more).*[.?]$/),
        ]);
  });
});

describe('a silence is unusual', () => {
  it.each([
    ['after four usual gaps', { silentMs: 32_001 }, true],
    ['not before', { silentMs: 32_000 }, false],
    ['not within half a minute', { usualGapMs: 1000, silentMs: 30_000 }, false],
    ['but then', { usualGapMs: 1000, silentMs: 30_001 }, true],
    ['never where nothing was decoded', { decoded: 0, silentMs: 1e9 }, false],
  ] as [string, Partial<ChainFacts>, boolean][])('%s', (_, known, is) =>
    expect(isUnusuallySilent({ ...FACTS, ...known })).toBe(is),
  );

  it('never where it is not known what is usual', () => {
    const { usualGapMs: _, ...unknown } = FACTS;
    expect(isUnusuallySilent({ ...unknown, silentMs: 1e9 })).toBe(false);
  });
});

describe('octets are lost', () => {
  it.each([
    [1, 0, false],
    [2, 0, true],
    [2, 8, true],
    [2, 9, false],
    [20, 80, true],
  ])('%i broken and %i decoded: %s', (broken, decoded, is) =>
    expect(losesOctets({ ...FACTS, broken, decoded })).toBe(is),
  );
});
