import { cutText } from '../civil';
import { longSide, type Mesh } from '../geometry';
import type { Becomes } from '../project';
import { likelyUnitOf } from './likely-unit';
import { meshPart } from './mesh-gather';
import type { ModelFile, ModelFootprint } from './model-file';
import { metresOf } from './model-units';

/** Parts of a model that are decided on together. */
export interface ModelRow {
  key: string;
  name: string;
  /** `mesh`: triangles; `outline`: footprints; `room`: rooms; `spot`: heights. */
  kind: 'mesh' | 'outline' | 'room' | 'spot';
  count: number;
  /** What it most likely is. */
  likely: Becomes;
  /** What it may become. */
  may: Becomes[];
  /** Whether its outlines go round others, as lines of plots do: no buildings unless that is asked for one by one. */
  isRound?: boolean;
}

/** Groups up to which each is decided on by itself. */
const FEW = 40;

/** What outlines are decided on together by: their layer, or the colour that they are drawn in. */
export type OutlinesBy = 'layer' | 'colour';

/** The row of an outline. */
export function outlineRow({ layer, properties, isRound }: ModelFootprint, by: OutlinesBy = 'layer'): string {
  const what = by === 'layer' ? layer : `colour ${properties.colour ?? 'none'}`;
  return `outline:${what}${isRound ? ROUND : ''}`;
}

/** Behind the row of lines that go round others. */
const ROUND = ', round others';

/** The parts of a model on which the user decides: groups by what they are, outlines by layer or colour, rooms. */
export function modelRows(model: ModelFile, by: OutlinesBy = 'layer'): ModelRow[] {
  const rows = new Map<string, ModelRow>();
  const note = (row: Omit<ModelRow, 'count'>, count: number) => {
    const known = rows.get(row.key);
    if (known) known.count += count;
    else rows.set(row.key, { ...row, count });
  };
  model.groups.forEach((group, i) => {
    const key = groupKey(model, i);
    const end = model.groups[i + 1]?.firstTriangle ?? model.mesh!.triangles.length / 3;
    // Many groups are one row by what they are; the name of one of them says nothing of the others.
    const words = byKind(model) ? (group.kind ?? kindByName(model, i)) : `${group.kind ?? ''} ${group.name}`;
    const ground = /terrain|tin ?relief|^site$|ground|topo/i.test(words);
    const isShading = /shading ?device|louvre|sun ?screen|sun ?shade|awning/i.test(
      `${group.kind ?? ''} ${byKind(model) ? '' : group.name}`,
    );
    note(
      {
        key,
        name: rowName(model, i),
        kind: 'mesh',
        likely: ground ? 'terrain' : isShading ? 'device' : 'neighbour',
        may: ['neighbour', 'today', 'option', 'device', 'terrain', 'target', 'leave'],
      },
      end - group.firstTriangle,
    );
  });
  const small = smallRows(model, by);
  const rounds = model.footprints.filter(({ isRound }) => isRound).length;
  for (const footprint of model.footprints) {
    const key = outlineRow(footprint, by);
    const layer = key.slice('outline:'.length);
    const layerState = by === 'layer' ? footprint.layerState : undefined;
    note(
      {
        key,
        name: layerState ? `${layer} (${layerState})` : layer,
        kind: 'outline',
        likely:
          layerState || small.has(key) || (footprint.isRound && rounds > 1)
            ? 'leave'
            : footprint.isRound ||
                /boundary|plot|parcel|grundst|(^|[-_. ])(site|limite|grenze)($|[-_. ])/i.test(layer)
              ? 'boundary'
              : /garden|amenity|green/i.test(layer)
                ? 'area'
                : 'neighbour',
        may:
          footprint.thing && footprint.thing.kind !== 'building'
            ? ['neighbour', 'leave']
            : ['neighbour', 'today', 'option', 'area', 'target', 'boundary', 'leave'],
        ...(footprint.isRound && { isRound: true }),
      },
      1,
    );
  }
  for (const { name, positions, isFew } of model.spots)
    note(
      {
        key: `spots:${name}`,
        name,
        kind: 'spot',
        likely: isFew ? 'leave' : 'terrain',
        may: ['terrain', 'leave'],
      },
      positions.length / 3,
    );
  if (model.rooms.length)
    note(
      {
        key: 'rooms',
        name: 'Rooms',
        kind: 'room',
        likely: 'leave',
        may: ['rooms', 'area', 'target', 'leave'],
      },
      model.rooms.length,
    );
  return [...rows.values()];
}

/** A drawing has no building under this, metres: furniture, columns, fittings. */
export const SMALL_M = 2;

