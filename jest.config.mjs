/** Packages that come as ES modules, which Jest does not load by itself. */
const MODULES = [
  'fast-png',
  'iobuffer',
  'fflate',
  'property-graph',
  '@gltf-transform',
  'three',
  'jsep',
  'fast-xml-parser',
  'fast-xml-builder',
  'path-expression-matcher',
  'strnum',
  '@nodable',
  'xml-naming',
  'meshoptimizer',
  'mediabunny',
  'mpg123-decoder',
  '@wasm-audio-decoders',
  'opus-decoder',
  'codec-parser',
  'simple-yenc',
  '@eshaz',
  'osc-min',
];
/** It has a constant called Number, beside the one that is given to all modules below. */
const renamed = {
  jsc: { target: 'es2022', minify: { mangle: { toplevel: true }, compress: false } },
  minify: true,
};
const transform = {
  'codec-parser/.+\\.js$': ['@swc/jest', renamed],
  '^.+\\.m?[jt]sx?$': [
    '@swc/jest',
    {
      jsc: {
        parser: { syntax: 'typescript', tsx: true },
        transform: { react: { runtime: 'automatic' } },
        target: 'es2022',
      },
    },
  ],
};
const shared = {
  transform,
  // A checkout of another commit may stand there, see scripts/bench.
  modulePathIgnorePatterns: ['<rootDir>/.cache/'],
  testEnvironment: 'node',
  // Looked up in Jest's sandbox anew each time, they make heavy arithmetic a hundred times slower.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Array',
    'Float32Array',
    'Float64Array',
    'Int32Array',
    'Int16Array',
  ],
  // It says where it is to those who import it, and not to those who require it.
  moduleNameMapper: {
    '^osc-min$': '<rootDir>/node_modules/osc-min/dist/index.js',
    // Forty-five files of languages that nobody asks for, loaded anew by each file of tests.
    '^\\.\\./locales/index\\.cjs$': '<rootDir>/node_modules/zod/v4/locales/en.cjs',
  },
  transformIgnorePatterns: [`/node_modules/(?!(${MODULES.join('|')})/)`],
};

export default {
  // Machines are at times three times as slow, and nothing is quicker for being given up sooner; what hangs in the
  // browser is found by the waits of its pages.
  testTimeout: 300_000,
  globalSetup: '<rootDir>/tests/support/built.mjs',
  collectCoverageFrom: ['packages/*/src/**/*.ts', '!**/generated/**'],
  projects: [
    { ...shared, displayName: 'unit', testMatch: ['<rootDir>/packages/*/test/**/*.test.{ts,tsx}'] },
    { ...shared, displayName: 'browser', testMatch: ['<rootDir>/tests/browser/**/*.test.ts'] },
  ],
};
