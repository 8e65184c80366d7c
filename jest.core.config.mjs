import all from './jest.config.mjs';

/** Tests of core alone, for the mutation tester. */
export default { ...all, testMatch: ['<rootDir>/core/**/*.test.ts'], globalSetup: undefined, maxWorkers: 1 };