/** Rows of a drawing all of whose outlines are smaller than any building. */
function smallRows(model: ModelFile, by: OutlinesBy): Set<string> {
  if (model.format !== 'dxf') return new Set();
  const most = SMALL_M / metresOf(model.unit ?? likelyUnitOf(model, 'z'));
  const [small, large] = [new Set<string>(), new Set<string>()];
  for (const footprint of model.footprints) {
    const key = outlineRow(footprint, by);
    if (large.has(key)) continue;
    if (longSide(footprint.outer) < most) small.add(key);
    else large.add(key);
  }
  for (const key of large) small.delete(key);
  // A drawing of small things only is a drawing of what is wanted.
  return large.size > 0 ? small : new Set();
}

/**
 * What a row becomes where nothing was decided: what it most likely is. Shading is a device where the rest of the file
 * becomes part of an option, and else what the rest most likely is.
 */
export function likelyFor(row: ModelRow, becomes: Readonly<Record<string, Becomes>>): Becomes {
  if (row.likely !== 'device') return row.likely;
  return Object.values(becomes).some((other) => other === 'option' || other === 'device')
    ? 'device'
    : 'neighbour';
}

function byKind(model: ModelFile): boolean {
  return model.groups.length > FEW || model.format === 'ifc';
}

function groupKey(model: ModelFile, i: number): string {
  const { kind, storey } = model.groups[i]!;
  if (!byKind(model)) return `group:${i}`;
  return `kind:${kind ?? kindByName(model, i)}${storey ? `/${storey}` : ''}`;
}

/** What the names of groups say that they are, where the file says no more. */
const NAMED: readonly (readonly [string, RegExp])[] = [
  [
    'ground',
    /terrain|tin ?relief|ground|gelände|gelaende|topo|land ?form|^dgm|^dtm|grass|lawn|pav(ing|ement)/i,
  ],
  ['trees', /tree|plant|vegetation|bush|shrub|hedge|foliage|baum|bäume/i],
  ['glass', /glass|glazing|window ?pane|verglasung/i],
  ['roads', /road|street|path|kerb|curb|strasse|straße/i],
  ['water', /water|river|lake|pond/i],
];

/** A group by its name, else by its shape: what is wide and flat is ground. */
function kindByName(model: ModelFile, i: number): string {
  const found = NAMED.find(([, pattern]) => pattern.test(model.groups[i]!.name));
  if (found) return found[0];
  return isFlatAndWide(model, i) ? 'flat surfaces' : 'buildings';
}

/** How wide for its height a surface is, at the least, to be no building. */
const FLAT = 30;

function isFlatAndWide({ mesh, groups, up }: ModelFile, i: number): boolean {
  const { positions, triangles } = mesh!;
  const until = (groups[i + 1]?.firstTriangle ?? triangles.length / 3) * 3;
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ] as [number[], number[]];
  for (let t = groups[i]!.firstTriangle * 3; t < until; t++)
    for (let axis = 0; axis < 3; axis++) {
      const v = positions[triangles[t]! * 3 + axis]!;
      if (v < low[axis]!) low[axis] = v;
      if (v > high[axis]!) high[axis] = v;
    }
  const size = [0, 1, 2].map((axis) => high[axis]! - low[axis]!);
  const height = size[up === 'y' ? 1 : 2]!;
  const plan = up === 'y' ? Math.max(size[0]!, size[2]!) : Math.max(size[0]!, size[1]!);
  return height * FLAT < plan;
}

function rowName(model: ModelFile, i: number): string {
  const { kind, name, storey } = model.groups[i]!;
  if (!byKind(model)) return name;
  const text = kind ?? kindByName(model, i);
  return cutText(`${text[0]!.toUpperCase()}${text.slice(1)}${storey ? `, ${storey}` : ''}`, 80);
}

/** The triangles of one group. */
export function groupMesh({ mesh, groups }: ModelFile, i: number): Mesh {
  return meshPart(
    mesh!,
    groups[i]!.firstTriangle,
    groups[i + 1]?.firstTriangle ?? mesh!.triangles.length / 3,
  );
}

/** The groups of a row that say what they are. */
export function rowThings(model: ModelFile, key: string) {
  return model.groups.flatMap((group, index) =>
    group.thing && groupKey(model, index) === key ? [{ group: { ...group, thing: group.thing }, index }] : [],
  );
}

/** All triangles of the groups of a row but some; null where none are left. */
export function rowMesh(model: ModelFile, key: string, but: ReadonlySet<number> = new Set()): Mesh | null {
  const mesh = model.mesh!;
  const spans = model.groups.flatMap((group, i) =>
    groupKey(model, i) === key && !but.has(i)
      ? [[group.firstTriangle, model.groups[i + 1]?.firstTriangle ?? mesh.triangles.length / 3] as const]
      : [],
  );
  if (spans.length === 0) return null;
  const triangles = new Uint32Array(spans.reduce((sum, [from, to]) => sum + (to - from) * 3, 0));
  let at = 0;
  for (const [from, to] of spans) {
    triangles.set(mesh.triangles.subarray(from * 3, to * 3), at);
    at += (to - from) * 3;
  }
  return meshPart({ positions: mesh.positions, triangles }, 0, triangles.length / 3);
}
