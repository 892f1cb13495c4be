import {
  assembleScene,
  emptyProject,
  moveOwner,
  type OpeningRule,
  defaultMass,
  type Project,
  meshFaults,
  readObj,
  readStl,
  type Scene,
  weldMesh,
} from '@dial-shade/core';
import { BufferAttribute, BufferGeometry } from 'three';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { mergeVertices } from 'three/examples/jsm/utils/BufferGeometryUtils.js';

/** A town of 2,000 footprints with pitched and flat roofs, about 60 thousand triangles, and 300 openings by rule. */
export function town(): Project {
  const project = emptyProject('Town', 2026);
  const side = Math.ceil(Math.sqrt(2000));
  for (let i = 0; i < 2000; i++) {
    const x = (i % side) * 14 - side * 7;
    const y = Math.floor(i / side) * 13 + 30;
    const [w, d] = [7 + (i % 5), 6 + (i % 4)];
    const ell = i % 6 === 0;
    const outer: [number, number][] = ell
      ? [
          [x, y],
          [x + w, y],
          [x + w, y + d * 0.5],
          [x + w * 0.6, y + d * 0.5],
          [x + w * 0.6, y + d],
          [x, y + d],
        ]
      : [
          [x, y],
          [x + w, y],
          [x + w, y + d],
          [x, y + d],
        ];
    const mass = defaultMass(`n${i}`, `House ${i}`, outer, 1 + (i % 3));
    project.neighbours.push({
      kind: 'building',
      ...mass,
      roof: ell
        ? { kind: 'hip', pitchDeg: 35 }
        : i % 2
          ? { kind: 'gable', riseM: 2.4 }
          : { kind: 'flat', parapetM: 0.4 },
    });
  }
  const rule: OpeningRule = {
    id: 'lights',
    name: 'Lights',
    scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
    make: { by: 'size', widthM: 1.2, heightM: 1.5, spacingM: 2.4, sillM: 0.9, jambM: 0.4 },
    glazing: 'double',
    revealM: 0.1,
    openable: true,
  };
  const option = project.options[1]!;
  option.rules.push(rule);
  for (let i = 0; i < 3; i++)
    option.masses.push(
      defaultMass(
        `m${i}`,
        `Block ${i}`,
        [
          [i * 40, 0],
          [i * 40 + 30, 0],
          [i * 40 + 30, 13],
          [i * 40, 13],
        ],
        4,
      ),
    );
  return project;
}

/** An OBJ file of so many triangles: a field of houses, quads and triangles mixed. */
export function bigObj(triangles: number): string {
  const lines: string[] = [];
  const houses = Math.ceil(triangles / 14);
  for (let i = 0; i < houses; i++) {
    const [x, y] = [(i % 130) * 12.25, Math.floor(i / 130) * 11.5];
    lines.push(`o House ${i}`);
    for (const [dx, dy, dz] of [
      [0, 0, 0],
      [8, 0, 0],
      [8, 6, 0],
      [0, 6, 0],
      [0, 0, 5.2],
      [8, 0, 5.2],
      [8, 6, 5.2],
      [0, 6, 5.2],
      [0, 3, 7.7],
      [8, 3, 7.7],
    ] as const)
      lines.push(`v ${(x + dx).toFixed(3)} ${(y + dy).toFixed(3)} ${dz.toFixed(3)}`);
    const f = (...corners: number[]) => lines.push(`f ${corners.map((c) => c + i * 10).join(' ')}`);
    f(1, 4, 3, 2);
    f(1, 2, 6, 5);
    f(2, 3, 7, 6);
    f(3, 4, 8, 7);
    f(4, 1, 5, 8);
    f(5, 6, 10, 9);
    f(7, 8, 9, 10);
    f(6, 7, 10);
    f(8, 5, 9);
  }
  return `${lines.join('\n')}\n`;
}

function timed<T>(work: () => T): { ms: number; value: T } {
  const begun = performance.now();
  const value = work();
  return { ms: performance.now() - begun, value };
}

function same(one: Scene, other: Scene): boolean {
  return (
    one.positions.length === other.positions.length &&
    one.positions.every((v, i) => v === other.positions[i]) &&
    one.surfaceOf.every((v, i) => v === other.surfaceOf[i])
  );
}

