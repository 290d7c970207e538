import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import accessibility from 'eslint-plugin-jsx-a11y';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** What a layer may not import; the architecture test checks the same on the real import graph. */
const forbid = (files, patterns, message) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }] },
});

export default tseslint.config(
  {
    ignores: [
      'dist',
      'dist-extended',
      'node_modules',
      '.cache',
      'test-results',
      'playwright-report',
      'bench/out',
      'src/kernels/assembly',
      'src/kernels/generated',
      'tests/fixtures/extension',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['src/app/**/*.tsx'],
    plugins: { 'jsx-a11y': accessibility },
    rules: {
      ...accessibility.flatConfigs.recommended.rules,
      // What is worked by hand and by keys of its own.
      'jsx-a11y/no-interactive-element-to-noninteractive-role': ['error', { canvas: ['application'] }],
      // A field that a press opens is what that press was for.
      'jsx-a11y/no-autofocus': 'off',
    },
  },
  {
    files: ['src/**/*.{ts,tsx}', 'tests/**/*.ts', 'bench/**/*.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
    },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  {
    files: ['src/kernels/node/**'],
    languageOptions: { globals: { WebAssembly: 'readonly' } },
  },
  {
    files: ['scripts/**', 'bench/**'],
    rules: { 'no-console': 'off' },
    languageOptions: { globals: { console: 'readonly', process: 'readonly', URL: 'readonly' } },
  },
  forbid(
    ['src/core/**'],
    [
      '**/operations/**',
      '**/engine/**',
      '**/storage/**',
      '**/formats/**',
      '**/app/**',
      '**/cli/**',
      '**/server/**',
      'react*',
      'zod',
      '@mui/*',
    ],
    'The core imports nothing but itself.',
  ),
  forbid(
    ['src/operations/**'],
    ['**/engine/**', '**/storage/**', '**/formats/**', '**/app/**', '**/cli/**', '**/server/**', 'react*', '@mui/*'],
    'Operations know only the core.',
  ),
  forbid(
    ['src/engine/**', 'src/storage/**', 'src/formats/**'],
    ['**/app/**', '**/cli/**', '**/server/**', 'react*', '@mui/*'],
    'Engine, storage and formats know no interface.',
  ),
  prettier,
);
