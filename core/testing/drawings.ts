import { type Point2, signedArea } from '../src/geometry';
import { readDxf } from '../src/files/read/dxf/read-dxf';

/** A drawing of pairs of lines: sections with what they hold. */
export function drawing({
  header = [],
  tables = [],
  blocks = [],
  entities,
}: Partial<Record<'header' | 'tables' | 'blocks', readonly Pairs[]>> & {
  entities: readonly Pairs[];
}): Uint8Array {
  const section = (name: string, parts: readonly Pairs[]) =>
    parts.length > 0 ? [0, 'SECTION', 2, name, ...parts.flat(), 0, 'ENDSEC'] : [];
  const all = [
    ...section('HEADER', header),
    ...section('TABLES', tables),
    ...section('BLOCKS', blocks),
    ...section('ENTITIES', entities),
    ...[0, 'EOF'],
  ];
  return new TextEncoder().encode(all.join('\n') + '\n');
}
export type Pairs = readonly (string | number)[];

export const METRES: Pairs = [9, '$INSUNITS', 70, 6];
export const polyline = (layer: string, points: readonly Point2[], more: Pairs = []): Pairs => [
  ...[0, 'LWPOLYLINE', 8, layer, 90, points.length, 70, 1, ...more],
  ...points.flatMap(([x, y]) => [10, x, 20, y]),
];
export const box = (x: number, y: number, w: number, h: number): Point2[] => [
  ...[
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ].map((p) => p as [number, number]),
];
export const line = (layer: string, [ax, ay]: Point2, [bx, by]: Point2): Pairs => [
  ...[0, 'LINE', 8, layer, 10, ax, 20, ay, 30, 0, 11, bx, 21, by, 31, 0],
];
export const area = (ring: readonly Point2[]) => Math.abs(signedArea(ring));
export const read = (
  entities: readonly Pairs[],
  more: Omit<Parameters<typeof drawing>[0], 'entities'> = {},
) => readDxf(drawing({ header: [METRES], ...more, entities }));
export const insert = (name: string, more: Pairs): Pairs => [0, 'INSERT', 8, 'houses', 2, name, ...more];
