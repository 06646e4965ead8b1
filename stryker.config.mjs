/**
 * Mutation testing of what must not be wrong: proofs, first ticks, response. The core’s own tests alone run, those that touch the
 * mutated line first. Started by `./heathland mutants`.
 */
export default {
  testRunner: 'jest',
  // Jest needs its flag for modules that HarfBuzz brings.
  testRunnerNodeArgs: ['--experimental-vm-modules', '--no-warnings'],
  jest: { configFile: 'jest.mutants.config.mjs', enableFindRelatedTests: true },
  mutate: [
    'src/core/proof/*.ts',
    'src/core/response/*.ts',
    'src/core/card/first-ticks.ts',
    'src/core/card/privacy.ts',
    '!src/**/*.test.ts',
    '!src/**/index.ts',
  ],
  // Lists and patterns that are read once as a file is loaded: a mutant there would need the whole suite for each.
  ignoreStatic: true,
  coverageAnalysis: 'perTest',
  // A sentence that a person reads may be worded otherwise.
  mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral', 'Regex'] },
  concurrency: 2,
  timeoutMS: 20_000,
  tempDirName: '.heathland/mutants',
  reporters: ['clear-text', 'json', 'progress-append-only'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  jsonReporter: { fileName: '.heathland/mutants.json' },
  disableTypeChecks: false,
  checkers: [],
  ignorePatterns: ['.next', '.heathland', 'test-results', 'docs', 'commands/bench/bare-next/.next'],
};
