/** Unit tests of core, and of the server against real PostgreSQL; ES modules throughout. */
export default {
  testMatch: ['<rootDir>/{core,contract,server,web}/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\.tsx?$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', tsx: false }, target: 'es2022' }, module: { type: 'es6' } }] },
  testEnvironment: 'node',
  modulePathIgnorePatterns: ['<rootDir>/.stryker/'],
  testTimeout: 120000,
  maxWorkers: 2,
  globalSetup: '<rootDir>/server/testing/template.mjs',
};
