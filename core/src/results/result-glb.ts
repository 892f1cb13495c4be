import { writeGlb } from '../files';
import { triangulate } from '../geometry';
import type { Ground } from '../project';
import { shownValues, type StudyResult } from '../study';
import { colourOn, type Scale } from './ramps';
import { resultCells } from './result-cells';

/** How far cells lie off their surface, metres. */
const LIFT_M = 0.02;

/** The cells of a result as a binary glTF file (metres, y up): a node a target, each cell in the colour of its value. */
export async function resultGlb(result: StudyResult, ground: Ground, scale: Scale): Promise<Uint8Array> {
  const values = shownValues(result);
  const parts = result.targets.map(({ name }) => ({
    name,
    positions: [] as number[],
    triangles: [] as number[],
    colours: [] as number[],
  }));
  for (const { sensor, targetIndex, flat, at } of resultCells(result, ground)) {
    if (Number.isNaN(values[sensor]!)) continue;
    const part = parts[targetIndex]!;
    const colour = linear(colourOn(scale, values[sensor]!));
    for (const { outer, holes } of flat) {
      const rings = [outer, ...holes];
      const first = part.positions.length / 3;
      for (const p of rings.flat()) {
        part.positions.push(...at(p, LIFT_M));
        part.colours.push(...colour);
      }
      for (const corner of triangulate(rings)) part.triangles.push(first + corner);
    }
  }
  return writeGlb(
    parts
      .filter(({ triangles }) => triangles.length > 0)
      .map(({ name, positions, triangles, colours }) => ({
        name,
        mesh: { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) },
        colours: Float32Array.from(colours),
      })),
  );
}

/** A colour as linear red, green and blue, which is what glTF holds. */
function linear(colour: string): [number, number, number] {
  const parts = colour.startsWith('#')
    ? [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16))
    : colour
        .match(/\d+(\.\d+)?/g)!
        .slice(0, 3)
        .map(Number);
  return parts.map((part) => {
    const c = part / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
}
