const transform = {
  '^.+\\.tsx?$': [
    '@swc/jest',
    { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' } },
  ],
};
const shared = { transform, testEnvironment: 'node', extensionsToTreatAsEsm: [] };

export default {
  projects: [
    { ...shared, displayName: 'unit', testMatch: ['<rootDir>/packages/*/test/**/*.test.ts'] },
    { ...shared, displayName: 'browser', testMatch: ['<rootDir>/tests/browser/**/*.test.ts'] },
  ],
};
