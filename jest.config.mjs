/** Unit tests of core, and of the server against real PostgreSQL; ES modules throughout. */
const hotInDrizzle = 'drizzle-orm/(entity|sql/sql|pg-core/dialect)\\.js$';

export default {
  testMatch: ['<rootDir>/{core,contract,server,web}/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', tsx: false }, target: 'es2022' }, module: { type: 'es6' } }],
    [hotInDrizzle]: '<rootDir>/server/testing/boundGlobals.mjs',
  },
  transformIgnorePatterns: [`/node_modules/(?!${hotInDrizzle})`],
  testEnvironment: 'node',
  modulePathIgnorePatterns: ['<rootDir>/.stryker/'],
  testTimeout: 120000,
  maxWorkers: 2,
  globalSetup: '<rootDir>/server/testing/template.mjs',
};
