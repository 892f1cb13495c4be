import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Imports point one way: core imports nothing of ours; server, web and cli import core; nothing imports web or server. */
const from = (...names) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: [
        {
          group: names.flatMap((name) => [
            `@dial-shade/${name}`,
            `@dial-shade/${name}/*`,
            `**/${name}/src/**`,
          ]),
          message: 'Imports point one way; see docs/architecture.md.',
        },
      ],
    },
  ],
});

export default tseslint.config(
  { ignores: ['**/node_modules/', '**/dist/', 'var/', 'test-results/', 'playwright-report/'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: 'error',
      'max-lines': ['error', 420],
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        Buffer: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
      },
    },
  },
  {
    files: ['core/src/**'],
    ignores: ['**/*.test.ts'],
    rules: from('server', 'web', 'cli', 'samples', 'bench', 'e2e'),
  },
  { files: ['server/**'], rules: from('web', 'cli', 'bench', 'e2e') },
  { files: ['cli/**', 'samples/**', 'bench/**'], rules: from('server', 'web', 'e2e') },
  { files: ['web/src/**'], rules: from('server', 'cli', 'bench', 'e2e', 'samples') },
  { files: ['web/**/*.{ts,tsx}'], ...hooks.configs.flat['recommended-latest'] },
);
