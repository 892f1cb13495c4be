import { boxMesh } from '../../../../testing/meshes';
import { bring, read } from '../../../../testing/model-files';
import { problems } from '../../../document';
import { emptyProject, type Project } from '../../../project';
import type { ImportChoices } from '../import-model';
import { writeObj } from '../../out/write-option';
import { rememberedBecomes, sourceOf } from './source-of';
import { modelRows } from '../../model-rows';

type P = [number, number];
interface House {
  id?: string;
  name?: string;
  at: P;
  size?: P;
  height?: number;
  ring?: P[];
}
const HASH = (text: string) =>
  text
    .padEnd(64, '0')
    .replace(/[^0-9a-f]/g, 'a')
    .slice(0, 64);

/** A town of houses as GeoJSON of a plan, in metres. */
const town = (houses: readonly House[]) =>
  JSON.stringify({
    type: 'FeatureCollection',
    crs: { type: 'name', properties: { name: 'a plan of its own' } },
    features: houses.map(({ id, name, at: [x, y], size: [w, d] = [10, 8], height = 6, ring }) => {
      const outer: P[] = ring ?? [
        [x, y],
        [x + w, y],
        [x + w, y + d],
        [x, y + d],
      ];
      return {
        type: 'Feature',
        properties: { ...(id && { id }), ...(name && { name }), height },
        geometry: { type: 'Polygon', coordinates: [[...outer, outer[0]!]] },
      };
    }),
  });

/** Brings a file in, read again if it was there before, as page and command line do. */
async function take(
  project: Project,
  text: string,
  file = 'town.geojson',
  more: Partial<ImportChoices> = {},
) {
  const model = await read(text, file);
  const hash = HASH(Buffer.from(text).toString('hex').slice(-60));
  const again = sourceOf(project, model, file, hash)?.id ?? null;
  const becomes = rememberedBecomes(project, modelRows(model), sourceOf(project, model, file, hash));
  const into = bring(model, { file: { name: file, hash }, again, becomes, name: file, ...more }, project);
  expect(problems(into.project)).toEqual([]);
  return into;
}
const named = (project: Project, name: string) => {
  const one = project.neighbours.find((n) => n.name === name);
  if (one?.kind !== 'building') throw new Error(`no building ${name}`);
  return one;
};
const heightOf = (project: Project, name: string) =>
  named(project, name).storeys.reduce((sum, { heightM }) => sum + heightM, 0);
const window = (id: string, edge: number, u = 2, storey = 0) => ({
  ...{ id, name: id, kind: 'window' as const, glazing: emptyProject('E', 2026).glazings[0]!.id },
  host: { on: 'wall' as const, ring: 0, edge, storey },
  outline: { kind: 'rectangle' as const, u, v: 0.9, widthM: 1, heightM: 1.2 },
  ...{ revealM: 0.1, openable: true, grid: null },
});
const edited = (project: Project, id: string, change: object): Project => ({
  ...project,
  neighbours: project.neighbours.map((one) => (one.id === id ? ({ ...one, ...change } as typeof one) : one)),
});

const THREE: House[] = [
  { id: 'p', name: 'Post office', at: [0, 0] },
  { id: 'q', name: 'Quarry', at: [30, 0] },
  { id: 'r', name: 'Rectory', at: [60, 0] },
];

test('the same file twice changes nothing, and what was done by hand since stays', async () => {
  const first = (await take(emptyProject('E', 2026), town(THREE))).project;
  const post = named(first, 'Post office');
  const worked = edited(
    edited(first, post.id, { name: 'Old post', openings: [window('w', 1)] }),
    named(first, 'Quarry').id,
    {
      demolished: true,
    },
  );
  const { project, notes } = await take(worked, town(THREE));
  expect(project.neighbours).toEqual(worked.neighbours);
  expect(notes[0]).toBe('Nothing has changed in it: 3 parts are as they were.');
  expect(project.sources).toHaveLength(1);
  // Beside, when that is asked for, under ids of their own.
  const beside = await take(worked, town(THREE), 'town.geojson', { again: null });
  expect(beside.project.neighbours).toHaveLength(6);
});

