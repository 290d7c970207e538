/** Unit and architecture tests; tests of components choose a page (tests/support/pageEnvironment.mjs) in their first line. */
export default {
  testMatch: [
    '<rootDir>/src/**/*.test.ts',
    '<rootDir>/src/**/*.test.tsx',
    '<rootDir>/tests/architecture/**/*.test.ts',
    '<rootDir>/tests/golden/**/*.test.ts',
    '<rootDir>/bench/**/*.test.ts',
  ],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': [
      '<rootDir>/tests/support/jestTransformer.mjs',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'es6' },
      },
    ],
  },
  testEnvironment: 'node',
  modulePathIgnorePatterns: ['<rootDir>/dist-extended'],
  // Computations on a busy machine may take long; what hangs is still ended.
  testTimeout: 60_000,
  // Both cores of the smallest machine; by itself Jest would leave one of them idle.
  maxWorkers: 2,
};
