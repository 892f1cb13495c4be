import { massLevels, storeyFloorM, storeyPlate, splitStoreys } from '../form';
import {
  areaWithHoles,
  bounds,
  containsWithHoles,
  type MeshStore,
  type Point2,
  type Polygon,
} from '../geometry';
import { type Envelope, type Mass, type Project, requireOption } from '../project';
import { envelopeBreaches, MIN_OVER_M } from './breaches';
import { EnvelopeSolver } from './envelope-field';
import { type EnvelopeLattice, envelopeLattice, levelOn } from './envelope-lattice';
import { fitsUnder, placesAlong, placesWithin } from './plates-under';

/** How what sticks out is taken away: whole storeys, or walls of storeys set back as far as they must. */
export type CutManner = 'set back' | 'lower';

/** What became of an option that was cut. */
export interface CutToFit {
  masses: Mass[];
  /** What happened, a sentence a mass that was changed or gone. */
  said: string[];
  floorAreaBeforeM2: number;
  floorAreaM2: number;
}

/** Walls are set back by steps of this, metres; setbacks end on them. */
const STEP_M = 0.25;
/** Nodes of the field that cuts are found on. */
const LATTICE_M = 0.5;
/** How often what is left standing out is looked for again. */
const MAX_ROUNDS = 6;
/** Steps of setting back that a storey may take. */
const MAX_STEPS = 400;

/**
 * The masses of an option so that nothing of them stands over an envelope or where nothing may be built. A roof that stands
 * out becomes flat; a storey that does is set back, wall by wall where that costs least, or goes with all above it; what is
 * left of a storey is at least so deep. Meshes are not cut.
 */
export function cutToFit(
  project: Project,
  optionId: string,
  envelope: Envelope,
  meshes: MeshStore,
  manner: CutManner,
  leastDepthM: number,
): CutToFit {
  const solver = new EnvelopeSolver(project, envelope, meshes);
  const lattice = envelopeLattice(solver, envelope, LATTICE_M);
  const said: string[] = [];
  const { masses, models } = requireOption(project, optionId);
  const left = new Map<string, Point2[]>();
  const cutAll = () =>
    masses.map((mass) =>
      cutMass(project, mass, solver, lattice, manner, leastDepthM, left.get(mass.id) ?? []),
    );
  let all = cutAll();
  // What still stands out between the places that were looked at is looked at too, until nothing does.
  for (let round = 0; round < MAX_ROUNDS; round++) {
    const found = standingOut(project, optionId, envelope, meshes, all);
    if (found.length === 0) break;
    for (const { owner, at } of found) left.set(owner, [...(left.get(owner) ?? []), at]);
    all = cutAll();
  }
  const cut = masses.flatMap((mass, i) => {
    const one = all[i]!;
    if (one === null) said.push(`“${mass.name}” is gone: not one of its storeys fits.`);
    else if (one !== mass) said.push(changeSaid(mass, one));
    return one ?? [];
  });
  if (models.length > 0) said.push('Imported meshes are not cut.');
  return {
    masses: cut,
    said,
    floorAreaBeforeM2: masses.reduce((sum, mass) => sum + floorArea(mass), 0),
    floorAreaM2: cut.reduce((sum, mass) => sum + floorArea(mass), 0),
  };
}

/** Places at which masses, as they would be, stand over the envelope or where nothing may be built. */
function standingOut(
  project: Project,
  optionId: string,
  envelope: Envelope,
  meshes: MeshStore,
  all: readonly (Mass | null)[],
): { owner: string; at: Point2 }[] {
  const masses = all.filter((mass) => mass !== null);
  const options = project.options.map((one) => (one.id === optionId ? { ...one, masses, models: [] } : one));
  return envelopeBreaches({ ...project, options }, optionId, envelope, meshes).cells;
}

function floorArea(mass: Mass): number {
  return mass.storeys.reduce((sum, _, k) => {
    const plate = storeyPlate(mass, k);
    return sum + (plate ? areaWithHoles(plate) : 0);
  }, 0);
}

function changeSaid(before: Mass, after: Mass): string {
  const gone = before.storeys.length - after.storeys.length;
  const back = after.storeys.filter((storey, k) => storey.setbacksM !== before.storeys[k]!.setbacksM).length;
  const parts = [
    ...(gone > 0 ? [`loses ${gone} storey${gone > 1 ? 's' : ''}`] : []),
    ...(back > 0 ? [`stands back in ${back}`] : []),
    ...(before.roof !== after.roof ? ['has a flat roof'] : []),
  ];
  return `“${before.name}” ${parts.join(', ')}.`;
}

