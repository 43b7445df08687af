import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** Arrows point one way: kernel ← core ← cpu, gpu ← app, server. */
const MAY_IMPORT = {
  kernel: [],
  core: ['kernel'],
  cpu: ['kernel', 'core'],
  gpu: ['kernel', 'core'],
  app: ['core', 'cpu', 'gpu'],
  server: ['core', 'cpu'],
};
const PACKAGES = Object.keys(MAY_IMPORT);
const INTERFACE = ['react', 'react-*', '@mui/*', '@reduxjs/*', 'dexie', 'chart.js'];

function direction(name) {
  const closed = PACKAGES.filter((p) => p !== name && !MAY_IMPORT[name].includes(p));
  const group = closed.flatMap((p) => [
    `@vast-swarm/${p}`,
    `@vast-swarm/${p}/*`,
    `**/packages/${p}/**`,
  ]);
  const patterns = [{ group, message: `${name} must not know ${closed.join(', ')}.` }];
  if (name !== 'app') {
    patterns.push({ group: INTERFACE, message: 'Only the application knows the interface.' });
  }
  return {
    files: [`packages/${name}/src/**/*.{ts,tsx}`],
    rules: { 'no-restricted-imports': ['error', { patterns }] },
  };
}

/** All rules, those that go by types as well: minutes. Else what .oxlintrc.json does not hold: seconds. */
const all = Boolean(process.env.ALL);

const rulesOfTypeScript = {
  files: ['**/*.{ts,tsx}'],
  ignores: ['packages/*/assembly/**'],
  extends: [ts.configs.strictTypeChecked],
  languageOptions: {
    parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
  },
  rules: {
    // The checked index of an array whose length is known reads better as list[i]!.
    '@typescript-eslint/no-non-null-assertion': 'off',
    '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
    '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
  },
};

export default ts.config(
  {
    ignores: ['**/dist/', '**/generated/', '**/node_modules/', '.cache/'],
  },
  // Without all rules, comments that excuse code from them have nothing to do.
  { linterOptions: { reportUnusedDisableDirectives: all } },
  all
    ? [js.configs.recommended, rulesOfTypeScript]
    : { files: ['**/*.{ts,tsx}'], extends: [ts.configs.base] },
  {
    // AssemblyScript has types of its own, which its compiler checks; every job has the same arguments.
    files: ['packages/*/assembly/**/*.ts'],
    extends: [ts.configs.strict],
    rules: { '@typescript-eslint/no-unused-vars': ['error', { args: 'none' }] },
  },
  {
    // Some of these compile what they look at.
    files: ['packages/app/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: hooks.configs.recommended.rules,
  },
  {
    files: ['**/*.mjs'],
    extends: [js.configs.recommended],
    languageOptions: {
      globals: {
        console: 'readonly',
        process: 'readonly',
        URL: 'readonly',
        performance: 'readonly',
        fetch: 'readonly',
        Buffer: 'readonly',
      },
    },
  },
  ...(all ? PACKAGES.map(direction) : []),
);
