import { freeAmong, newId } from '../../document';
import { defaultSpacing } from '../../form';
import { type Mesh, type Point2, type Ring, signedArea } from '../../geometry';
import type { Project, Target } from '../../project';
import type { Difference } from './again/read-again';

/** The project with the model in it, the meshes it now names, and what could not be brought in, one sentence each. */
export interface ImportOutcome {
  project: Project;
  meshes: Map<string, Mesh>;
  /** Ids of what is new. */
  ids: string[];
  notes: string[];
  /** What reading a file again changes; left out where it comes in for the first time. */
  difference?: Difference;
}

/** A thing that a file has brought in, and how the file names it. */
export interface FreshPart {
  part: string;
  owner: string;
}

/** The outcome as it grows, and corners of all parts that become the terrain. */
export type Importing = ImportOutcome & {
  randomIds: boolean;
  /** Ids in use. */
  taken: Set<string>;
  terrain: { names: string[]; corners: number[] };
  /** What was brought in by its name in the file. */
  parts: FreshPart[];
  /** Owners of outlines that are left out one by one: they are known, so that they stay out when the file is read again. */
  leftOut: Set<string>;
  /** Names of what no longer has the height of what it says that it is. */
  changed: string[];
};

/** An id for something new: from its name, or at random. */
export function idFor({ randomIds, taken }: Importing, name: string): string {
  if (randomIds) return newId(slug(name));
  const id = freeAmong(taken, slug(name));
  taken.add(id);
  return id;
}

/** The project with one of its options changed. */
export function inOption(
  project: Project,
  optionId: string,
  change: (option: Project['options'][number]) => Project['options'][number],
): Project {
  return {
    ...project,
    options: project.options.map((option) => (option.id === optionId ? change(option) : option)),
  };
}

function slug(name: string): string {
  const plain = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return plain.slice(0, 40) || 'part';
}

/** Adds a target with an outline in plan, on the ground or at a level. */
export function addTarget(into: Importing, name: string, ring: Ring, levelM: number | null): void {
  const spacingM = defaultSpacing(Math.abs(signedArea(ring)));
  const id = idFor(into, name);
  const target: Target = {
    id,
    name,
    kind: 'ground',
    outline: ring.map(([x, y]): [number, number] => [x, y]),
    spacingM,
    offsetM: 0.1,
    ...(levelM !== null && { levelM }),
  };
  into.ids.push(id);
  into.project = { ...into.project, targets: [...into.project.targets, target] };
}

/** A ring without corners that lie on the one after. */
export function cleanRing(ring: Ring): Point2[] {
  return ring.filter((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return Math.hypot(p[0] - q[0], p[1] - q[1]) >= 1e-3;
  });
}

/** To a tenth of a millimetre. */
export function round(metres: number): number {
  return Math.round(metres * 1e4) / 1e4;
}

/** Notes what a part of a file becomes while it is brought in. */
export function notingPart(into: Importing, part: string, bring: () => void): void {
  const from = into.ids.length;
  bring();
  into.ids
    .slice(from)
    .forEach((owner, n) => into.parts.push({ part: n === 0 ? part : `${part}, ${n + 1}`, owner }));
}
