import { emptyProject } from '@dial-shade/core';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { greyPng, jpegHead } from '../../core/testing/pictures';
import { dial } from '../testing/dial';

const folder = mkdtempSync(join(tmpdir(), 'dial-under-'));
const path = (name: string) => join(folder, name);
const EMPTY = path('empty.json');
writeFileSync(EMPTY, JSON.stringify(emptyProject('Empty', 2026)));
const png = greyPng(200, 100, (x, y) => (x % 20 === 0 || y % 20 === 0 ? 0 : 255));
writeFileSync(path('plan.png'), png);
const project = (name: string) => JSON.parse(readFileSync(path(name), 'utf8'));

const lay = (into: string, file: string, out: string, ...more: string[]) =>
  dial('underlay', into, path(file), '--out', path(out), ...more);

test('a picture is laid on the ground to scale, goes along with the file, and what is not to be had is refused', () => {
  // 160 pixels are 40 m: 0.25 m a pixel, so 50 × 25 m.
  const scale = ['--from', '20,20', '--to', '180,20', '--length', '40'];
  const laid = lay(EMPTY, 'plan.png', 'one.json', '--at', '10,-5', '--turn', '90', ...scale);
  expect(laid.stderr).toBe('');
  const { corners, ...said } = JSON.parse(laid.stdout);
  expect(said).toMatchObject({ metresPerPixel: 0.25, scaled: true });
  // Turned by a quarter its upper left corner is the lower left one.
  const expected = [10 - 12.5, -5 - 25];
  corners[0].forEach((value: number, k: number) => expect(value).toBeCloseTo(expected[k]!, 9));
  const one = project('one.json');
  expect(one.underlays).toEqual([
    expect.objectContaining({ name: 'plan', at: [10, -5], turnDeg: 90, widthPx: 200, shown: true }),
  ]);
  expect(Buffer.from(one.pictures[one.underlays[0].picture], 'base64').equals(Buffer.from(png))).toBe(true);

  // It stays when something else is brought in, and another of the same name is told apart.
  writeFileSync(
    path('flat.geojson'),
    JSON.stringify({
      type: 'Polygon',
      coordinates: [
        [
          [0, 0],
          [9, 0],
          [9, 9],
          [0, 9],
          [0, 0],
        ],
      ],
    }),
  );
  expect(
    dial('bring-in', path('one.json'), path('flat.geojson'), '--unit', 'm', '--out', path('two.json')),
  ).toMatchObject({
    stderr: '',
    status: 0,
  });
  expect(project('two.json').pictures).toEqual(one.pictures);
  expect(lay(path('two.json'), 'plan.png', 'three.json').status).toBe(0);
  expect(
    project('three.json').underlays.map(({ name, scaled }: { name: string; scaled: boolean }) => [
      name,
      scaled,
    ]),
  ).toEqual([
    ['plan', true],
    ['plan (2)', false],
  ]);
  expect(dial('check', path('three.json')).status).toBe(0);

  const refused = (...args: Parameters<typeof lay>) => lay(...args).stderr.trim();
  writeFileSync(path('turned.jpg'), jpegHead(30, 20, { orientation: 6 }));
  expect(refused(EMPTY, 'turned.jpg', 'x.json')).toContain('save it anew as it is seen');
  expect(refused(EMPTY, 'flat.geojson', 'x.json')).toContain('This is no PNG or JPEG picture.');
  expect(refused(EMPTY, 'plan.png', 'x.json', '--length', '4')).toContain('give --from, --to and --length');
  expect(refused(EMPTY, 'plan.png', 'x.json', '--at', '4')).toContain('“4” is no point; write --at as x,y.');
  expect(refused(EMPTY, 'plan.png', 'x.json', '--at', '4,')).toContain('“4,” is no point');
  expect(refused(EMPTY, 'plan.png', 'x.json', '--opacity', '2')).toContain('outside 0.05 to 1');
  const brought = dial('bring-in', EMPTY, path('plan.png'), '--out', path('x.json'));
  expect(brought.stderr).toContain('lay it on the ground as a picture, to trace over it');
  const without = { ...one, pictures: {} };
  writeFileSync(path('without.json'), JSON.stringify(without));
  expect(dial('check', path('without.json')).stdout + dial('check', path('without.json')).stderr).toContain(
    'The picture of “plan” is not in the file.',
  );
});
