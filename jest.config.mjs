export default {
  testEnvironment: 'node',
  testTimeout: 60_000,
  setupFiles: ['<rootDir>/ops/seeded.mjs'],
  testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/cli/**/*.test.ts', '<rootDir>/demo/**/*.test.ts', '<rootDir>/proof/**/*.test.ts'],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: { target: 'es2023', parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } } },
        module: { type: 'es6' },
      },
    ],
  },
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/.data'],
  transformIgnorePatterns: ['/node_modules/'],
};