function cutMass(
  { site: { ground } }: Project,
  mass: Mass,
  solver: EnvelopeSolver,
  lattice: EnvelopeLattice,
  manner: CutManner,
  leastDepthM: number,
  also: readonly Point2[],
): Mass | null {
  const fits = (one: Mass, storey: number, topM: number) => {
    const plate = storeyPlate(one, storey);
    if (plate === null) return false;
    const inside = also.filter((p) => containsWithHoles(plate, p));
    return (
      [...placesAlong(plate.outer), ...placesWithin(plate, 1), ...inside].every((p) => isNear(solver, p)) &&
      inside.every((p) => solver.at(p).levelM >= topM - MIN_OVER_M) &&
      fitsUnder(solver, plate, topM)
    );
  };
  let now = mass;
  const top = mass.storeys.length - 1;
  if (
    !fits(mass, top, massLevels(mass, ground).topM) &&
    !(mass.roof.kind === 'flat' && mass.roof.parapetM === 0)
  ) {
    now = { ...mass, roof: { kind: 'flat', parapetM: 0 } };
  }
  for (let k = 0; k < now.storeys.length; k++) {
    const topM = storeyFloorM(now, ground, k) + now.storeys[k]!.heightM;
    if (fits(now, k, topM)) continue;
    const back =
      manner === 'set back'
        ? [false, true]
            .map((isWary) => standBack(now, k, topM, { solver, lattice, also }, leastDepthM, isWary))
            .find((one) => one !== null && fits(one, k, topM))
        : null;
    if (back) {
      now = back;
      continue;
    }
    return k === 0 ? null : splitStoreys(now, ground, k, { id: 'gone', name: 'gone' })[0];
  }
  return now;
}

/** Whether a place may be built on, or lies on the edge of what may be. */
function isNear(solver: EnvelopeSolver, [x, y]: readonly [number, number]): boolean {
  const e = 2e-3;
  return (
    solver.isOpen([x, y]) ||
    [
      [e, e],
      [e, -e],
      [-e, e],
      [-e, -e],
    ].some(([dx, dy]) => solver.isOpen([x + dx!, y + dy!]))
  );
}

/**
 * The mass with the walls of one storey, and of those above, set back until it fits; null where nothing sound is left.
 * @param isWary goes by the least of the nodes about each place rather than between them
 */
function standBack(
  mass: Mass,
  storey: number,
  topM: number,
  { solver, lattice, also }: { solver: EnvelopeSolver; lattice: EnvelopeLattice; also: readonly Point2[] },
  leastDepthM: number,
  isWary: boolean,
): Mass | null {
  const n = mass.footprint.outer.length;
  const was = mass.storeys[storey]!.setbacksM ?? new Array<number>(n).fill(0);
  const withBacks = (backs: readonly number[]): Mass => ({
    ...mass,
    storeys: mass.storeys.map((one, k) =>
      k < storey ? one : { ...one, setbacksM: backs.map((d, i) => Math.max(d, one.setbacksM?.[i] ?? 0)) },
    ),
  });
  const plateOf = (backs: readonly number[]) => storeyPlate(withBacks(backs), storey);
  const exactly = also.filter((p) => solver.at(p).levelM < topM - MIN_OVER_M || !isNear(solver, p));
  const over = (plate: Polygon) =>
    [...placesAlong(plate.outer, 1), ...placesWithin(plate, 1.5)].filter(
      (p) => levelOn(lattice, p, isWary) < topM - 1e-6 || !isNear(solver, p),
    ).length + exactly.filter((p) => containsWithHoles(plate, p)).length;
  /** The walls out again, one after the other, as far as they may. */
  const relaxed = (found: readonly number[]): number[] => {
    const out = [...found];
    for (let i = 0; i < n; i++)
      while (out[i]! - STEP_M >= was[i]!) {
        const tried = out.map((d, k) => (k === i ? d - STEP_M : d));
        const next = plateOf(tried);
        if (!next || over(next) > 0) break;
        out[i] = tried[i]!;
      }
    return out;
  };
  let backs = [...was];
  let plate = plateOf(backs);
  for (let step = 0; plate !== null && step < MAX_STEPS; step++) {
    const now = over(plate);
    if (now === 0) return withBacks(relaxed(backs));
    const area = areaWithHoles(plate);
    let best: { backs: number[]; score: number } | null = null;
    for (let i = 0; i < n; i++)
      for (const stepM of [STEP_M, STEP_M * 4, STEP_M * 12]) {
        const tried = backs.map((d, k) => (k === i ? Math.round((d + stepM) / STEP_M) * STEP_M : d));
        const next = plateOf(tried);
        if (!next || !isDeep(next, leastDepthM)) continue;
        const lost = area - areaWithHoles(next);
        const score = (now - over(next)) / Math.max(lost, 1e-6);
        if (score > 0 && (!best || score > best.score)) best = { backs: tried, score };
      }
    if (!best) return null;
    backs = best.backs;
    plate = plateOf(backs);
  }
  return null;
}

function isDeep(plate: Polygon, depthM: number): boolean {
  const { minX, minY, maxX, maxY } = bounds(plate.outer);
  return Math.min(maxX - minX, maxY - minY) >= depthM && areaWithHoles(plate) >= depthM * depthM;
}
