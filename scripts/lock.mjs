import { linkSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';

/** When a process began, as /proc tells it; null when there is none of this number. */
function beganAt(pid) {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return text.slice(text.lastIndexOf(')') + 2).split(' ')[19];
  } catch {
    return null;
  }
}

/**
 * Takes a lock file for this process. Gives { note, release }, or, when a living process has it, { owner }: what that one
 * has noted, with its pid. A lock whose owner is gone, or whose number now belongs to another process, is taken over.
 */
export function takeLock(file) {
  const whole = `${file}.${process.pid}`;
  const mine = { pid: process.pid, began: beganAt(process.pid) };
  for (let attempt = 0; attempt < 5; attempt++) {
    try {
      // Linked when it is whole, so that nobody ever reads half of it.
      writeFileSync(whole, JSON.stringify(mine), { mode: 0o600 });
      linkSync(whole, file);
      return {
        note: (fields) => {
          // Put in its place when it is whole: who read half of it would take the lock over.
          writeFileSync(whole, JSON.stringify({ ...mine, ...fields }), { mode: 0o600 });
          renameSync(whole, file);
        },
        release: () => rmSync(file, { force: true }),
      };
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    } finally {
      rmSync(whole, { force: true });
    }
    let owner;
    try {
      owner = JSON.parse(readFileSync(file, 'utf8'));
    } catch {
      owner = null;
    }
    if (owner && owner.began === beganAt(owner.pid)) return { owner };
    rmSync(file, { force: true });
  }
  throw new Error(`The lock ${file} cannot be taken.`);
}
