import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { postgresBin } from './database.mjs';
import { giveUp, has, ROOT, run, say } from './console.mjs';

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
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const mark = join(ROOT, 'node_modules/.installed-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  say('Installing packages …');
  if (run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']) !== 0)
    giveUp('npm ci failed; its message stands above.');
  writeFileSync(mark, lock);
}

/** Builds the pages when a source is newer than the last build. */
export function buildPages() {
  const mark = join(ROOT, 'web/dist/.sources');
  const newest = ['web/src', 'web/index.html', 'web/vite.config.ts', 'core/src', 'package-lock.json']
    .flatMap((path) => files(join(ROOT, path)))
    .map((file) => `${file.slice(ROOT.length)}:${statSync(file).mtimeMs}`)
    .sort();
  const now = createHash('sha256').update(newest.join('\n')).digest('hex');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  say('Building the pages …');
  if (run('npm', ['run', '-s', 'build']) !== 0)
    giveUp('The pages could not be built; the message stands above.');
  mkdirSync(join(ROOT, 'web/dist'), { recursive: true });
  writeFileSync(mark, now);
}

function files(path) {
  if (!existsSync(path)) return [];
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path).flatMap((name) => files(join(path, name)));
}
