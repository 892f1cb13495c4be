/** @type {import('jest').Config} */
export default {
  testMatch: ['<rootDir>/{core,cli,server,web,bench,samples}/**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/var/', '/dist/'],
  modulePathIgnorePatterns: ['<rootDir>/var/'],
  testEnvironment: '<rootDir>/scripts/one-context.mjs',
  transform: {
    '^.+\\.[mc]?[tj]sx?$': [
      '@swc/jest',
      {
        jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } },
        module: { type: 'commonjs' },
      },
    ],
  },
  setupFiles: ['<rootDir>/core/testing/seeds.ts'],
  // Packages that come as ECMAScript modules only are brought into Jest's form too.
  transformIgnorePatterns: [],
  // Tests wait on states, never on the clock; this only ends what hangs for good.
  testTimeout: 900_000,
  maxWorkers: '100%',
};
