import type { Point3 } from '../../../geometry';
import { type Drawing, type DxfRecord, layerOf, numberOf, pointOf } from './dxf-entities';
import { type DxfShape, placedBlock, planeAxes, shapesOf } from './dxf-shapes';
import { dxfName } from './dxf-text';

/** A shape in the drawing, with the layer and the kind of record that it comes from. */
export type PlacedShape = DxfShape & { layer: string; type: string; colour: number };

/** What became of the records of a drawing. */
export interface Expanded {
  shapes: PlacedShape[];
  /** Records without a shape that can be read, by kind. */
  unread: Map<string, number>;
  /** Records in paper space. */
  onPaper: number;
  /** Names of blocks that are placed and are not in the file. */
  missing: Set<string>;
  /** Names of other drawings that are placed and only referred to. */
  drawings: Set<string>;
  /** Blocks that hold themselves, or are nested too deeply, or too many of them. */
  tooDeep: number;
}

/** Blocks within blocks at the most; shapes of a drawing at the most. */
const MAX_DEPTH = 24;
const MAX_SHAPES = 2_000_000;

type Move = (p: Point3) => Point3;

const nothing = (): Expanded => ({
  ...{ shapes: [], unread: new Map(), onPaper: 0 },
  ...{ missing: new Set(), drawings: new Set(), tooDeep: 0 },
});

/**
 * Gathers the shapes of a drawing where they stand, those of blocks too: nested, scaled, mirrored and in rows. Records are
 * taken one by one; those that place a block which is told only later wait for the end.
 */
export function expander(): {
  take: (record: DxfRecord, drawing: Drawing) => void;
  done: (drawing: Drawing) => Expanded;
} {
  const found = nothing();
  const later: DxfRecord[] = [];
  const take = (record: DxfRecord, drawing: Drawing): void => {
    const name = placedBlock(record);
    if (name !== null && !drawing.blocks.has(dxfName(name).toLowerCase())) later.push(record);
    else expandInto(found, record, drawing);
  };
  const done = (drawing: Drawing): Expanded => {
    for (const record of later) expandInto(found, record, drawing);
    return found;
  };
  return { take, done };
}

function expandInto(found: Expanded, entity: DxfRecord, { blocks, layers }: Drawing): void {
  /** By its own number, that of the block that holds it (0), or that of its layer (256, or none). */
  const colourOf = (record: DxfRecord, layer: string, ofBlock: number | null): number => {
    const own = numberOf(record, 62, 256);
    if (own === 0 && ofBlock !== null) return ofBlock;
    return own === 256 || own === 0 ? (layers.get(layer)?.colour ?? 7) : Math.abs(own);
  };
  const walk = (
    records: readonly DxfRecord[],
    move: Move | null,
    layer: string | null,
    depth: number,
    colour: number | null = null,
  ): void => {
    for (const record of records) {
      if (numberOf(record, 60) === 1) continue;
      if (depth === 0 && numberOf(record, 67) === 1) {
        found.onPaper++;
        continue;
      }
      // What a block holds on layer 0 lies on the layer of whoever places it.
      const own = layerOf(record);
      const on = own === '0' && layer !== null ? layer : own;
      const name = placedBlock(record);
      if (name !== null) {
        place(record, dxfName(name), move, on, depth, colourOf(record, on, colour));
        continue;
      }
      const shapes = shapesOf(record);
      if (!shapes) {
        found.unread.set(record.type, (found.unread.get(record.type) ?? 0) + 1);
        continue;
      }
      for (const shape of shapes) {
        if (found.shapes.length >= MAX_SHAPES) {
          found.tooDeep++;
          return;
        }
        if (!shape.points.every((p) => p.every(Number.isFinite))) continue;
        const points = move ? shape.points.map(move) : shape.points;
        found.shapes.push({
          ...shape,
          points,
          ...(shape.kind === 'path' &&
            move && { thickness: move([0, 0, shape.thickness])[2] - move([0, 0, 0])[2] }),
          ...{ layer: on, type: record.type, colour: colourOf(record, on, colour) },
        });
      }
    }
  };
  const place = (
    record: DxfRecord,
    name: string,
    move: Move | null,
    layer: string,
    depth: number,
    colour: number,
  ): void => {
    const block = blocks.get(name.toLowerCase());
    if (!block) {
      found.missing.add(name);
      return;
    }
    if (block.drawing !== undefined && block.length === 0) {
      found.drawings.add(block.drawing);
      return;
    }
    if (depth >= MAX_DEPTH || found.shapes.length >= MAX_SHAPES) {
      found.tooDeep++;
      return;
    }
    const toWorld = planeAxes(record);
    const at = pointOf(record, 10) ?? [0, 0, 0];
    const scale = [41, 42, 43].map((code) => numberOf(record, code, 1)) as [number, number, number];
    const turn = (numberOf(record, 50) * Math.PI) / 180;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const [columns, rows] = [70, 71].map((code) => Math.max(1, numberOf(record, code, 1))) as [
      number,
      number,
    ];
    const [columnM, rowM] = [numberOf(record, 44), numberOf(record, 45)];
    const [bx, by, bz] = block.base ?? [0, 0, 0];
    for (let k = 0; k < Math.min(columns * rows, 10_000); k++) {
      const [ox, oy] = [(k % columns) * columnM, Math.floor(k / columns) * rowM];
      const placed: Move = ([x, y, z]) => {
        const [lx, ly, lz] = [(x - bx) * scale[0] + ox, (y - by) * scale[1] + oy, (z - bz) * scale[2]];
        const world = toWorld([at[0] + lx * c - ly * s, at[1] + lx * s + ly * c, at[2] + lz]);
        return move ? move(world) : world;
      };
      walk(block, placed, layer, depth + 1, colour);
    }
  };
  walk([entity], null, null, 0);
}
