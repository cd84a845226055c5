/** How many checks of a suite passed and failed, and which failed. */
export interface SuiteScore {
  readonly passed: number;
  readonly failed: number;
  readonly failures: readonly string[];
}

interface JestReport {
  readonly numPassedTests?: number;
  readonly numFailedTests?: number;
  readonly testResults?: readonly {
    readonly status: string;
    readonly name: string;
    readonly message: string;
    readonly assertionResults: readonly { readonly status: string; readonly fullName: string }[];
  }[];
}

interface PlaywrightSuite {
  readonly title: string;
  readonly suites?: readonly PlaywrightSuite[];
  readonly specs?: readonly {
    readonly title: string;
    readonly ok: boolean;
    readonly tests: readonly {
      readonly results: readonly { readonly error?: { readonly message?: string } }[];
    }[];
  }[];
}

interface PlaywrightReport {
  readonly stats?: { readonly expected?: number; readonly unexpected?: number; readonly flaky?: number };
  readonly suites?: readonly PlaywrightSuite[];
}

/** Of Jest's report (`--json`). @throws SyntaxError if the report was cut off. */
export function jestScore(json: string): SuiteScore {
  const { numPassedTests = 0, numFailedTests = 0, testResults = [] } = JSON.parse(json) as JestReport;
  const failures = testResults.flatMap(({ status, name, message, assertionResults }) => {
    const named = assertionResults.filter((one) => one.status === 'failed').map(({ fullName }) => fullName);
    // A file that could not be run has no tests to name.
    return status === 'failed' && named.length === 0 ? [`${name}: ${firstLine(message)}`] : named;
  });
  return { passed: numPassedTests, failed: numFailedTests, failures };
}

/** Of Playwright's report; what passed only when tried again counts as failed. @throws SyntaxError if it was cut off. */
export function playwrightScore(json: string): SuiteScore {
  const { stats = {}, suites = [] } = JSON.parse(json) as PlaywrightReport;
  const failures: string[] = [];
  const gather = (suite: PlaywrightSuite): void => {
    for (const { title, ok, tests } of suite.specs ?? []) {
      if (ok) continue;
      const error = tests.flatMap(({ results }) => results).find((result) => result.error)?.error;
      failures.push(`${suite.title}: ${title}: ${firstLine(error?.message ?? '')}`);
    }
    suite.suites?.forEach(gather);
  };
  suites.forEach(gather);
  return {
    passed: stats.expected ?? 0,
    failed: (stats.unexpected ?? 0) + (stats.flaky ?? 0),
    failures,
  };
}

const firstLine = (text: string): string => text.trimStart().split('\n', 1)[0] ?? '';
