import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/**
 * Whether the packages that the lock file of a folder asks for are there, each in its version and by its checksum, whoever
 * installed them. What is for other systems only may be missing; what is there besides does not matter.
 * @param {string} root
 * @returns {boolean}
 */
export function isInstalled(root) {
  const read = (path) => JSON.parse(readFileSync(join(root, path), 'utf8')).packages;
  // npm writes here what it has installed.
  const LIST = 'node_modules/.package-lock.json';
  if (!existsSync(join(root, LIST))) return false;
  let wanted;
  let there;
  try {
    [wanted, there] = [read('package-lock.json'), read(LIST)];
  } catch {
    return false;
  }
  return Object.entries(wanted).every(([path, { version, integrity, link, optional, devOptional }]) => {
    if (!path.includes('node_modules/')) return true;
    if (link) return existsSync(join(root, path, 'package.json'));
    const found = there[path];
    if (!found) return optional === true || devOptional === true;
    return (
      found.version === version &&
      found.integrity === integrity &&
      existsSync(join(root, path, 'package.json'))
    );
  });
}
