import { RAD } from '../civil';
import type { Piece } from '../scene';
import { sunVector } from '../sun';
import { openRow } from '../study';
import type { GlassYear } from './glass-year';
import { cosinesBefore } from './glass-sky';

/** Cells of a shading mask: by azimuth from true north clockwise, and by altitude from the horizon up. */
export const MASK_AZIMUTHS = 120;
export const MASK_ALTITUDES = 36;

/**
 * The sky before some glass, cell by cell (azimuth × altitudes + altitude): the share of the glass that lies in shade when
 * the sun stands there, of the devices alone and of everything else; NaN behind the glass.
 */
export interface ShadingMask {
  devices: Float32Array;
  others: Float32Array;
}

/** The shading mask of devices at windows: full, half and no shade are lines in it. */
export function shadingMask(year: GlassYear, devices: readonly Piece[], trueNorthDeg: number): ShadingMask {
  const count = MASK_AZIMUTHS * MASK_ALTITUDES;
  const vectors = new Float64Array(count * 3);
  for (let a = 0; a < MASK_AZIMUTHS; a++)
    for (let h = 0; h < MASK_ALTITUDES; h++) {
      const azimuth = ((a + 0.5) * 360) / MASK_AZIMUTHS;
      const altitude = ((h + 0.5) * 90) / MASK_ALTITUDES;
      vectors.set(sunVector(altitude, azimuth, trueNorthDeg), (a * MASK_ALTITUDES + h) * 3);
    }
  const directions = { count, vectors, date: new Uint16Array(count).fill(621) };
  const { bare, own } = year.towards(directions, devices);
  const [before, litBare, litOwn] = [0, 1, 2].map(() => new Float64Array(count)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const row = new Float64Array(count);
  for (const { sensors, normal } of year.groups) {
    const cosines = cosinesBefore(directions, normal);
    for (const s of sensors) {
      const area = year.grid.areas[s]!;
      for (const [open, lit] of [
        [bare, litBare],
        [own, litOwn],
      ] as const) {
        openRow(open, count, s, row);
        for (let d = 0; d < count; d++) if (cosines[d]! > GRAZING) lit[d]! += row[d]! * area;
      }
      for (let d = 0; d < count; d++) if (cosines[d]! > GRAZING) before[d]! += area;
    }
  }
  const shade = (lit: Float64Array) =>
    Float32Array.from(lit, (area, d) => (before[d]! > 0 ? 1 - area / before[d]! : NaN));
  return { devices: shade(litOwn), others: shade(litBare) };
}

/** Nearer to the plane of the glass than this, nothing is told: cosine of 88°. */
const GRAZING = Math.cos(88 * RAD);
