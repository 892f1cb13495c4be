import { existsSync, lstatSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bundle, stateOf } from './bundle.mjs';
import { postgresBin } from './database.mjs';
import { giveUp, has, ROOT, run, say } from './console.mjs';
import { isInstalled } from './installed.mjs';

/** Installs what is missing: Debian's PostgreSQL (and Chromium when asked), and the packages of the lock file. */
export function install({ browser = false } = {}) {
  const wanted = [];
  if (!postgresBin()) wanted.push('postgresql');
  if (browser && !has('chromium')) wanted.push('chromium');
  if (wanted.length) {
    if (process.getuid?.() !== 0)
      giveUp(`Missing: ${wanted.join(', ')}. Run: sudo apt-get install -y ${wanted.join(' ')}`);
    say(`Installing ${wanted.join(' and ')} …`);
    const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    const quiet = { env: environment, stdio: ['ignore', 'ignore', 'inherit'] };
    run('apt-get', ['update', '-qq'], quiet);
    if (run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...wanted], quiet) !== 0)
      giveUp(`Could not install ${wanted.join(', ')}; install them by hand and start again.`);
  }
  // Packages behind a link belong to another folder: emptying it would take them from there.
  const packages = join(ROOT, 'node_modules');
  if (existsSync(packages) && lstatSync(packages).isSymbolicLink()) return;
  if (isInstalled(ROOT)) return;
  say('Installing packages …');
  if (run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']) !== 0)
    giveUp('npm ci failed; its message stands above.');
}

/** Bundles what runs in Node, and builds the pages, when a source changed since they were built last. */
export async function build() {
  await bundle();
  const mark = join(ROOT, 'web/dist/.sources');
  const now = stateOf(['web/src', 'web/index.html', 'web/vite.config.ts', 'core/src', 'package-lock.json']);
  if (existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  say('Building the pages …');
  if (run('npm', ['run', '-s', 'build', '-w', 'web']) !== 0)
    giveUp('The pages could not be built; the message stands above.');
  mkdirSync(join(ROOT, 'web/dist'), { recursive: true });
  writeFileSync(mark, now);
}