const middle = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** Scene assembly from nothing and after one edit, and reading OBJ beside the loader that comes with three. */
export function modelBench(): void {
  const full: number[] = [];
  const incremental: number[] = [];
  let equal = true;
  let scene: Scene | null = null;
  for (let round = 0; round < 7; round++) {
    const project = structuredClone(town());
    const first = timed(() => assembleScene(project, 'a', new Map()));
    full.push(first.ms);
    scene = first.value;
    let now = project;
    for (let k = 0; k < 12; k++) {
      const owner = k % 2 ? { optionId: 'a', id: `m${(k >> 1) % 2}` } : { optionId: null, id: `n${k * 137}` };
      now = moveOwner(owner, 0.25, 0.5)(now);
      const again = timed(() => assembleScene(now, 'a', new Map()));
      incremental.push(again.ms);
      if (k === 11) equal &&= same(again.value, assembleScene(structuredClone(now), 'a', new Map()));
    }
  }
  const openings = scene!.surfaces.filter(({ kind }) => kind === 'glazing').length;
  console.log(
    `Town: 2,000 neighbours, ${scene!.surfaceOf.length.toLocaleString('en')} triangles, ${openings} openings by rule`,
  );
  console.log(`  full assembly        ${middle(full).toFixed(1)} ms (worst ${Math.max(...full).toFixed(1)})`);
  console.log(
    `  after one edit       ${middle(incremental).toFixed(1)} ms (worst ${Math.max(...incremental).toFixed(1)})`,
  );
  console.log(`  same triangles as from nothing: ${equal ? 'yes' : 'NO'}`);

  const text = bigObj(200_000);
  const bytes = new TextEncoder().encode(text);
  const ours: number[] = [];
  const theirs: number[] = [];
  let counts = '';
  for (let round = 0; round < 5; round++) {
    const own = timed(() => readObj(bytes));
    const loader = timed(() => new OBJLoader().parse(new TextDecoder().decode(bytes)));
    ours.push(own.ms);
    theirs.push(loader.ms);
    let loaded = 0;
    loader.value.traverse((part) => {
      const mesh = part as { geometry?: { attributes: { position: { count: number } } } };
      if (mesh.geometry) loaded += mesh.geometry.attributes.position.count / 3;
    });
    counts = `${(own.value.mesh.triangles.length / 3).toLocaleString('en')} and ${loaded.toLocaleString('en')} triangles`;
  }
  console.log(`OBJ, ${(bytes.length / 1e6).toFixed(1)} MB: ${counts}`);
  console.log(`  ours                 ${middle(ours).toFixed(0)} ms`);
  console.log(`  three's OBJLoader    ${middle(theirs).toFixed(0)} ms`);
  console.log(`  ours is ${(middle(theirs) / middle(ours)).toFixed(2)} times as fast`);
  looseTriangles();
}

/** A binary STL of loose triangles that share no corner but in their order. */
function looseStl(count: number): Uint8Array {
  const bytes = new Uint8Array(84 + count * 50);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, count, true);
  let seed = 12_345;
  const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++) view.setFloat32(84 + t * 50 + 12 + k * 4, random() * 1000, true);
  return bytes;
}

/** Two million loose triangles: read, welded and looked over; welding beside that of three on a tenth of them. */
function looseTriangles(): void {
  const COUNT = 2_000_000;
  const bytes = looseStl(COUNT);
  const reading = timed(() => readStl(bytes));
  const welding = timed(() => weldMesh(reading.value.mesh!));
  const looking = timed(() => meshFaults(welding.value));
  const seconds = (ms: number) => (ms / 1000).toFixed(1);
  console.log(`STL, ${COUNT.toLocaleString('en')} loose triangles`);
  console.log(
    `  read ${seconds(reading.ms)} s, welded ${seconds(welding.ms)} s, edges ${seconds(looking.ms)} s (${looking.value.openEdges.toLocaleString('en')} open); ${(process.memoryUsage.rss() / 1e6).toFixed(0)} MB in all`,
  );
  const few = readStl(looseStl(COUNT / 10)).mesh!;
  const loose = new Float32Array(few.triangles.length * 3);
  few.triangles.forEach((corner, i) => loose.set(few.positions.subarray(corner * 3, corner * 3 + 3), i * 3));
  const own = timed(() =>
    weldMesh({
      positions: Float64Array.from(loose),
      triangles: Uint32Array.from({ length: loose.length / 3 }, (_, i) => i),
    }),
  );
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(loose, 3));
  const theirs = timed(() => mergeVertices(geometry, 0));
  console.log(
    `  a tenth welded: ours ${own.ms.toFixed(0)} ms (${(own.value.positions.length / 3).toLocaleString('en')} corners), three's mergeVertices ${theirs.ms.toFixed(0)} ms (${theirs.value.attributes.position!.count.toLocaleString('en')}); ${(theirs.ms / own.ms).toFixed(1)} times as fast`,
  );
}
