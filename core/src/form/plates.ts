import { anticlockwise, contains, insetRing, meetingRings, type Ring } from '../geometry';

/** An outline with courts. */
export interface Plate {
  /** Runs anticlockwise. */
  outer: Ring;
  /** Run clockwise, so that the building is always on the left of an edge. */
  holes: Ring[];
  /** The lasting numbers of the edges, ring by ring, the outer one first. */
  edges: readonly (readonly number[])[];
}

interface Outlined {
  outer: Ring;
  holes: readonly Ring[];
  edges?: readonly (readonly number[])[] | undefined;
}

interface Shaped {
  footprint: Outlined;
  storeys: readonly { setbacksM?: readonly number[] | undefined }[];
}

/** The footprint with its rings in the directions by which edges are counted. */
export function normalFootprint(footprint: Outlined): Plate {
  const { outer, holes } = footprint;
  return {
    outer: anticlockwise(outer),
    holes: holes.map((hole) => [...anticlockwise(hole)].reverse()),
    edges: edgeNumbers(footprint),
  };
}

/**
 * The lasting numbers of the edges of a footprint, ring by ring, the outer one first. An edge keeps its number while
 * corners come and go beside it; where a footprint gives none, edges are numbered as they run.
 */
export function edgeNumbers({ outer, holes, edges }: Outlined): number[][] {
  return [outer, ...holes].map((ring, r) => [...(edges?.[r] ?? ring.keys())]);
}

/** Where the edge of this number runs in its ring, or −1 when it is gone. */
export function edgeIndex(plate: Pick<Plate, 'edges'>, ring: number, edge: number): number {
  return plate.edges[ring]?.indexOf(edge) ?? -1;
}

/** Numbers that new edges draw from; those of a footprint as it was first drawn lie below. */
const FIRST_DRAWN = 10_000;
const LAST_DRAWN = 999_999;

/** A number for a new edge, drawn at random, so that neither an edge that is gone nor another page has had it. */
export function freshEdgeNumber(taken: readonly number[]): number {
  for (;;) {
    const number = FIRST_DRAWN + Math.floor(Math.random() * (LAST_DRAWN + 1 - FIRST_DRAWN));
    if (!taken.includes(number)) return number;
  }
}

const plates = new WeakMap<object, (Plate | null)[]>();

/** The plate of a storey: the footprint with each edge set back; null when nothing sound is left of it. */
export function storeyPlate(mass: Shaped, storey: number): Plate | null {
  let known = plates.get(mass);
  if (!known) {
    known = makePlates(mass);
    plates.set(mass, known);
  }
  return known[storey] ?? null;
}

function makePlates({ footprint, storeys }: Shaped): (Plate | null)[] {
  const whole = normalFootprint(footprint);
  const made = new Map<string, Plate | null>();
  return storeys.map(({ setbacksM }) => {
    if (!setbacksM || setbacksM.every((d) => d === 0)) return whole;
    const key = setbacksM.join();
    if (!made.has(key)) {
      const outer = insetRing(whole.outer, setbacksM);
      const sound = outer && !courtProblem(outer, whole.holes);
      made.set(key, sound ? { ...whole, outer } : null);
    }
    return made.get(key)!;
  });
}

/** Why the courts cannot be in the footprint, as a sentence, or null. */
function courtProblem(outer: Ring, holes: readonly Ring[]): string | null {
  const outside = (hole: number) =>
    `Court ${hole + 1} does not lie wholly within the footprint; move it inwards.`;
  const overlaps = (hole: number) => `Court ${hole + 1} overlaps another court; draw them as one.`;
  const meeting = meetingRings([outer, ...holes]);
  if (meeting) return meeting[0] === 0 ? outside(meeting[1] - 1) : overlaps(meeting[1] - 1);
  // Nothing crosses, so that one corner of a court tells where all of it lies.
  for (const [i, hole] of holes.entries()) {
    if (!contains(outer, hole[0]!)) return outside(i);
    if (holes.some((other, k) => k !== i && contains(other, hole[0]!))) return overlaps(i);
  }
  return null;
}

/** What is wrong with the courts or the numbers of the edges of a footprint, as a sentence, or null. */
export function footprintProblem({ outer, holes, edges }: Outlined): string | null {
  const rings = [outer, ...holes];
  for (const [r, numbers] of (edges ?? []).entries()) {
    const ring = rings[r];
    const name = r === 0 ? 'the footprint' : `court ${r}`;
    if (!ring) return `Edges of ${name} are numbered, but it does not exist; take them out.`;
    if (numbers.length !== ring.length)
      return `The edges of ${name} have ${numbers.length} numbers for ${ring.length} edges; give one for each edge.`;
    if (new Set(numbers).size !== numbers.length)
      return `Two edges of ${name} have the same number; give each its own.`;
  }
  return courtProblem(outer, holes);
}

/** What is wrong with the setbacks of the storeys, as a sentence, or null. */
export function storeyProblem(mass: Shaped): string | null {
  const edges = mass.footprint.outer.length;
  for (const [i, { setbacksM }] of mass.storeys.entries()) {
    if (!setbacksM) continue;
    if (setbacksM.length !== edges)
      return `Storey ${i + 1} has ${setbacksM.length} setbacks for ${edges} edges; give one for each edge.`;
    if (!storeyPlate(mass, i))
      return `The setbacks of storey ${i + 1} leave no sound outline; make them smaller, or equal where edges lie on one line.`;
  }
  return null;
}

/** Storeys that stand on one another with the same plate, from the bottom. */
export function tiers(mass: Shaped): { plate: Plate; from: number; to: number }[] {
  const found: { plate: Plate; from: number; to: number }[] = [];
  mass.storeys.forEach((_, i) => {
    const plate = storeyPlate(mass, i) ?? normalFootprint(mass.footprint);
    const last = found.at(-1);
    if (last && last.plate === plate) last.to = i + 1;
    else found.push({ plate, from: i, to: i + 1 });
  });
  return found;
}