test('what changed keeps id, name and openings of walls that go on; what is gone goes, what was taken out stays out', async () => {
  const first = (await take(emptyProject('E', 2026), town(THREE))).project;
  const post = named(first, 'Post office');
  const worked = edited(first, post.id, {
    name: 'Old post',
    openings: [window('south', 0), window('east', 1), window('north', 2, 6)],
  });
  const without = { ...worked, neighbours: worked.neighbours.filter(({ name }) => name !== 'Rectory') };
  const next: House[] = [
    // Longer to the west by 3 m, its east wall pushed out by 1 m.
    { id: 'p', name: 'Post office', at: [-3, 0], size: [14, 8] },
    { id: 'r', name: 'Rectory', at: [60, 0] },
    { id: 's', name: 'School', at: [90, 0] },
  ];
  const { project, notes } = await take(without, town(next));
  expect(project.neighbours.map(({ id, name }) => [id, name])).toEqual([
    [post.id, 'Old post'],
    [expect.any(String), 'School'],
  ]);
  const said = notes.join(' ');
  expect(said).toContain('1 part has changed: “Old post” (shape).');
  expect(said).toContain('1 part is new: “School”.');
  expect(said).toContain('1 part is no longer in the file and taken out: “Quarry”.');
  expect(said).toContain('1 part was left out, or taken out of the project, and stays out: “Rectory”.');
  const kept = named(project, 'Old post');
  expect(kept.footprint.outer).toEqual([[-3, 0], [11, 0], [11, 8], [-3, 8]]); // prettier-ignore
  // On the south wall u is told from a corner 3 m further west; on the north wall from one 1 m further east.
  expect(kept.openings.map(({ id, outline }) => [id, 'u' in outline && outline.u])).toEqual([
    ['south', 5],
    ['east', 2],
    ['north', 7],
  ]);
  // Once more the same is nothing, and it keeps the one that is gone if asked.
  expect((await take(project, town(next))).notes.join(' ')).toContain('2 parts are as they were');
  const { project: keeping } = await take(without, town(next), 'town.geojson', { keepGone: true });
  expect(keeping.neighbours.map(({ name }) => name)).toContain('Quarry');
});

test('a height that changed leaves the outline and its windows, but those of storeys that are gone', async () => {
  const tall = THREE.map((house) => ({ ...house, height: 12 }));
  const first = (await take(emptyProject('E', 2026), town(tall))).project;
  const post = named(first, 'Post office');
  const worked = edited(first, post.id, { openings: [window('low', 0), window('high', 0, 2, 3)] });
  const { project, notes } = await take(worked, town([{ ...THREE[0]!, height: 7 }, ...tall.slice(1)]));
  expect(heightOf(project, 'Post office')).toBeCloseTo(7, 9);
  expect(named(project, 'Post office').footprint).toEqual(post.footprint);
  expect(named(project, 'Post office').openings.map(({ id }) => id)).toEqual(['low']);
  expect(notes.join(' ')).toContain('“Post office” (height)');
  expect(notes.join(' ')).toContain(
    'Openings in walls and roofs that are gone are left out: 1 of “Post office”.',
  );
});

test('walls that are gone take their openings and the rules that name them along', async () => {
  const first = (await take(emptyProject('E', 2026), town(THREE))).project;
  const post = named(first, 'Post office');
  const worked = edited(first, post.id, { openings: [window('south', 0), window('east', 1)] });
  worked.neighbourRules.push({
    ...{ id: 'rule', name: 'Rule', glazing: first.glazings[0]!.id, revealM: 0.1, openable: true },
    scope: {
      owners: [post.id],
      sectors: null,
      storeys: null,
      walls: [`${post.id}/0/0`, `${post.id}/0/1`],
      except: [],
    },
    make: { by: 'size', widthM: 1, heightM: 1, spacingM: 3, sillM: 0.9, jambM: 0.5 },
  });
  // The east wall becomes a gable end of two walls at an angle.
  const ring: P[] = [[0, 0], [10, 0], [13, 4], [10, 8], [0, 8]]; // prettier-ignore
  const { project, notes } = await take(worked, town([{ ...THREE[0]!, ring }, ...THREE.slice(1)]));
  expect(named(project, 'Post office').openings.map(({ id }) => id)).toEqual(['south']);
  expect(notes.join(' ')).toContain('1 of “Post office”');
  expect(project.neighbourRules[0]!.scope.walls).toEqual([`${post.id}/0/0`]);
});

test('outlines without ids are found by their shape and place, whatever number they have in the file', async () => {
  const plain = THREE.map(({ at }) => ({ at }));
  const first = (await take(emptyProject('E', 2026), town(plain))).project;
  const ids = first.neighbours.map(({ id }) => id);
  const next = [{ at: [-40, 0] as P }, plain[0]!, { at: [31, 1] as P }, plain[2]!];
  const { project, notes } = await take(first, town(next));
  expect(project.neighbours.slice(0, 3).map(({ id }) => id)).toEqual(ids);
  expect(project.neighbours).toHaveLength(4);
  expect(notes.join(' ')).toContain('2 parts are as they were and stay untouched.');
  const moved = project.neighbours[1]!;
  expect(moved.kind === 'building' && moved.footprint.outer[0]).toEqual([31, 1]);
});

