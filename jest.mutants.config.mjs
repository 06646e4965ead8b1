import config from './jest.config.mjs';

/** The core’s tests alone, as one project. */
const [core] = config.projects;
export default {
  ...core,
  testTimeout: 30_000,
  testMatch: ['<rootDir>/src/core/**/*.test.ts'],
};
