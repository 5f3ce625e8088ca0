import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';
import boundaries from 'eslint-plugin-boundaries';
import globals from 'globals';
import { readFileSync, readdirSync } from 'node:fs';

/** The folders of the core, each with an index.ts as its face: whatever stands there is guarded. */
const CORE_MODULES = readdirSync(new URL('core', import.meta.url), { withFileTypes: true })
  .filter(
    (entry) => entry.isDirectory() && !['node_modules', 'dist', 'testing', 'proofs'].includes(entry.name),
  )
  .map(({ name }) => name)
  .join('|');

/** Kinds of steps, and those of them whose names mean nothing else. */
const KINDS = readdirSync(new URL('core/steps', import.meta.url)).flatMap((name) => {
  const text = readFileSync(new URL(`core/steps/${name}`, import.meta.url), 'utf8');
  return /\n {2}kind: '(\w+)',\n {2}title:/.exec(text)?.[1] ?? [];
});
const ALONE = KINDS.filter((kind) => !['velocity', 'length', 'pedal', 'stretch'].includes(kind));
const ASKS_FOR_A_KIND =
  'A kind of step says itself what it is and does (core/steps/stepKind.ts); nothing outside asks for one by name.';
const namesOf = (kinds) => `/^(${kinds.join('|')})$/`;
const comparing = (left, kinds) =>
  `BinaryExpression[operator=/^[!=]==$/]${left}[right.value=${namesOf(kinds)}]`;
/** Asking a step, or what is called a kind, for one of these. */
const askingFor = (kinds) =>
  [
    comparing("[left.property.name='kind']", kinds),
    comparing("[left.expression.property.name='kind']", kinds),
    comparing("[left.name='kind']", ALONE),
    `SwitchStatement[discriminant.property.name='kind'] > SwitchCase[test.value=${namesOf(kinds)}]`,
    `SwitchStatement[discriminant.name='kind'] > SwitchCase[test.value=${namesOf(ALONE)}]`,
  ].map((selector) => ({ selector, message: ASKS_FOR_A_KIND }));

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
        { type: 'sound', pattern: 'sound/**', partialMatch: false },
        { type: 'app', pattern: 'app/**', partialMatch: false },
        { type: 'server', pattern: 'server/**', partialMatch: false },
        { type: 'cli', pattern: 'cli/**', partialMatch: false },
        { type: 'tools', pattern: '{demo,bench,e2e,scripts}/**', partialMatch: false },
      ],
    },
    rules: {
      // Arrows point one way: app, cli, server -> core. Tools (demo generator, benchmarks, e2e) may look at all of
      // them.
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            {
              from: { element: { type: 'app' } },
              allow: { to: { element: { type: ['app', 'sound', 'core'] } } },
            },
            {
              from: { element: { type: 'cli' } },
              allow: { to: { element: { type: ['cli', 'sound', 'core'] } } },
            },
            { from: { element: { type: 'sound' } }, allow: { to: { element: { type: ['sound', 'core'] } } } },
            { from: { element: { type: 'server' } }, allow: { to: { element: { type: ['server'] } } } },
            { from: { element: { type: 'core' } }, allow: { to: { element: { type: 'core' } } } },
            {
              from: { element: { type: 'tools' } },
              allow: { to: { element: { type: ['tools', 'core', 'sound', 'app', 'cli'] } } },
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
  {
    files: ['core/**/*.ts', 'app/**/*.{ts,tsx}', 'cli/**/*.ts'],
    // Migrations read what earlier versions stored. Gestures on the canvas have kinds of their own, some of these names:
    // below.
    ignores: [
      '**/*.test.{ts,tsx}',
      '**/testing/**',
      'core/steps/**',
      'core/session/migrations/**',
      'app/panels/settings/forms/**',
      'app/editor/**',
    ],
    rules: {
      'no-restricted-syntax': ['error', ...askingFor(KINDS)],
    },
  },
  { files: ['app/editor/**/*.ts'], rules: { 'no-restricted-syntax': ['error', ...askingFor(ALONE)] } },
  // The rules of the React compiler work a file through from the start, which takes most of the time: only where the
  // components are.
  { files: ['app/**/*.tsx'], ignores: ['**/*.test.tsx'], ...reactHooks.configs.flat['recommended-latest'] },
  {
    files: ['app/**/*.ts'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'warn' },
  },
  { files: ['**/*.{mjs,js}'], ignores: ['app/public/**'], languageOptions: { globals: globals.node } },
  { files: ['app/public/**/*.js'], languageOptions: { globals: globals.browser } },
);
