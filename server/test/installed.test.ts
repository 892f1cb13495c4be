import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isInstalled } from '../../scripts/installed.mjs';
import { projectRoot } from '../src/root';

type Packages = Record<string, object>;

/** A folder whose lock file asks for some packages and that has others. */
function folderWith(wanted: Packages, there: Packages | null): string {
  const root = mkdtempSync(join(tmpdir(), 'dial-installed-'));
  writeFileSync(join(root, 'package-lock.json'), JSON.stringify({ packages: wanted }));
  for (const path of Object.keys(there ?? {})) {
    mkdirSync(join(root, path), { recursive: true });
    writeFileSync(join(root, path, 'package.json'), '{}');
  }
  if (there)
    writeFileSync(join(root, 'node_modules/.package-lock.json'), JSON.stringify({ packages: there }));
  return root;
}

const ONE = { version: '1.0.0', integrity: 'sha512-one' };
const WANTED = {
  '': { name: 'all' },
  core: { name: '@dial-shade/core' },
  'node_modules/one': ONE,
  'node_modules/one/node_modules/two': { version: '2.0.0', integrity: 'sha512-two' },
  'node_modules/elsewhere': { version: '3.0.0', integrity: 'sha512-three', optional: true },
};
const { '': _all, core: _core, 'node_modules/elsewhere': _elsewhere, ...THERE } = WANTED;

test.each<[string, boolean, Packages | null]>([
  ['all of it is there', true, THERE],
  ['there is more than is asked for', true, { ...THERE, 'node_modules/more': ONE }],
  ['nothing is there', false, null],
  ['one is missing', false, { 'node_modules/one': ONE }],
  ['one is of another version', false, { ...THERE, 'node_modules/one': { ...ONE, version: '1.0.1' } }],
  ['one has another checksum', false, { ...THERE, 'node_modules/one': { ...ONE, integrity: 'sha512-x' } }],
])('packages are installed where what the lock file asks for is there: %s', (_, expected, there) => {
  const root = folderWith(WANTED, there);
  expect(isInstalled(root)).toBe(expected);
  rmSync(root, { recursive: true });
});

test('a folder that was emptied by hand is not taken for installed; this one is', () => {
  const root = folderWith(WANTED, THERE);
  rmSync(join(root, 'node_modules/one/package.json'));
  expect(isInstalled(root)).toBe(false);
  writeFileSync(join(root, 'node_modules/.package-lock.json'), '{');
  expect(isInstalled(root)).toBe(false);
  rmSync(root, { recursive: true });
  expect(isInstalled(projectRoot())).toBe(true);
});
