import earcut from 'earcut';
import { areaWithHoles, type Point3 } from '../geometry';
import type { MassShape } from '../project';
import { normalFootprint, storeyPlate } from './plates';
import { type RoofFace, roofShape } from './roof-shape';
import { roomsOf } from './rooms';

/** Areas in m² and volume in m³ of a mass above its lowest floor. */
export interface MassFigures {
  footprintM2: number;
  /** All floor plates, less what is open to a double-height room below. */
  floorM2: number;
  volumeM3: number;
}

/** Floor area of all storeys, footprint area and enclosed volume above the lowest floor, m² and m³. */
export function massFigures(mass: MassShape): MassFigures {
  const whole = normalFootprint(mass.footprint);
  let floorM2 = 0;
  let volumeM3 = 0;
  mass.storeys.forEach(({ heightM }, i) => {
    const area = areaWithHoles(storeyPlate(mass, i) ?? whole);
    floorM2 += area;
    volumeM3 += area * heightM;
  });
  for (const room of roomsOf(mass))
    if (room.doubleHeight && room.storey + 1 < mass.storeys.length) floorM2 -= room.areaM2;
  const top = storeyPlate(mass, mass.storeys.length - 1) ?? whole;
  if (mass.roof.kind !== 'flat')
    for (const face of roofShape(top, mass.roof).faces) if (!face.upright) volumeM3 += volumeUnder(face);
  return { footprintM2: areaWithHoles(whole), floorM2, volumeM3 };
}

/** Volume between a roof face and the eaves. */
function volumeUnder(face: RoofFace): number {
  return trianglesOf(face.points, face.holes).reduce((sum, [a, b, c]) => {
    const area = ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2;
    return sum + (Math.abs(area) * (a[2] + b[2] + c[2])) / 3;
  }, 0);
}

/** Triangles of a face that does not stand upright, by its plan. */
function trianglesOf(points: readonly Point3[], holes: readonly (readonly Point3[])[] = []) {
  const all = [...points, ...holes.flat()];
  const starts: number[] = [];
  let count = points.length;
  for (const hole of holes) {
    starts.push(count);
    count += hole.length;
  }
  const indices = earcut(
    all.flatMap(([x, y]) => [x, y]),
    starts,
  );
  const triangles: [Point3, Point3, Point3][] = [];
  for (let i = 0; i < indices.length; i += 3)
    triangles.push([all[indices[i]!]!, all[indices[i + 1]!]!, all[indices[i + 2]!]!]);
  return triangles;
}
