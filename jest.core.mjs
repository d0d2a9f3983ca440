import base from './jest.config.mjs';

/** The core alone: no database, no browser. Simulated worlds stand apart. */
export default { ...base, testMatch: ['<rootDir>/src/core/**/*.test.ts'] };
