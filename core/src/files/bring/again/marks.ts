import { contentHash } from '../../../content-hash';
import type { Area, Mass, Model, Neighbour, Project, SourcePart, Target } from '../../../project';

/** A thing that a part of a file can become, and where it stands in the document. */
export type Placed =
  | { list: 'neighbours'; optionId: null; thing: Neighbour }
  | { list: 'masses'; optionId: string; thing: Mass & { kind?: undefined } }
  | { list: 'models'; optionId: string; thing: Model & { kind?: undefined } }
  | { list: 'areas'; optionId: null; thing: Area & { kind?: undefined } }
  | { list: 'targets'; optionId: null; thing: Target };

/** All things of a project that files can bring in, by their ids. */
export function placedThings(project: Project): Map<string, Placed> {
  const all: Placed[] = [
    ...project.neighbours.map((thing): Placed => ({ list: 'neighbours', optionId: null, thing })),
    ...project.areas.map((thing): Placed => ({ list: 'areas', optionId: null, thing })),
    ...project.targets.map((thing): Placed => ({ list: 'targets', optionId: null, thing })),
    ...project.options.flatMap(({ id, masses, models }): Placed[] => [
      ...masses.map((thing): Placed => ({ list: 'masses', optionId: id, thing })),
      ...models.map((thing): Placed => ({ list: 'models', optionId: id, thing })),
    ]),
  ];
  return new Map(all.map((one) => [one.thing.id, one]));
}

const mark = (value: unknown) => contentHash(value).slice(0, 12);

/** By what is told whether a thing is as it was: its plan and its height, of what has only one shape that. */
export function marksOf({ list, thing }: Placed): Pick<SourcePart, 'plan' | 'height'> {
  if (list === 'areas') return { plan: mark(thing.outline), height: mark(thing.on) };
  if (list === 'targets') return { plan: mark({ ...thing, id: '', name: '' }), height: null };
  if ('mesh' in thing) return { plan: mark(thing.mesh), height: null };
  if ('footprint' in thing) {
    const { outer, holes } = thing.footprint;
    return { plan: mark({ outer, holes }), height: mark([thing.base, thing.storeys, thing.roof]) };
  }
  if (thing.kind === 'tree')
    return { plan: mark(thing.at), height: mark({ ...thing, id: '', name: '', at: 0 }) };
  return { plan: mark(thing.path), height: mark({ ...thing, id: '', name: '', path: 0 }) };
}

/** The middle in plan of what has an outline, and half of how wide it is. */
export function middleOf({ thing }: Placed): { at: readonly [number, number]; reachM: number } | null {
  const outline =
    'footprint' in thing
      ? thing.footprint.outer
      : 'outline' in thing && thing.kind !== 'plane'
        ? thing.outline
        : null;
  if (!outline) return null;
  const of = (k: 0 | 1) => outline.map((p) => p[k]);
  const [x0, x1, y0, y1] = [Math.min(...of(0)), Math.max(...of(0)), Math.min(...of(1)), Math.max(...of(1))];
  return { at: [(x0 + x1) / 2, (y0 + y1) / 2], reachM: Math.min(x1 - x0, y1 - y0) / 2 };
}