test('a file under a new name is known by its ids; what layers became is remembered, also for other files', async () => {
  const first = (await take(emptyProject('E', 2026), town(THREE))).project;
  const renamed = await take(first, town(THREE), 'town-2027.geojson');
  expect(renamed.project.neighbours).toHaveLength(3);
  expect(renamed.project.sources.map(({ file }) => file)).toEqual(['town-2027.geojson']);
  const other = await read(town([{ id: 'x', at: [0, 50] }]), 'other.geojson');
  expect(sourceOf(first, other, 'other.geojson', HASH('b'))).toBeNull();

  const areas = await take(emptyProject('E', 2026), town(THREE), 'a.geojson', {
    becomes: { 'outline:polygons': 'area' },
  });
  expect(areas.project.areas).toHaveLength(3);
  expect(rememberedBecomes(areas.project, modelRows(other), null)).toEqual({ 'outline:polygons': 'area' });
  const again = await take(
    areas.project,
    town([{ ...THREE[0]!, size: [12, 8] }, ...THREE.slice(1)]),
    'a.geojson',
  );
  expect([again.project.areas.length, again.project.neighbours.length]).toEqual([3, 0]);
  expect(again.project.areas.map(({ id }) => id)).toEqual(areas.project.areas.map(({ id }) => id));
  expect(again.project.areas[0]!.outline[1]).toEqual([12, 0]);
});

test('meshes by their names: moved by hand they stay moved, and openings go to the face that lies where theirs lay', async () => {
  const obj = (x: number, z: number) => {
    const low = boxMesh(x, 8, z);
    const kiosk = boxMesh(2, 2, 2);
    kiosk.positions.forEach((v, i) => (kiosk.positions[i] = i % 3 === 0 ? v + 50 : v));
    return new TextDecoder().decode(
      writeObj([
        { name: 'Hall', mesh: low },
        { name: 'Kiosk', mesh: kiosk },
      ]),
    );
  };
  const first = await take(emptyProject('E', 2026), obj(10, 6), 'hall.obj');
  const hall = first.project.neighbours.find(({ name }) => name === 'Hall')!;
  // The south face, whose left lower corner is the origin.
  const opening = { ...window('w', 0, 4), host: { on: 'mesh' as const, face: 4 } };
  const worked = edited(first.project, hall.id, { move: [0, 20, 0], openings: [opening] });
  const known = new Map([[(hall as { mesh: string }).mesh, boxMesh(10, 8, 6)]]);
  const { project, notes } = await take(worked, obj(14, 9), 'hall.obj', { known });
  const now = project.neighbours.find(({ id }) => id === hall.id)!;
  expect(now).toMatchObject({
    name: 'Hall',
    move: [0, 20, 0],
    openings: [{ id: 'w', outline: { u: 4, v: 0.9 } }],
  });
  expect(now.kind === 'mesh' && now.mesh).not.toBe((hall as { mesh: string }).mesh);
  expect(notes.join(' ')).toContain('1 part is as it was and stays untouched.');
  expect(notes.join(' ')).toContain('“Hall” (shape)');
});

test('a file whose middle was set at the origin stands in the same place when it has grown', async () => {
  const first = await take(emptyProject('E', 2026), town(THREE), 'town.geojson', { centre: true });
  const at = named(first.project, 'Post office').footprint.outer[0]!;
  const [source] = first.project.sources;
  const pinned = source!.place!;
  const next = [...THREE, { id: 't', name: 'Tower', at: [200, 40] as P }];
  const { project } = await take(first.project, town(next), 'town.geojson', { pinned });
  expect(named(project, 'Post office').footprint.outer[0]).toEqual(at);
  expect(project.sources[0]!.place).toEqual(pinned);
});

test('an outline that was left out one by one stays out, and one that is left out when the file is read again goes', async () => {
  const first = await take(emptyProject('E', 2026), town(THREE), 'town.geojson', { leftOut: [1] });
  expect(first.project.neighbours.map(({ name }) => name)).toEqual(['Post office', 'Rectory']);
  const next = [{ ...THREE[0]!, height: 9 }, ...THREE.slice(1)];
  const again = await take(first.project, town(next));
  expect(again.project.neighbours.map(({ name }) => name)).toEqual(['Post office', 'Rectory']);
  expect(again.notes.join(' ')).toContain('stays out: “Quarry”');
  const less = await take(again.project, town(next), 'town.geojson', { leftOut: [2] });
  expect(less.project.neighbours.map(({ name }) => name)).toEqual(['Post office']);
  expect((await take(less.project, town(next))).project.neighbours).toHaveLength(1);
  const none = take(emptyProject('E', 2026), town(THREE), 'town.geojson', { leftOut: [0, 1, 2] });
  await expect(none).rejects.toThrow('Nothing was chosen');
});

test('a light in the roof stays while the outline does, and goes with a roof over another outline', async () => {
  const first = (await take(emptyProject('E', 2026), town(THREE))).project;
  const post = named(first, 'Post office');
  const light = { ...window('light', 0), host: { on: 'roof' as const, face: 0 } };
  const worked = edited(first, post.id, { openings: [light] });
  const higher = await take(worked, town([{ ...THREE[0]!, height: 9 }, ...THREE.slice(1)]));
  expect(named(higher.project, 'Post office').openings.map(({ id }) => id)).toEqual(['light']);
  const wider = await take(worked, town([{ ...THREE[0]!, size: [14, 8] }, ...THREE.slice(1)]));
  expect(named(wider.project, 'Post office').openings).toEqual([]);
  expect(wider.notes.join(' ')).toContain('roofs that are gone are left out: 1 of “Post office”');
});
