import { atRest, type MovedBy, type DevicePosition, positionAt } from '../devices';
import type { Point3 } from '../geometry';
import { solidAt } from '../scene';
import {
  directionSetOf,
  type DirectionSet,
  isOpen,
  type Kernel,
  kernelFor,
  maskWords,
  type MovingObstacle,
  pieceLayers,
  type Transmission,
} from '../trace';
import type { Directions, OpenDirections } from './kinds';
import type { SensorGrid } from './sensor-grid';

/** A device in one position, for the directions that meet it so. */
interface Positioned {
  directions: Uint32Array;
  set: DirectionSet;
  words: number;
  kernel: Kernel;
  transmission: Transmission | null;
}

/**
 * Traces sensors past devices that move: each sun meets them as they stand at its moment, the sky as they stand at rest.
 * A device is traced once a direction, in the one position that it has there.
 */
export class MovingTracer {
  private readonly parts: Positioned[];

  constructor(
    moving: readonly MovingObstacle[],
    private readonly directions: Directions,
  ) {
    this.parts = moving.flatMap((device) => positioned(device, directions));
  }

  /** Which directions of the sensors from `from` up to `to` are open past what moves. */
  open(
    { positions, normals }: Pick<SensorGrid, 'positions' | 'normals'>,
    from: number,
    to: number,
  ): OpenDirections {
    const { count, vectors } = this.directions;
    const words = maskWords(count);
    const mask = new Uint32Array((to - from) * words).fill(0xffffffff);
    const through = Array.from({ length: to - from }, () => new Map<number, number>());
    for (const { directions, set, words: ownWords, kernel, transmission } of this.parts) {
      const own = new Uint32Array((to - from) * ownWords);
      kernel.trace(positions, normals, from, to, set, own);
      // First which rays meet a sheet at all, in packets; only those are followed through.
      const clear = transmission && new Uint32Array((to - from) * ownWords);
      if (clear) kernelFor(transmission.tree).trace(positions, normals, from, to, set, clear);
      for (let s = 0; s < to - from; s++)
        directions.forEach((d, i) => {
          if (!isOpen(own, ownWords, s, i)) mask[s * words + (d >> 5)]! &= ~(1 << (d & 31));
          else if (transmission && !isOpen(clear!, ownWords, s, i)) {
            const [o, v] = [(from + s) * 3, d * 3];
            const share = transmission.follow(
              positions[o]!,
              positions[o + 1]!,
              positions[o + 2]!,
              vectors[v]!,
              vectors[v + 1]!,
              vectors[v + 2]!,
            );
            if (share < 1) through[s]!.set(d, (through[s]!.get(d) ?? 1) * share);
          }
        });
    }
    const shares = through.some(({ size }) => size > 0)
      ? through.map((row) => ({
          direction: Uint32Array.from(row.keys()),
          share: Float32Array.from(row.values()),
        }))
      : null;
    return { sensors: to - from, from, mask, shares };
  }
}

/** A device in each position that any direction meets it in; those where nothing of it stands are left out. */
function positioned({ make, stations }: MovingObstacle, directions: Directions): Positioned[] {
  const found: Positioned[] = [];
  // What stands on walls that lie the same way is in the same position at every moment.
  const walls = new Map<string, typeof stations>();
  for (const station of stations) {
    const key = [...station.face.normal, ...station.face.v].map((value) => value.toFixed(6)).join();
    walls.set(key, [...(walls.get(key) ?? []), station]);
  }
  for (const wall of walls.values()) {
    const { face } = wall[0]!;
    const byPosition = new Map<DevicePosition, number[]>();
    for (let d = 0; d < directions.count; d++) {
      const by = movedByOf(directions, d);
      const position = by ? positionAt(make, face, by) : atRest(make);
      const list = byPosition.get(position);
      if (list) list.push(d);
      else byPosition.set(position, [d]);
    }
    for (const [position, list] of byPosition) {
      const piece = solidAt(
        make,
        wall,
        wall.map(() => position),
      );
      if (piece.surfaceOf.length === 0) continue;
      const { layers, transmission } = pieceLayers([piece]);
      const vectors = new Float64Array(list.length * 3);
      list.forEach((d, i) => vectors.set(directions.vectors.subarray(d * 3, d * 3 + 3), i * 3));
      found.push({
        directions: Uint32Array.from(list),
        set: directionSetOf(vectors),
        words: maskWords(list.length),
        kernel: kernelFor(layers[0]!.tree),
        transmission,
      });
    }
  }
  return found;
}

/** What devices go by for the sun in a direction; null of the sky. */
export function movedByOf({ vectors, date, moments }: Directions, d: number): MovedBy | null {
  const minutes = moments?.minutes[d] ?? NaN;
  if (Number.isNaN(minutes)) return null;
  const beam = moments!.beamWm2[d]!;
  return {
    sun: [vectors[d * 3]!, vectors[d * 3 + 1]!, vectors[d * 3 + 2]!] as Point3,
    beamWm2: Number.isNaN(beam) ? null : beam,
    minutes,
    month: Math.floor(date[d]! / 100),
  };
}
