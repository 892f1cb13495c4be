import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** The folder of the whole project: the nearest one upwards whose package is named dial-shade. */
export function projectRoot(from = process.cwd()): string {
  for (let folder = from; ; folder = dirname(folder)) {
    const file = join(folder, 'package.json');
    if (existsSync(file) && JSON.parse(readFileSync(file, 'utf8')).name === 'dial-shade') return folder;
    if (folder === dirname(folder)) throw new Error(`No project folder above ${from}.`);
  }
}
