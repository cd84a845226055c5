import { jestScore, judgedAgain, playwrightScore } from './score.js';

describe('the score of a suite', () => {
  it('names the tests of the unit suite that failed, and the files that could not be run', () => {
    const report = {
      numPassedTests: 7,
      numFailedTests: 1,
      testResults: [
        {
          status: 'failed',
          name: 'a.test.ts',
          message: 'long',
          assertionResults: [
            { status: 'passed', fullName: 'a goes' },
            { status: 'failed', fullName: 'a stops' },
          ],
        },
        { status: 'failed', name: 'b.test.ts', message: '\n  cannot be read\nat 1', assertionResults: [] },
        { status: 'passed', name: 'c.test.ts', message: '', assertionResults: [] },
      ],
    };
    expect(jestScore(JSON.stringify(report))).toEqual({
      passed: 7,
      failed: 1,
      failures: ['a stops', 'b.test.ts: cannot be read'],
      files: ['a.test.ts', 'b.test.ts'],
    });
  });

  it('names the journeys that failed, with what failed first', () => {
    const spec = (title: string, ok: boolean, ...messages: (string | undefined)[]) => ({
      title,
      ok,
      tests: [{ results: messages.map((message) => (message ? { error: { message } } : {})) }],
    });
    const report = {
      stats: { expected: 5, unexpected: 1, flaky: 2 },
      suites: [
        {
          title: 'one.e2e.ts',
          file: 'one.e2e.ts',
          specs: [spec('walks', true, undefined)],
          suites: [
            {
              title: 'inner',
              file: 'one.e2e.ts',
              specs: [spec('falls', false, undefined, 'too late\nat 2'), spec('lies', false)],
            },
          ],
        },
        { title: 'two.e2e.ts', file: 'two.e2e.ts', specs: [spec('stands', true)] },
      ],
    };
    expect(playwrightScore(JSON.stringify(report))).toEqual({
      passed: 5,
      failed: 3,
      failures: ['inner: falls: too late', 'inner: lies: '],
      files: ['one.e2e.ts'],
    });
  });

  it('is of the second judgement where failed files were run again', () => {
    const first = {
      name: 'unit',
      seconds: 9,
      passed: 90,
      failed: 5,
      failures: ['a', 'b'],
      files: ['x', 'y'],
    };
    const again = (passed: number, failed: number) => ({ passed, failed, failures: ['b'], files: ['y'] });
    expect(judgedAgain(first, again(12, 1))).toEqual({ ...first, ...again(94, 1) });
    // A file may come to more that fails than it first did.
    expect(judgedAgain(first, again(0, 7))).toEqual({ ...first, ...again(90, 7) });
  });

  it('a report without counts counts nothing; one that was cut off is refused', () => {
    expect(jestScore('{}')).toEqual({ passed: 0, failed: 0, failures: [], files: [] });
    expect(playwrightScore('{}')).toEqual({ passed: 0, failed: 0, failures: [], files: [] });
    for (const read of [jestScore, playwrightScore]) expect(() => read('{"sui')).toThrow(SyntaxError);
  });
});
