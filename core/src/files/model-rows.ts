import { cutText } from '../civil';
import type { Mesh } from '../geometry';
import { meshPart } from './mesh-gather';
import type { ModelFile } from './model-file';

/** What a part of a model file may become. */
export const BECOMES = [
  'neighbour',
  'today',
  'option',
  'device',
  'terrain',
  'target',
  'area',
  'rooms',
  'boundary',
  'leave',
] as const;
export type Becomes = (typeof BECOMES)[number];

/** Parts of a model that are decided on together. */
export interface ModelRow {
  key: string;
  name: string;
  /** `mesh`: triangles; `outline`: footprints; `room`: rooms. */
  kind: 'mesh' | 'outline' | 'room';
  count: number;
  /** What it most likely is. */
  likely: Becomes;
  /** What it may become. */
  may: Becomes[];
}

/** Groups up to which each is decided on by itself. */
const FEW = 40;

/** The parts of a model on which the user decides: groups by what they are, outlines by layer, rooms. */
export function modelRows(model: ModelFile): ModelRow[] {
  const rows = new Map<string, ModelRow>();
  const note = (row: Omit<ModelRow, 'count'>, count: number) => {
    const known = rows.get(row.key);
    if (known) known.count += count;
    else rows.set(row.key, { ...row, count });
  };
  model.groups.forEach((group, i) => {
    const key = groupKey(model, i);
    const end = model.groups[i + 1]?.firstTriangle ?? model.mesh!.triangles.length / 3;
    const ground = /terrain|tin ?relief|^site$|ground|topo/i.test(`${group.kind ?? ''} ${group.name}`);
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
  for (const { layer } of model.footprints)
    note(
      {
        key: `outline:${layer}`,
        name: layer,
        kind: 'outline',
        likely: /boundary|plot|parcel/i.test(layer)
          ? 'boundary'
          : /garden|amenity|green/i.test(layer)
            ? 'area'
            : 'neighbour',
        may: ['neighbour', 'today', 'option', 'area', 'target', 'boundary', 'leave'],
      },
      1,
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
  return `kind:${kind ?? 'everything'}${storey ? `/${storey}` : ''}`;
}

function rowName(model: ModelFile, i: number): string {
  const { kind, name, storey } = model.groups[i]!;
  if (!byKind(model)) return name;
  const text = kind ?? 'everything';
  return cutText(`${text[0]!.toUpperCase()}${text.slice(1)}${storey ? `, ${storey}` : ''}`, 80);
}

/** All triangles of the groups of a row. */
export function rowMesh(model: ModelFile, key: string): Mesh {
  const mesh = model.mesh!;
  const spans = model.groups.flatMap((group, i) =>
    groupKey(model, i) === key
      ? [[group.firstTriangle, model.groups[i + 1]?.firstTriangle ?? mesh.triangles.length / 3] as const]
      : [],
  );
  const triangles = new Uint32Array(spans.reduce((sum, [from, to]) => sum + (to - from) * 3, 0));
  let at = 0;
  for (const [from, to] of spans) {
    triangles.set(mesh.triangles.subarray(from * 3, to * 3), at);
    at += (to - from) * 3;
  }
  return meshPart({ positions: mesh.positions, triangles }, 0, triangles.length / 3);
}
