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

/** Rules that go by types take minutes here; .oxlintrc.json has the same ones, which take seconds. */
const typed = Boolean(process.env.ALL);

export default ts.config(
  {
    ignores: ['**/dist/', '**/generated/', '**/node_modules/', '.cache/'],
  },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    ignores: ['packages/*/assembly/**'],
    extends: [typed ? ts.configs.strictTypeChecked : ts.configs.strict],
    // Without types, comments that excuse code from their rules have nothing to do.
    linterOptions: { reportUnusedDisableDirectives: typed },
    languageOptions: {
      parserOptions: typed ? { projectService: true, tsconfigRootDir: import.meta.dirname } : {},
    },
    rules: {
      // The checked index of an array whose length is known reads better as list[i]!.
      '@typescript-eslint/no-non-null-assertion': 'off',
      ...(typed && {
        '@typescript-eslint/no-confusing-void-expression': [
          'error',
          { ignoreArrowShorthand: true },
        ],
        '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      }),
    },
  },
  {
    // AssemblyScript has types of its own, which its compiler checks; every job has the same arguments.
    files: ['packages/*/assembly/**/*.ts'],
    extends: [ts.configs.strict],
    rules: { '@typescript-eslint/no-unused-vars': ['error', { args: 'none' }] },
  },
  {
    files: ['packages/app/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    // These compile what they look at, which takes long: with ALL all there is.
    files: typed
      ? ['packages/app/**/*.{ts,tsx}']
      : ['packages/app/**/*.tsx', 'packages/app/**/use*.ts'],
    plugins: { 'react-hooks': hooks },
    rules: hooks.configs.recommended.rules,
  },
  {
    files: ['**/*.mjs'],
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
  ...PACKAGES.map(direction),
);
