import base from './jest.config.mjs';

/** The core alone, on every processor: no database, no browser. What runs whole simulated worlds is `*.long.test.ts`, and stands apart. */
export default {
  ...base,
  testMatch: ['<rootDir>/src/core/**/*.test.ts'],
  testPathIgnorePatterns: ['\\.long\\.test\\.ts$'],
  maxWorkers: '100%',
};
