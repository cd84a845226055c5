import { jestScore, playwrightScore } from './score.js';

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
          specs: [spec('walks', true, undefined)],
          suites: [
            {
              title: 'inner',
              specs: [spec('falls', false, undefined, 'too late\nat 2'), spec('lies', false)],
            },
          ],
        },
      ],
    };
    expect(playwrightScore(JSON.stringify(report))).toEqual({
      passed: 5,
      failed: 3,
      failures: ['inner: falls: too late', 'inner: lies: '],
    });
  });

  it('a report without counts counts nothing; one that was cut off is refused', () => {
    expect(jestScore('{}')).toEqual({ passed: 0, failed: 0, failures: [] });
    expect(playwrightScore('{}')).toEqual({ passed: 0, failed: 0, failures: [] });
    for (const read of [jestScore, playwrightScore]) expect(() => read('{"sui')).toThrow(SyntaxError);
  });
});
