import { Stryker } from '@stryker-mutator/core';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseArgs } from 'node:util';
import { ROOT, say } from './console.mjs';

/**
 * Mutation testing of a room of core: npm run mutants -- ROOM [FILE …]. One operator, number or condition after another is
 * changed, the tests of the room run, and what none of them notices is told; so is the share that one does. FILE narrows it
 * to files of the room by a part of their names, or as file.ts:10-40 to some lines of one; --tests PATH to tests whose paths
 * begin so, where those of the room take long.
 */
const ROOMS = {
  sky: { files: 'core/src/sky', tests: ['core/src/sky'] },
  kinds: { files: 'core/src/study/kinds', tests: ['core/src/study/kinds', 'core/src/study/thrown-back'] },
  light: { files: 'core/src/light', tests: ['core/src/light', 'core/src/study/thrown-back'] },
  devices: {
    files: 'core/src/devices',
    tests: [
      'core/src/devices',
      'core/src/shade/device',
      'core/src/scene/device',
      'core/src/shading/moving-devices',
    ],
  },
  shading: { files: 'core/src/shading', tests: ['core/src/shading'] },
  gains: { files: 'core/src/gains', tests: ['core/src/gains', 'core/src/shading/one-scheme'] },
};

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { tests: { type: 'string', multiple: true } },
});
const [room, ...wanted] = positionals;
const chosen = ROOMS[room];
if (!chosen) {
  say(`Name a room: ${Object.keys(ROOMS).join(', ')}.`);
  process.exit(2);
}
const tests = values.tests ?? chosen.tests;
const { default: jestConfig } = await import(pathToFileURL(join(ROOT, 'jest.config.mjs')).href);
const patterns = wanted.map((one) =>
  /:\d+-\d+$/.test(one) ? `${chosen.files}/${one}` : `${chosen.files}/**/*${one}*.ts`,
);
const stryker = new Stryker({
  mutate: [
    ...(patterns.length > 0 ? patterns : [`${chosen.files}/**/*.ts`]),
    '!core/src/**/*.test.ts',
    '!core/src/**/index.ts',
  ],
  plugins: ['@stryker-mutator/jest-runner'],
  testRunner: 'jest',
  jest: {
    projectType: 'custom',
    config: {
      ...jestConfig,
      rootDir: undefined,
      testMatch: tests.flatMap((path) => [`<rootDir>/${path}/**/*.test.ts`, `<rootDir>/${path}*.test.ts`]),
      testPathIgnorePatterns: ['/node_modules/'],
      modulePathIgnorePatterns: [],
      testEnvironment: 'node',
    },
    enableFindRelatedTests: false,
  },
  coverageAnalysis: 'perTest',
  // Text and what is only made once say nothing of a figure.
  mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral', 'ArrayDeclaration'] },
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 8_000,
  ignorePatterns: ['dist', 'var', 'docs', 'e2e', 'web', 'server', 'cli', 'bench', 'test-results'],
  tempDirName: 'var/mutants',
  cleanTempDir: 'always',
  reporters: ['clear-text', 'json', 'progress-append-only'],
  jsonReporter: { fileName: `var/mutants-${room}.json` },
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  disableTypeChecks: true,
});
await stryker.runMutationTest();
