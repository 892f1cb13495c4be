import { spawn, spawnSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder of the whole project. */
export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');

/** Tells the user something, on one line. */
export function say(text) {
  console.log(text);
}

/** Ends with a sentence. */
export function giveUp(text) {
  console.error(text);
  process.exit(1);
}

/** Runs a command to its end, with its output on ours; gives the exit code. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  return done.status ?? 1;
}

/** Runs a command without blocking, with its output on ours; gives the exit code. */
export function runAside(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
    child.on('error', () => resolve(1));
    child.on('exit', (code) => resolve(code ?? 1));
  });
}

/** Whether a command can be found. */
export function has(command) {
  return spawnSync('sh', ['-c', `command -v ${command}`]).status === 0;
}
