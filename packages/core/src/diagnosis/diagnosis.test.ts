import { causesOfNoEcho, causesOfNothingDecoded, causesOfSilentTnc, type ChainFacts } from './causes.js';

const FACTS: ChainFacts = {
  linkKind: 'network',
  textBeforeFrames: false,
  brokenFrames: 0,
  framesRead: 30,
  txDelayMs: 300,
  hopsAsked: 2,
  heardDigipeaters: ['QH1ANR'],
  channelUse: 0.1,
};
const first = (causes: readonly { cause: string }[]): string => causes[0]?.cause ?? '';

// common practice, no source: how practitioners trace these symptoms
describe('causes, likeliest first', () => {
  it.each([
    ['a path that asks nobody', { hopsAsked: 0 }, /asks nobody/],
    ['nothing is heard', { framesRead: 0 }, /Nothing is heard/],
    ['no digipeater in reach', { heardDigipeaters: [] }, /out of reach/],
    ['a short TXDELAY', { txDelayMs: 100 }, /100 ms cuts/],
    ['nothing special is known', {}, /did not key/],
  ] as [string, Partial<ChainFacts>, RegExp][])('of no echo: %s', (_, known, words) => {
    expect(first(causesOfNoEcho({ ...FACTS, ...known }))).toMatch(words);
  });

  it.each([
    ['text comes', { textBeforeFrames: true }, /talks text/],
    ['a network port', {}, /another service/],
    ['a serial port', { linkKind: 'serial' }, /other transport/],
  ] as [string, Partial<ChainFacts>, RegExp][])('of a silent TNC: %s', (_, known, words) => {
    expect(first(causesOfSilentTnc({ ...FACTS, ...known }))).toMatch(words);
  });

  it('of nothing decoded: broken frames point to the cable', () => {
    expect(first(causesOfNothingDecoded({ ...FACTS, brokenFrames: 3 }))).toMatch(/Octets are lost/);
    expect(first(causesOfNothingDecoded(FACTS))).toMatch(/frequency/);
  });

  it('never names what cannot be: a network link has no serial speed', () => {
    expect(causesOfSilentTnc(FACTS).some(({ cause }) => /speed/.test(cause))).toBe(false);
  });

  it('gives every cause its next test', () => {
    for (const causes of [causesOfNoEcho(FACTS), causesOfSilentTnc(FACTS), causesOfNothingDecoded(FACTS)])
      for (const { cause, test } of causes)
        expect([cause, test]).toEqual([expect.stringMatching(/\.$/), expect.stringMatching(/\.$/)]);
  });
});
