import { massLevels, onFace, outlineBox } from '../form';
import {
  areaWithHoles,
  bounds,
  centroid,
  intersectPolygons,
  type MeshStore,
  type Point2,
  type Point3,
} from '../geometry';
import { adjoiningMass, openingsIn } from '../openings';
import type { MassShape, Model, OpeningOutline, Project } from '../project';

import { tooManyOpenings } from './option-size';
import { standingProblems } from './standing-problems';

/** Something about a model that cannot be built, or that is probably not meant. */
export interface ModelProblem {
  kind: 'opening' | 'height' | 'overlap' | 'standing';
  /** `wrong` cannot be built; `ask` may be meant. */
  weight: 'wrong' | 'ask';
  sentence: string;
  /** Where it is, and how much round it should be seen. */
  at: Point3;
  sizeM: number;
  owner: { id: string; optionId: string | null };
  /** Of an opening: its id and the nearest place that fits. */
  opening?: { id: string; nearest: OpeningOutline | null };
  /** Of a height: factors to metres by which it would be usual, if feet or millimetres were meant. */
  factors?: { unit: string; factor: number }[];
}

/** Height from which it is asked whether the unit is right, metres. */
const TALL_M = 120;
/** Storey height from which it is asked. */
const TALL_STOREY_M = 25;
/** Volume from which an overlap is told, m³. */
const MIN_OVERLAP_M3 = 0.5;

/** Everything in an option that is worth a look. */
export function modelProblems(project: Project, optionId: string, meshes?: MeshStore): ModelProblem[] {
  const openings = openingsIn(project, optionId, meshes);
  const { ground } = project.site;
  const found: ModelProblem[] = [];
  const ruled = openings.tooMany && openings.bodies.find(({ body }) => body.storeys.length > 0);
  if (ruled)
    found.push({
      kind: 'opening',
      weight: 'wrong',
      sentence: tooManyOpenings(openings.tooMany!),
      at: middleOf(ruled.body, ground),
      sizeM: 30,
      owner: { id: ruled.body.id, optionId: ruled.optionId },
    });
  for (const { body, optionId: of } of openings.bodies) {
    const levels = massLevels(body, ground);
    const middle = centroid(body.footprint.outer);
    const heightM = levels.topM - levels.floorM;
    const tallest = Math.max(...body.storeys.map((s) => s.heightM));
    if (heightM > TALL_M || tallest > TALL_STOREY_M)
      found.push({
        kind: 'height',
        weight: 'ask',
        sentence: `“${body.name}” is ${heightM.toFixed(0)} m high${tallest > TALL_STOREY_M ? `, with a storey of ${tallest.toFixed(0)} m` : ''}; were feet or millimetres meant?`,
        at: [middle[0], middle[1], levels.floorM + heightM / 2],
        sizeM: heightM,
        owner: { id: body.id, optionId: of },
        factors: [
          { unit: 'feet', factor: 0.3048 },
          { unit: 'millimetres', factor: 0.001 },
        ].filter(({ factor }) => Math.min(...body.storeys.map((s) => s.heightM)) * factor >= 0.1),
      });
  }
  found.push(...standingProblems(openings.all, ground, meshes));
  for (const { body, optionId: of } of openings.all)
    for (const { opening, face, violation } of openings.of(body)?.violations ?? []) {
      const box = outlineBox(opening.outline);
      found.push({
        kind: 'opening',
        weight: 'wrong',
        sentence: `“${opening.name}” in “${body.name}”: ${violation.reason}`,
        at: face ? onFace(face, [(box.u0 + box.u1) / 2, (box.v0 + box.v1) / 2]) : middleOf(body, ground),
        sizeM: 8,
        owner: { id: body.id, optionId: of },
        opening: { id: opening.id, nearest: violation.nearest },
      });
    }
  const own = openings.bodies.filter(({ optionId: of }) => of !== null);
  const byAdjoining = new Map(openings.bodies.map(({ body }) => [adjoiningMass(body, ground), body]));
  for (const [i, { body, optionId: of }] of own.entries())
    for (const adjoining of openings.near(body)) {
      const other = byAdjoining.get(adjoining);
      const at = own.findIndex((o) => o.body === other);
      if (!other || (at >= 0 && at < i)) continue;
      const overlap = overlapOf(body, other, ground);
      if (!overlap || overlap.volumeM3 < MIN_OVERLAP_M3) continue;
      found.push({
        kind: 'overlap',
        weight: 'ask',
        sentence: `“${body.name}” and “${other.name}” overlap by ${overlap.volumeM3.toFixed(1)} m³. That is allowed; floor areas count both.`,
        at: overlap.at,
        sizeM: 15,
        owner: { id: body.id, optionId: of },
      });
    }
  return found;
}

function middleOf(body: MassShape | Model, ground: Project['site']['ground']): Point3 {
  if ('mesh' in body) return body.move;
  const { floorM, topM } = massLevels(body, ground);
  const [x, y] = centroid(body.footprint.outer);
  return [x, y, (floorM + topM) / 2];
}

/** Volume that two bodies share between their floors and eaves, m³, and a place in it. */
function overlapOf(
  one: MassShape,
  other: MassShape,
  ground: Project['site']['ground'],
): { volumeM3: number; at: Point3 } | null {
  const [a, b] = [one, other].map((body) => massLevels(body, ground)) as [
    ReturnType<typeof massLevels>,
    ReturnType<typeof massLevels>,
  ];
  const low = Math.max(a.floorM, b.floorM);
  const high = Math.min(a.eavesM, b.eavesM);
  if (high - low < 1e-3) return null;
  const [p, q] = [bounds(one.footprint.outer), bounds(other.footprint.outer)];
  if (p.minX >= q.maxX || q.minX >= p.maxX || p.minY >= q.maxY || q.minY >= p.maxY) return null;
  let area = 0;
  let at: Point2 = [0, 0];
  for (const part of intersectPolygons([one.footprint], [other.footprint])) {
    area += areaWithHoles(part);
    at = centroid(part.outer);
  }
  return area > 0 ? { volumeM3: area * (high - low), at: [at[0], at[1], high] } : null;
}
