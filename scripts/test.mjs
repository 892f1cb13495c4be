import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { buildPages, install } from './install.mjs';
import { ROOT, run, runAside, say } from './console.mjs';

/** Everything that is checked: npm test. Names of parts may be given to run only those: format lint types unit journeys. */
const PARTS = ['format', 'lint', 'types', 'unit', 'journeys'];
const wanted = process.argv.slice(2).filter((arg) => PARTS.includes(arg));
const chosen = wanted.length ? wanted : PARTS;
const count = { passed: 0, failed: 0 };

function tally(name, ok) {
  count[ok ? 'passed' : 'failed']++;
  say(`${ok ? 'passed' : 'FAILED'}: ${name}`);
}

function tallyFile(name, file, read, code) {
  if (!existsSync(file)) {
    tally(name, false);
    return;
  }
  const { passed, failed } = read(JSON.parse(readFileSync(file, 'utf8')));
  count.passed += passed;
  count.failed += failed;
  if (code !== 0 && failed === 0) tally(`${name} ended with an error`, false);
  say(`${name}: ${passed} passed, ${failed} failed`);
}

install({ browser: chosen.includes('journeys') });
mkdirSync(join(ROOT, 'var'), { recursive: true });

if (chosen.includes('format'))
  tally('format', run('npx', ['prettier', '--check', '--log-level=warn', '.']) === 0);
if (chosen.includes('lint')) tally('lint', run('npx', ['eslint', '.']) === 0);
if (chosen.includes('types')) tally('types', run('npm', ['run', '-s', 'types']) === 0);

const database =
  chosen.includes('unit') || chosen.includes('journeys')
    ? await startDatabase('test-database', { fresh: true })
    : null;
const environment = {
  ...process.env,
  TEST_DATABASE_URL: database?.url,
  DIAL_SHADE_LOG: 'warn',
  FORCE_COLOR: '0',
};

if (chosen.includes('unit')) {
  const file = join(ROOT, 'var/unit-results.json');
  rmSync(file, { force: true });
  const code = await runAside('npx', ['jest', '--json', `--outputFile=${file}`], {
    env: { ...environment, NODE_ENV: 'test' },
  });
  tallyFile(
    'unit and API tests',
    file,
    (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests + r.numRuntimeErrorTestSuites }),
    code,
  );
}

if (chosen.includes('journeys')) {
  buildPages();
  const file = join(ROOT, 'var/journey-results.json');
  rmSync(file, { force: true });
  const code = await runAside('npx', ['playwright', 'test', '-c', 'e2e/playwright.config.ts'], {
    env: { ...environment, PLAYWRIGHT_JSON_OUTPUT_NAME: file },
  });
  tallyFile(
    'journeys',
    file,
    (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected }),
    code,
  );
}

await database?.stop();
say(`${count.passed} passed, ${count.failed} failed`);
process.exit(count.failed ? 1 : 0);
