const transform = {
  '^.+\\.[jt]sx?$': [
    '@swc/jest',
    { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' } },
  ],
};
const shared = {
  transform,
  testEnvironment: 'node',
  transformIgnorePatterns: ['/node_modules/(?!(fast-png|iobuffer|fflate)/)'],
};

export default {
  testTimeout: 45_000,
  projects: [
    { ...shared, displayName: 'unit', testMatch: ['<rootDir>/packages/*/test/**/*.test.ts'] },
    { ...shared, displayName: 'browser', testMatch: ['<rootDir>/tests/browser/**/*.test.ts'] },
  ],
};
