import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';
import boundaries from 'eslint-plugin-boundaries';
import globals from 'globals';

/** The folders of the core, each with an index.ts as its face. */
const CORE_MODULES =
  'time|model|midi|curves|steps|session|sections|assembly|evaluate|analysis|merging|takes|arranging|formats|editing|errors';

export default tseslint.config(
  { ignores: ['**/dist', 'node_modules', '.cache', 'test-results', 'playwright-report'] },
  js.configs.recommended,
  tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { boundaries },
    settings: {
      'import/resolver': { typescript: { project: ['./tsconfig.json'] } },
      'boundaries/elements': [
        { type: 'core', pattern: 'core/**', partialMatch: false },
        { type: 'app', pattern: 'app/**', partialMatch: false },
        { type: 'server', pattern: 'server/**', partialMatch: false },
        { type: 'cli', pattern: 'cli/**', partialMatch: false },
        { type: 'tools', pattern: '{demo,bench,e2e,scripts}/**', partialMatch: false },
      ],
    },
    rules: {
      // Arrows point one way: app, cli, server -> core. Tools (demo generator, benchmarks, e2e) may look at all of them.
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            { from: { element: { type: 'app' } }, allow: { to: { element: { type: ['app', 'core'] } } } },
            { from: { element: { type: 'cli' } }, allow: { to: { element: { type: ['cli', 'core'] } } } },
            { from: { element: { type: 'server' } }, allow: { to: { element: { type: ['server'] } } } },
            { from: { element: { type: 'core' } }, allow: { to: { element: { type: 'core' } } } },
            {
              from: { element: { type: 'tools' } },
              allow: { to: { element: { type: ['tools', 'core', 'app', 'cli'] } } },
            },
          ],
        },
      ],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/testing/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: `^\\.\\./(${CORE_MODULES})/`,
              message: 'Import from the folder (its index.ts), not from a file behind it.',
            },
            {
              regex: '^(node:|react|fs$|path$|idb|@/)',
              message: 'The core knows no DOM, no React and no Node API.',
            },
          ],
        },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'navigator'],
    },
  },
  { files: ['app/**/*.{ts,tsx}'], ...reactHooks.configs.flat['recommended-latest'] },
  { files: ['**/*.{mjs,js}'], ignores: ['app/public/**'], languageOptions: { globals: globals.node } },
  { files: ['app/public/**/*.js'], languageOptions: { globals: globals.browser } },
);
