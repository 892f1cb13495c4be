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

/** The rooms of core in their order: each may use those before it, through their index. `study` and `files` stand beside each other. */
const ROOMS = [
  ['civil'],
  ['geometry'],
  ['project'],
  ['contract'],
  ['site'],
  ['form'],
  ['document'],
  ['openings'],
  ['devices'],
  ['scene'],
  ['sun'],
  ['weather'],
  ['sky'],
  ['shade'],
  ['trace'],
  ['study', 'files'],
  ['gains'],
  ['shading'],
  ['envelope'],
  ['comparison'],
  ['results'],
];

const roomOrder = ROOMS.flatMap((level, i) =>
  level.map((room) => {
    const barred = ROOMS.slice(i)
      .flat()
      .filter((other) => other !== room);
    return {
      files: [`core/src/${room}/**`],
      ignores: ['**/*.test.ts'],
      rules: {
        'no-restricted-imports': [
          'error',
          {
            patterns: [
              {
                regex: `^(\\.\\./)+(${barred.join('|') || 'none'})(/|$)`,
                message: 'This room stands before that one; see the order in docs/architecture.md.',
              },
              {
                regex: `^(\\.\\./)+(${ROOMS.flat().join('|')})/`,
                message: 'Other rooms are used through their index.',
              },
              { regex: '^@dial-shade/', message: 'core imports nothing of ours.' },
            ],
          },
        ],
      },
    };
  }),
);

export default tseslint.config(
  {
    ignores: ['**/node_modules/', '**/dist/', 'var/', 'test-results/', 'playwright-report/', 'core/kernel/'],
  },
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
        setInterval: 'readonly',
        clearInterval: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        performance: 'readonly',
        structuredClone: 'readonly',
      },
    },
  },
  ...roomOrder,
  { files: ['server/**'], rules: from('web', 'cli', 'bench', 'e2e') },
  { files: ['cli/**', 'samples/**', 'bench/**'], rules: from('server', 'web', 'e2e') },
  { files: ['web/src/**'], rules: from('server', 'cli', 'bench', 'e2e', 'samples') },
  // The rules that look at a whole component are dear, and most files have none.
  { files: ['web/src/**/*.tsx', 'web/src/**/use-*.ts'], ...hooks.configs.flat['recommended-latest'] },
  {
    files: ['web/src/**/*.ts'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'warn' },
  },
);
