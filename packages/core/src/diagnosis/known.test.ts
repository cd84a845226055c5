import { findingsOfCalls, findingsOfLevel, type OwnCall } from './known.js';

const ANSWERED: OwnCall = {
  peer: 'QH5OST-10',
  isAnswered: true,
  isOver: true,
  lastedMs: 60_001,
  heardOctets: 10,
};
const SILENT: OwnCall = { ...ANSWERED, peer: 'QH5VEL-10', isAnswered: false, lastedMs: 0, heardOctets: 0 };

// common practice, no source: how long and how much a call is that was served
describe('what our last calls tell', () => {
  const call = (outcome: string) => ({ test: 'call', outcome });
  it.each([
    ['nothing where none was made', [], []],
    ['nothing of one that goes on', [{ ...SILENT, isOver: false }], []],
    ['a long one serves', [ANSWERED], [call('it answers and serves')]],
    [
      'a short one with few words is let go',
      [{ ...ANSWERED, lastedMs: 60_000 }],
      [call('it answers and closes')],
    ],
    [
      'of 200 octets still',
      [{ ...ANSWERED, lastedMs: 1000, heardOctets: 200 }],
      [call('it answers and closes')],
    ],
    ['of 201 no more', [{ ...ANSWERED, lastedMs: 1000, heardOctets: 201 }], [call('it answers and serves')]],
    ['silence', [SILENT, SILENT], [call('no answer')]],
    [
      'silence, and another answered',
      [SILENT, ANSWERED],
      [call('no answer'), { test: 'another', outcome: 'it answers' }],
    ],
    [
      'silence wherever one calls',
      [SILENT, { ...SILENT, peer: 'QH1TOP-4' }],
      [call('no answer'), { test: 'another', outcome: 'no answer' }],
    ],
    [
      'another that closes too is none that answers',
      [SILENT, { ...ANSWERED, lastedMs: 5000 }],
      [call('no answer'), { test: 'another', outcome: 'no answer' }],
    ],
    ['once the last went well, nothing of those before', [ANSWERED, SILENT], [call('it answers and serves')]],
  ] as [string, OwnCall[], object[]][])('%s', (_, calls, findings) => {
    expect(findingsOfCalls(calls)).toEqual(findings);
  });
});

describe('what the last receive check tells', () => {
  it.each([
    [undefined, []],
    [{ words: 'All is well.', isInWindow: true }, ['in the window']],
    [{ words: 'Nothing at all comes in.', isInWindow: false }, ['no signal at all']],
    [{ words: '6.0 dB under the window.', isInWindow: false }, ['too weak']],
    [{ words: 'The first 80 ms of every packet are missing.', isInWindow: false }, ['cut at its start']],
    [{ words: 'The packets are clipped.', isInWindow: false }, []],
  ])('%j', (check, outcomes) => {
    expect(findingsOfLevel(check)).toEqual(outcomes.map((outcome) => ({ test: 'meter', outcome })));
  });
});
