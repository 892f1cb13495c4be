import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative } from 'node:path';
import { startDatabase } from './database.mjs';
import { freshDatabase, TEMPLATE } from './fresh-database.mjs';
import { build, install } from './install.mjs';
import { ROOT, runAside, say } from './console.mjs';

/**
 * Everything that is checked: npm test. Names of parts may be given to run only those. Every part tells how long it took.
 */
const PARTS = ['format', 'lint', 'unused', 'unit', 'drill', 'journeys'];
const wanted = process.argv.slice(2).filter((arg) => PARTS.includes(arg));
const chosen = wanted.length ? wanted : PARTS;
const count = { passed: 0, failed: 0 };
/** What failed, by name: told again at the end, where it is found. */
const failures = [];
const times = [];

async function timed(name, work) {
  const began = Date.now();
  const result = await work();
  times.push(`${name} ${((Date.now() - began) / 1000).toFixed(0)} s`);
  return result;
}

const part = (name, work) => (chosen.includes(name) ? timed(name, work) : undefined);

function tally(name, ok) {
  count[ok ? 'passed' : 'failed']++;
  if (!ok) failures.push(name);
  say(`${ok ? 'passed' : 'FAILED'}: ${name}`);
}

/** Runs one check that passes or fails as a whole. */
const check = (name, command, args) =>
  part(name, async () => tally(name, (await runAside(command, args)) === 0));

function tallyFile(name, file, read, code) {
  if (!existsSync(file)) {
    tally(name, false);
    return;
  }
  const { passed, failed, names } = read(JSON.parse(readFileSync(file, 'utf8')));
  failures.push(...names);
  count.passed += passed;
  count.failed += failed;
  if (code !== 0 && failed === 0) tally(`${name} ended with an error`, false);
  say(`${name}: ${passed} passed, ${failed} failed`);
}

const began = Date.now();
await timed('packages', () => install({ browser: chosen.includes('journeys') }));
mkdirSync(join(ROOT, 'var'), { recursive: true });

await check('format', 'npx', ['oxfmt', '--check', '.']);
const needsStack = chosen.includes('unit') || chosen.includes('journeys');
await Promise.all([
  // Rules and types in one look at every file.
  check('lint', 'npx', ['oxlint', '-c', 'oxlint.config.mjs', '--type-aware', '--type-check', '.']),
  check('unused', 'npx', ['knip']),
  needsStack || chosen.includes('drill') ? timed('build', build) : undefined,
]);

const database = needsStack ? await startDatabase('test-database', { fresh: true }) : null;
if (database) {
  const template = await freshDatabase(database.url, TEMPLATE, 'template0');
  const env = { ...process.env, DATABASE_URL: template };
  if ((await runAside(process.execPath, ['dist/server/migrate-main.js'], { env })) !== 0)
    tally('migrations', false);
}
const environment = {
  ...process.env,
  // Tests make much that lives short: with room for it a tenth of their time is not spent on clearing up.
  NODE_OPTIONS: `${process.env.NODE_OPTIONS ?? ''} --max-semi-space-size=64`,
  TEST_DATABASE_URL: database?.url,
  DIAL_SHADE_LOG: 'warn',
  FORCE_COLOR: '0',
};

/** All journeys of a suite and of those within it. */
const specsOf = ({ specs = [], suites = [] }) => [...specs, ...suites.flatMap(specsOf)];

/** What is tested without a page. */
async function unit() {
  const file = join(ROOT, 'var/unit-results.json');
  rmSync(file, { force: true });
  const code = await runAside('npx', ['jest', '--json', `--outputFile=${file}`], {
    env: { ...environment, NODE_ENV: 'test' },
  });
  tallyFile(
    'unit and API tests',
    file,
    (r) => ({
      passed: r.numPassedTests,
      failed: r.numFailedTests + r.numRuntimeErrorTestSuites,
      names: r.testResults
        .filter(({ status }) => status === 'failed')
        .flatMap(({ name, assertionResults }) => {
          const failed = assertionResults.filter(({ status }) => status === 'failed');
          const where = relative(ROOT, name);
          return failed.length > 0 ? failed.map(({ fullName }) => `${where}: ${fullName}`) : [where];
        }),
    }),
    code,
  );
}

await Promise.all([
  part('unit', unit),
  // The short form of the drill: a server of its own through kills, a full disk, hostile and mutated requests. It waits much.
  check('drill', process.execPath, ['scripts/drill.mjs', 'short']),
]);

await part('journeys', async () => {
  const file = join(ROOT, 'var/journey-results.json');
  rmSync(file, { force: true });
  const code = await runAside('npx', ['playwright', 'test', '-c', 'e2e/playwright.config.ts'], {
    env: { ...environment, PLAYWRIGHT_JSON_OUTPUT_NAME: file },
  });
  // A journey that passes only when it is tried again has failed.
  tallyFile(
    'journeys',
    file,
    (r) => ({
      passed: r.stats.expected,
      failed: r.stats.unexpected + r.stats.flaky,
      names: r.suites
        .flatMap(specsOf)
        .filter(({ tests }) => tests.some(({ status }) => status === 'unexpected' || status === 'flaky'))
        .map(({ file, line, title }) => `${file}:${line}: ${title}`),
    }),
    code,
  );
});

await database?.stop();
say(`${times.join(', ')}; ${((Date.now() - began) / 1000).toFixed(0)} s in all`);
for (const name of failures) say(`failed: ${name}`);
say(`${count.passed} passed, ${count.failed} failed`);
process.exit(count.failed ? 1 : 0);
