/** Three projects: pure tests beside the core, tests on a real PostgreSQL with a database for each worker, and those of them that take long or kill. */
const shared = {
  testEnvironment: '<rootDir>/tests/fixtures/plain-globals.cjs',
  transform: {
    '^.+\\.[jt]sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
        // HarfBuzz waits for its WebAssembly and is no CommonJS: what is imported as the program runs stays an import.
        module: { type: 'commonjs', ignoreDynamic: true },
      },
    ],
  },
  // Packages that ship only ECMAScript modules are transformed like our own files.
  transformIgnorePatterns: ['/node_modules/(?!(ical\\.js|qr|zxing-wasm)/)'],
  // Copies that mutation testing makes.
  modulePathIgnorePatterns: ['<rootDir>/.heathland/'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
};
export default {
  // Pictures of forty megapixels and whole databases take their time on a busy machine.
  testTimeout: 180_000,
  projects: [
    { ...shared, displayName: 'core', testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/tests/rules/**/*.test.ts'] },
    {
      ...shared,
      displayName: 'integration',
      testMatch: ['<rootDir>/tests/integration/*.test.ts'],
    },
    { ...shared, displayName: 'long', testMatch: ['<rootDir>/tests/integration/long/*.test.ts'] },
  ],
};
