/** @type {import('jest').Config} */
export default {
  testMatch: ['<rootDir>/{core,cli,server,web,bench}/**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/var/', '/dist/'],
  modulePathIgnorePatterns: ['<rootDir>/var/'],
  extensionsToTreatAsEsm: [],
  transform: {
    '^.+\\.[mc]?[tj]sx?$': [
      '@swc/jest',
      {
        jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(earcut|@noble|temporal-polyfill|temporal-utils|d3|d3-[a-z]+|internmap|delaunator|robust-predicates|immer)/)',
  ],
  testTimeout: 60000,
};
