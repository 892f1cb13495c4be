import { SAMPLES } from '@dial-shade/samples';
import { defaultMass, emptyProject, type Roof } from '../project';
import { assembleScene, type Scene } from './scene';

/** Edges of a piece that are not run through as often one way as the other, points to the tenth of a millimetre. */
function openEdges({ positions: p }: Scene['pieces'][number]): number {
  const key = (at: number) => [0, 1, 2].map((k) => Math.round(p[at + k]! * 1e4)).join();
  const balance = new Map<string, number>();
  for (let t = 0; t < p.length; t += 9)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [key(t + k * 3), key(t + ((k + 1) % 3) * 3)];
      const [name, way] = a < b ? [`${a}|${b}`, 1] : [`${b}|${a}`, -1];
      balance.set(name, (balance.get(name) ?? 0) + way);
    }
  return [...balance.values()].filter((sum) => sum !== 0).length;
}

test.each(Object.entries(SAMPLES))(
  'in %s every body but ground and fences is closed edge by edge, with windows, floors and roofs',
  (_, make) => {
    const project = make();
    for (const { id } of project.options) {
      const scene = assembleScene(project, id, new Map());
      const open = scene.owners.filter((owner, i) => {
        const { surfaces } = scene.pieces[i]!;
        return (
          owner.layer !== 'ground' &&
          !surfaces.some(({ kind }) => kind === 'fence') &&
          openEdges(scene.pieces[i]!) > 0
        );
      });
      expect(open.map(({ name }) => name)).toEqual([]);
    }
  },
);

test.each<Roof>([
  { kind: 'sawtooth', riseM: 2, teeth: 5, facesDeg: 20 },
  { kind: 'sawtooth', riseM: 2, teeth: 4, facesDeg: 0 },
  { kind: 'hip', pitchDeg: 35 },
  { kind: 'gable', riseM: 3 },
  { kind: 'mono', riseM: 2, fallsTowardsDeg: 77 },
])('a body with windows by rule under a $kind roof is closed edge by edge', (roof) => {
  const project = emptyProject('P', 2026);
  const outer: [number, number][] = [
    [0, 0],
    [21, 0],
    [21, 9],
    [0, 9],
  ];
  project.options[1]!.masses.push({ ...defaultMass('m', 'M', outer, 3), roof });
  project.options[1]!.rules.push({
    id: 'r',
    name: 'R',
    scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
    make: { by: 'size', widthM: 1.2, heightM: 1.4, spacingM: 2.6, sillM: 0.9, jambM: 0.5 },
    glazing: project.glazings[0]!.id,
    revealM: 0.15,
    openable: true,
  });
  const scene = assembleScene(project, 'a', new Map());
  expect(openEdges(scene.pieces[1]!)).toBe(0);
});
