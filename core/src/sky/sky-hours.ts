import { sunVector } from '../sun';
import type { WeatherHour } from '../weather';
import { gradation, indicatrix, perezFive } from './perez-sky';
import type { SkySpiral } from './sky-spiral';

const { acos, floor, max, min, sqrt } = Math;

/** The skies of some hours, flat: all that their radiance in any direction takes. */
export interface SkyHours {
  count: number;
  /** 3 numbers an hour: towards the sun, project frame; NaN without one above the horizon. */
  sun: Float64Array;
  /** 5 numbers an hour: a to e of Perez, Seals & Michalsky 1993. */
  five: Float64Array;
  /** Diffuse horizontal, W/m². */
  diffuse: Float64Array;
}

/** The skies of hours. @param trueNorthDeg clockwise from drawing north to true north */
export function skyHours(hours: readonly WeatherHour[], trueNorthDeg: number): SkyHours {
  const count = hours.length;
  const skies: SkyHours = {
    count,
    sun: new Float64Array(count * 3).fill(NaN),
    five: new Float64Array(count * 5),
    diffuse: Float64Array.from(hours, ({ diffuseHorizontal }) => max(0, diffuseHorizontal || 0)),
  };
  hours.forEach((hour, k) => {
    const { sun } = hour;
    if (!sun || skies.diffuse[k] === 0) return;
    const { altitudeDeg, azimuthDeg, extraterrestrial } = sun;
    const { a, b, c, d, e } = perezFive({ ...hour, sunAltitudeDeg: altitudeDeg, extraterrestrial });
    skies.sun.set(sunVector(altitudeDeg, azimuthDeg, trueNorthDeg), k * 3);
    skies.five.set([a, b, c, d, e], k * 5);
  });
  return skies;
}

/** Knots of the tables that an hour's gradation and indicatrix are read from. */
const HEIGHTS = 128;
const ANGLES = 512;
/** Of the knots by angle: its cosine, and the angle. */
const COSINES = Float64Array.from({ length: ANGLES + 1 }, (_, i) => 1 - (2 * i) / ANGLES);
const ANGLE = COSINES.map(acos);

/**
 * Radiance × solid angle of directions of the vault, hour by hour: as `hourSky` has it for patches. An hour makes two
 * tables, its gradation by the root of the height and its indicatrix by the cosine of the angle to the sun; directions read
 * between their knots (what differs from the formula, summed over the vault, is under 0.4 % of the hour's diffuse: most of
 * it within three degrees of the sun).
 */
export class SkyRadiance {
  private readonly heightAt: Uint8Array;
  private readonly heightPart: Float64Array;
  private readonly byHeight = new Float64Array(HEIGHTS + 2);
  private readonly byAngle = new Float64Array(ANGLES + 2);

  constructor(private readonly spiral: SkySpiral) {
    const { count, vectors } = spiral;
    this.heightAt = new Uint8Array(count);
    this.heightPart = new Float64Array(count);
    for (let d = 0; d < count; d++) {
      const at = HEIGHTS * sqrt(vectors[d * 3 + 2]!);
      this.heightAt[d] = min(HEIGHTS - 1, floor(at));
      this.heightPart[d] = at - this.heightAt[d]!;
    }
  }

  /**
   * Writes what a plane that faces each direction gets from it in hour k, W/m², scaled so that all together give the hour's
   * diffuse horizontal; of a uniform sky without sun above the horizon, or where the luminance is nothing everywhere.
   */
  of(hours: SkyHours, k: number, into: Float64Array): void {
    const { count, vectors, solidAngle } = this.spiral;
    const diffuse = hours.diffuse[k]!;
    if (!(diffuse > 0)) {
      into.fill(0);
      return;
    }
    let level = Number.isNaN(hours.sun[k * 3]) ? 0 : this.relative(hours, k, into);
    if (!(level > 0)) {
      level = 0;
      for (let d = 0; d < count; d++) {
        into[d] = solidAngle[d]!;
        level += solidAngle[d]! * vectors[d * 3 + 2]!;
      }
    }
    const scale = diffuse / level;
    for (let d = 0; d < count; d++) into[d]! *= scale;
  }

  /** Writes relative luminance × solid angle; gives what of it the open level gets. */
  private relative({ sun, five }: SkyHours, k: number, into: Float64Array): number {
    const { count, vectors: v, solidAngle } = this.spiral;
    const { byHeight, byAngle, heightAt, heightPart } = this;
    const own = {
      a: five[k * 5]!,
      b: five[k * 5 + 1]!,
      c: five[k * 5 + 2]!,
      d: five[k * 5 + 3]!,
      e: five[k * 5 + 4]!,
    };
    for (let i = 0; i <= HEIGHTS; i++) byHeight[i] = gradation(own, (i / HEIGHTS) ** 2);
    for (let i = 0; i <= ANGLES; i++) byAngle[i] = indicatrix(own, ANGLE[i]!, COSINES[i]!);
    const [sx, sy, sz] = [sun[k * 3]!, sun[k * 3 + 1]!, sun[k * 3 + 2]!];
    let level = 0;
    for (let i = 0; i < count; i++) {
      const [x, y, z] = [v[i * 3]!, v[i * 3 + 1]!, v[i * 3 + 2]!];
      const half = (1 - (sx * x + sy * y + sz * z)) / 2;
      const at = ANGLES * (half > 0 ? half : 0);
      const j = at | 0;
      const angle = byAngle[j]! + (byAngle[j + 1]! - byAngle[j]!) * (at - j);
      const h = heightAt[i]!;
      const height = byHeight[h]! + (byHeight[h + 1]! - byHeight[h]!) * heightPart[i]!;
      const luminance = angle * height;
      const part = luminance > 0 ? luminance * solidAngle[i]! : 0;
      into[i] = part;
      level += part * z;
    }
    return level;
  }
}
