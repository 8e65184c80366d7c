/** Unit tests of core, and of the server against real PostgreSQL; ES modules throughout. */
const hotInDrizzle = 'drizzle-orm/(entity|sql/sql|pg-core/dialect)\\.js$';

const swc = (tsx) => [
  '@swc/jest',
  { jsc: { parser: { syntax: 'typescript', tsx }, target: 'es2022', transform: { react: { runtime: 'automatic' } } }, module: { type: 'es6' } },
];

export default {
  testMatch: ['<rootDir>/{core,contract,server,web}/**/*.test.{ts,tsx}'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.ts$': swc(false),
    '^.+\\.tsx$': swc(true),
    [hotInDrizzle]: '<rootDir>/server/testing/boundGlobals.mjs',
  },
  transformIgnorePatterns: [`/node_modules/(?!${hotInDrizzle})`],
  testEnvironment: 'node',
  modulePathIgnorePatterns: ['<rootDir>/.stryker/'],
  testTimeout: 120000,
  maxWorkers: 2,
  globalSetup: '<rootDir>/server/testing/template.mjs',
};
