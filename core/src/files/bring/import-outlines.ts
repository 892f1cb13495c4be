import { type Point2, type Ring, ringProblem } from '../../geometry';
import { type Area, type Becomes, defaultMass, type Mass, TODAY } from '../../project';
import type { outlineHeights } from '../heights/heights-taken';
import { addTarget, cleanRing, idFor, type Importing, inOption, round } from './importing';
import type { ModelFile, ModelFootprint } from '../model-file';
import { metresOf, type ModelUnit } from '../model-units';
import type { Placing } from './placing';
import { bringThing, pointsOfOutline, statedShape } from './things';

/** How outlines are brought in. */
export interface OutlineWays {
  unit: ModelUnit;
  optionId: string;
  courts?: boolean;
  place: Placing['place'];
  heights: ReturnType<typeof outlineHeights>;
  /** Whether heights go by what was chosen, whatever outlines say of themselves. */
  isChosen: boolean;
}

/** Brings one outline in as what it becomes; what cannot be is left out and said. */
export function bringOutline(
  into: Importing,
  model: ModelFile,
  footprint: ModelFootprint,
  becomes: Becomes,
  ways: OutlineWays,
): void {
  const { place, heights } = ways;
  const k = model.geographic ? 1 : metresOf(ways.unit);
  const ringOf = (ring: Ring) =>
    cleanRing(
      ring.map((p): Point2 => {
        const [x, y] = place([p[0] * k, p[1] * k, 0]);
        return [round(x), round(y)];
      }),
    ).map(([x, y]): [number, number] => [x, y]);
  const { name, thing } = footprint;
  if (thing && thing.kind !== 'building') {
    const points = pointsOfOutline(thing, footprint.outer).map((p): Point2 => {
      const [x, y] = place([p[0] * k, p[1] * k, 0]);
      return [x, y];
    });
    if (!bringThing(into, name, thing, points)) into.notes.push(`“${name}” is left out: its line is none.`);
    return;
  }
  const outer = ringOf(footprint.outer);
  const wrong =
    outer.length > 2000
      ? 'has more than 2000 corners'
      : outer.some((p) => Math.max(Math.abs(p[0]), Math.abs(p[1])) > 50_000)
        ? 'lies more than 50 km from the place'
        : ringProblem(outer);
  if (wrong) {
    into.notes.push(`“${name}” is left out: it ${wrong}.`);
    return;
  }
  if (becomes === 'boundary') {
    into.project = { ...into.project, site: { ...into.project.site, boundary: outer } };
    into.ids.push('boundary');
    return;
  }
  if (becomes === 'target') {
    addTarget(into, name, outer, null);
    return;
  }
  const courts = ways.courts === false ? [] : footprint.holes;
  if (ways.courts === false)
    footprint.holes.forEach((ring, i) => {
      const alone = { ...footprint, name: `${name}, within ${i + 1}`, outer: ring, holes: [] };
      bringOutline(into, model, alone, becomes, ways);
    });
  const id = idFor(into, name);
  into.ids.push(id);
  if (becomes === 'area') {
    const area: Area = { id, name, use: 'garden', outline: outer, on: { kind: 'ground' } };
    into.project = { ...into.project, areas: [...into.project.areas, area] };
    return;
  }
  const { topM, baseM } = heights.of(footprint);
  const levelM = footprint.level === undefined ? null : place([0, 0, footprint.level * k])[2];
  const heightM = topM - baseM;
  if (heightM < 0.1 || heightM > 1000) {
    into.notes.push(`“${name}” is left out: ${heightM} m is no height of a building.`);
    into.taken.delete(into.ids.pop()!);
    return;
  }
  const plain = {
    ...storeyed(defaultMass(id, name, outer, 1), heightM),
    ...(baseM > 0 && { base: { on: 'ground' as const, offsetM: round(baseM) } }),
    ...(levelM !== null && { base: { on: 'level' as const, levelM: round(levelM) } }),
    footprint: { outer, holes: courts.map(ringOf).filter((hole) => !ringProblem(hole)) },
  };
  const { ground, north } = into.project.site;
  const stated = ways.isChosen
    ? null
    : statedShape(plain, thing, heightM, { ground, trueNorthDeg: north.trueNorthDeg });
  const body = stated ?? plain;
  if (thing && !stated) into.changed.push(name);
  if (becomes === 'neighbour')
    into.project = {
      ...into.project,
      neighbours: [...into.project.neighbours, { kind: 'building', ...body }],
    };
  else
    into.project = inOption(into.project, becomes === 'today' ? TODAY : ways.optionId, (option) => ({
      ...option,
      masses: [...option.masses, body],
    }));
}

/** A mass of equal storeys of about three metres with this height in all. */
function storeyed(mass: Mass, heightM: number): Mass {
  const storeys = Math.max(1, Math.min(200, Math.round(heightM / 3)));
  return { ...mass, storeys: Array.from({ length: storeys }, () => ({ heightM: heightM / storeys })) };
}
