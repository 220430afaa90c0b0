import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** What a package may not import, with the reason a person reads. */
function mayNotImport(files, patterns, message) {
  return {
    files,
    rules: { 'no-restricted-imports': ['error', { patterns: [{ regex: patterns, message }] }] },
  };
}

const notTests = ['**/*.test.{ts,tsx}', '**/test/**'];

/** All that needs no types; what does is in .oxlintrc.json. */
export default tseslint.config(
  { ignores: ['**/dist/', '**/node_modules/', 'data/', 'test-results/', 'playwright-report/'] },
  js.configs.recommended,
  ...tseslint.configs.recommended.map((config) => ({ ...config, files: ['**/*.ts', '**/*.tsx'] })),
  {
    files: ['**/*.ts', '**/*.tsx'],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-restricted-exports': ['error', { restrictDefaultExports: { direct: true } }],
      'max-lines': ['error', { max: 400 }],
      'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }],
    },
  },
  // Playwright takes what sets up a whole run by its default export.
  { files: ['e2e/signIn.ts'], rules: { 'no-restricted-exports': 'off' } },
  {
    files: ['**/*.config.ts', '**/*.config.mjs', 'apps/web/src/test/address.ts'],
    rules: { 'no-restricted-exports': 'off' },
  },
  { files: ['**/*.mjs'], languageOptions: { globals: globals.node } },
  {
    files: ['bench/browser.mjs', 'bench/eightPages.mjs', 'bench/live.mjs', 'scripts/loudspeaker.mjs'],
    languageOptions: { globals: globals.browser },
  },
  {
    files: ['**/*.test.{ts,tsx}', '**/test/**', 'e2e/**/*.ts'],
    rules: { 'max-lines-per-function': 'off' },
  },
  {
    files: ['apps/web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/incompatible-library': 'off' },
  },

  {
    ...mayNotImport(['packages/core/src/**'], '^[^.]', 'The core imports nothing outside itself.'),
    ignores: notTests,
  },
  {
    ...mayNotImport(
      ['packages/formats/src/**', 'packages/audio/src/**', 'packages/drawing/src/**'],
      '^(?!\\.|@anchorbeat/core$|papaparse$|saxes$|fflate$|midi-file$|libflacjs/|wasm-media-encoders$)',
      'This package uses the core’s public index and nothing else of ours; add a library here only if it runs everywhere.',
    ),
    ignores: notTests,
  },
  {
    ...mayNotImport(
      ['packages/contract/src/**'],
      '^(?!\\.|@anchorbeat/core$|class-validator$|class-transformer$|reflect-metadata$)',
      'The contract knows the core, class-validator and class-transformer, neither server nor web.',
    ),
    ignores: notTests,
  },
  {
    ...mayNotImport(
      ['apps/web/src/**'],
      '^(@nestjs/|typeorm|node:|@anchorbeat/server|@anchorbeat/[a-z]+/)',
      'The web app does not reach into the server or a package’s insides.',
    ),
    ignores: notTests,
  },
  mayNotImport(
    ['apps/server/src/**'],
    '^(react|@anchorbeat/web|@anchorbeat/[a-z]+/)',
    'The server does not reach into the web app or a package’s insides.',
  ),
  prettier,
);
