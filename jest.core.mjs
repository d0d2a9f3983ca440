import base from './jest.config.mjs';

/** The core alone: no database, no browser. What runs whole simulated worlds is named `*.long.test.ts`, and stands apart. */
export default { ...base, testMatch: ['<rootDir>/src/core/**/*.test.ts'], testPathIgnorePatterns: ['\\.long\\.test\\.ts$'] };
