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
  ['light'],
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
      excludeFiles: ['**/*.test.ts'],
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

/** What a React component may do: the rules of hooks, and what its compiler would refuse. */
const react = Object.fromEntries(
  [
    'rules-of-hooks',
    'exhaustive-deps',
    'static-components',
    'use-memo',
    'void-use-memo',
    'preserve-manual-memoization',
    'incompatible-library',
    'immutability',
    'globals',
    'refs',
    'set-state-in-effect',
    'error-boundaries',
    'purity',
    'set-state-in-render',
    'unsupported-syntax',
  ].map((rule) => [`react/${rule}`, 'error']),
);

/** What else is most likely wrong, in other groups of the linter. */
const alsoWrong = Object.fromEntries(
  [
    'no-case-declarations',
    'no-empty',
    'no-fallthrough',
    'no-prototype-builtins',
    'no-redeclare',
    'no-regex-spaces',
    'no-unexpected-multiline',
    'no-var',
    'prefer-const',
    'prefer-rest-params',
    'prefer-spread',
    'no-array-constructor',
    'typescript/ban-ts-comment',
    'typescript/no-empty-object-type',
    'typescript/no-explicit-any',
    'typescript/no-namespace',
    'typescript/no-require-imports',
    'typescript/no-unnecessary-type-constraint',
    'typescript/no-unsafe-function-type',
  ].map((rule) => [rule, 'error']),
);

export default {
  plugins: ['eslint', 'typescript', 'react', 'oxc'],
  categories: { correctness: 'error' },
  env: { builtin: true, node: true, browser: true },
  ignorePatterns: ['**/dist/**', 'var/**', 'test-results/**', 'playwright-report/**', 'core/kernel/**'],
  rules: {
    ...alsoWrong,
    'no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    eqeqeq: 'error',
    'max-lines': ['error', 420],
    // Eighty is what one reads at a time; markup may be somewhat longer.
    'max-lines-per-function': ['error', { max: 95, skipComments: true }],
    'typescript/no-floating-promises': 'error',
    'typescript/await-thenable': 'error',
    'typescript/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    // Functions here are handed on without their object only where they use none; numbers and names sort as they are.
    'typescript/unbound-method': 'off',
    'typescript/no-base-to-string': 'off',
    'typescript/require-array-sort-compare': 'off',
    // commander calls a reader of options without a value before it at the first one, whatever its types say.
    'typescript/no-useless-default-assignment': 'off',
    'typescript/no-misused-spread': 'off',
  },
  overrides: [
    ...roomOrder,
    // What describes many cases, or only lists.
    {
      files: ['**/*.test.ts', 'e2e/**', 'samples/src/**', 'scripts/drill-requests.mjs'],
      rules: { 'max-lines-per-function': 'off' },
    },
    // Names that nothing declares: where types are not checked, the linter looks.
    { files: ['**/*.mjs'], rules: { 'no-undef': 'error' } },
    { files: ['server/**'], rules: from('web', 'cli', 'bench', 'e2e') },
    { files: ['cli/**', 'samples/**', 'bench/**'], rules: from('server', 'web', 'e2e') },
    { files: ['web/src/**'], rules: { ...from('server', 'cli', 'bench', 'e2e', 'samples'), ...react } },
  ],
};
