import { anticlockwise, contains, insetRing, type Point2, type Ring, ringsMeet } from '../geometry';

/** An outline with courts. */
export interface Plate {
  /** Runs anticlockwise. */
  outer: Ring;
  /** Run clockwise, so that the building is always on the left of an edge. */
  holes: Ring[];
}

interface Shaped {
  footprint: { outer: Ring; holes: readonly Ring[] };
  storeys: readonly { setbacksM?: readonly number[] | undefined }[];
}

/** The footprint with its rings in the directions by which edges are counted. */
export function normalFootprint({ outer, holes }: { outer: Ring; holes: readonly Ring[] }): Plate {
  return { outer: anticlockwise(outer), holes: holes.map((hole) => [...anticlockwise(hole)].reverse()) };
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
      const sound = outer && whole.holes.every((hole) => isInside(outer, hole));
      made.set(key, sound ? { outer, holes: whole.holes } : null);
    }
    return made.get(key)!;
  });
}

function isInside(outer: Ring, hole: Ring): boolean {
  return hole.every((p: Point2) => contains(outer, p)) && !ringsMeet(outer, hole);
}

/** What is wrong with the courts of a footprint, as a sentence, or null. */
export function footprintProblem({ outer, holes }: Shaped['footprint']): string | null {
  for (const [i, hole] of holes.entries()) {
    if (!isInside(outer, hole))
      return `Court ${i + 1} does not lie wholly within the footprint; move it inwards.`;
    if (holes.some((other, k) => k < i && (ringsMeet(hole, other) || contains(other, hole[0]!))))
      return `Court ${i + 1} overlaps another court; draw them as one.`;
  }
  return null;
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
