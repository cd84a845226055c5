/** One transform for all: TypeScript with decorators to CommonJS, which is what Jest runs. */
const transform = {
  '^.+\\.tsx?$': [
    '@swc/jest',
    {
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', decorators: true, tsx: true },
        transform: { legacyDecorator: true, decoratorMetadata: true, useDefineForClassFields: false },
        keepClassNames: true,
        experimental: { plugins: [] },
      },
      module: { type: 'commonjs' },
    },
  ],
  '^.+\\.m?js$': ['@swc/jest', { jsc: { target: 'es2022' }, module: { type: 'commonjs' } }],
};

const project = (displayName, folder, more = {}) => ({
  displayName,
  rootDir: '.',
  roots: [folder],
  testEnvironment: '<rootDir>/apps/launcher/testing/test-environment.mjs',
  testEnvironmentOptions: { customExportConditions: ['source', 'node', 'node-addons'] },
  testMatch: ['**/*.test.ts'],
  transform,
  transformIgnorePatterns: [
    '/node_modules/(?!(@nestjs|@noble|postal-mime|nodemailer|uuid|d3-[a-z-]+|internmap|tinyqueue|ol|rbush|quickselect|world-atlas|topojson-client)/)',
  ],
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1' },
  ...more,
});

export default {
  // A machine that is shared may stand still for seconds; no test measures time by this.
  testTimeout: 240_000,
  // Beside two browsers; one process more, and what goes by real time has too little of it. One that has grown is slow to
  // collect what it leaves behind.
  maxWorkers: 1,
  workerIdleMemoryLimit: '600MB',
  projects: [
    project('house', '<rootDir>', { testMatch: ['<rootDir>/*.test.ts'] }),
    project('core', '<rootDir>/packages/core', {
      setupFiles: ['<rootDir>/packages/core/fast-check.setup.mjs'],
    }),
    project('link', '<rootDir>/packages/link'),
    project('contract', '<rootDir>/packages/contract'),
    project('standins', '<rootDir>/packages/standins'),
    project('tool', '<rootDir>/apps/tool'),
    project('launcher', '<rootDir>/apps/launcher'),
    project('web', '<rootDir>/apps/web'),
    project('analyser', '<rootDir>/e2e/analyser'),
    project('server', '<rootDir>/apps/server', {
      globalSetup: '<rootDir>/apps/launcher/testing/database-up.mjs',
      globalTeardown: '<rootDir>/apps/launcher/testing/database-down.mjs',
    }),
  ],
};
