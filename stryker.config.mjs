/**
 * Mutation tests of one slice of the core at a time: `npm run mutants -- markup`. Each mutant is run against the tests of its own slice and
 * those that judge everything together.
 */
const slice = process.env['YUKKURI_SLICE'] ?? 'markup';

export default {
  testRunner: 'mocha',
  plugins: ['@stryker-mutator/mocha-runner'],
  testRunnerNodeArgs: ['--import=tsx'],
  mochaOptions: { spec: [`test/core/${slice}/**/*.test.ts`], config: 'test/mutants/mocharc.json' },
  mutate: [`src/core/${slice}/**/*.ts`, '!src/core/**/types.ts', '!src/core/**/index.ts'],
  // Documentation of checks and words of messages are compared elsewhere.
  mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral'] },
  coverageAnalysis: 'perTest',
  concurrency: 2,
  reporters: ['clear-text', 'progress-append-only'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  tempDirName: 'node_modules/.cache/mutants',
  ignorePatterns: ['dist', 'demo', 'bench'],
  timeoutMS: 20_000,
};
