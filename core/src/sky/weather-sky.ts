import { RAD } from '../civil';
import type { WeatherHour } from '../weather';
import { gradation, indicatrix, perezFive } from './perez-sky';
import { patchAt, type SkyVault } from './sky-vault';

const { acos, cos, sin } = Math;

/** Radiation of the vault over a stretch of time, Wh/m². */
export interface SkyRadiation {
  vault: SkyVault;
  /** Of each patch: radiance × solid angle, what a plane that faces the patch gets of it. */
  sky: Float64Array;
  /** Of each patch: beam normal of the hours whose sun lies in it. For looking at: studies take the sun where it is. */
  beam: Float64Array;
  /** Sums over the hours: beam normal, and beam and diffuse on the open level. */
  beamNormal: number;
  beamHorizontal: number;
  diffuseHorizontal: number;
  /** Hours counted, parts of hours as parts. */
  hours: number;
}

/** Of a vault: its patches as unit vectors, x east, y true north, and the altitudes that they have. */
interface PatchFrame {
  east: Float64Array;
  north: Float64Array;
  up: Float64Array;
  /** Sine of each altitude that occurs, and which of them a patch has. */
  sines: Float64Array;
  bandOf: Uint16Array;
}

const frames = new WeakMap<SkyVault, PatchFrame>();

function frameOf(vault: SkyVault): PatchFrame {
  let frame = frames.get(vault);
  if (!frame) {
    const { count, altitudeDeg, azimuthDeg } = vault;
    const altitudes = [...new Set(altitudeDeg)];
    const make = () => new Float64Array(count);
    const sines = Float64Array.from(altitudes, (altitude) => sin(altitude * RAD));
    frame = { east: make(), north: make(), up: make(), sines, bandOf: new Uint16Array(count) };
    for (let p = 0; p < count; p++) {
      const [h, a] = [altitudeDeg[p]! * RAD, azimuthDeg[p]! * RAD];
      frame.east[p] = sin(a) * cos(h);
      frame.north[p] = cos(a) * cos(h);
      frame.up[p] = sin(h);
      frame.bandOf[p] = altitudes.indexOf(altitudeDeg[p]!);
    }
    frames.set(vault, frame);
  }
  return frame;
}

/**
 * Radiance × solid angle of each patch in one hour, W/m², scaled so that the vault gives the hour's diffuse horizontal;
 * a uniform sky without sun above the horizon, or where the luminance is nothing everywhere.
 */
export function hourSky(vault: SkyVault, hour: WeatherHour, into: Float64Array): Float64Array {
  const { count, solidAngle } = vault;
  const { sun, diffuseHorizontal } = hour;
  if (!(diffuseHorizontal > 0)) return into.fill(0);
  const { east, north, up, sines, bandOf } = frameOf(vault);
  let level = 0;
  if (sun) {
    const five = perezFive({
      ...hour,
      sunAltitudeDeg: sun.altitudeDeg,
      extraterrestrial: sun.extraterrestrial,
    });
    const bands = Float64Array.from(sines, (sine) => gradation(five, sine));
    const [h, a] = [sun.altitudeDeg * RAD, sun.azimuthDeg * RAD];
    const [sx, sy, sz] = [sin(a) * cos(h), cos(a) * cos(h), sin(h)];
    for (let p = 0; p < count; p++) {
      const upward = up[p]!;
      const cosine = east[p]! * sx + north[p]! * sy + upward * sz;
      const angle = acos(cosine > 1 ? 1 : cosine < -1 ? -1 : cosine);
      const luminance = bands[bandOf[p]!]! * indicatrix(five, angle, cosine);
      const part = luminance > 0 ? luminance * solidAngle[p]! : 0;
      into[p] = part;
      level += part * upward;
    }
  }
  if (!(level > 0)) {
    level = 0;
    for (let p = 0; p < count; p++) {
      into[p] = solidAngle[p]!;
      level += into[p]! * up[p]!;
    }
  }
  const scale = diffuseHorizontal / level;
  for (let p = 0; p < count; p++) into[p]! *= scale;
  return into;
}

/** Radiation of the vault over hours, each counted with its share (all of it where none is given). */
export function skyRadiation(
  vault: SkyVault,
  hours: readonly WeatherHour[],
  shareOf: (hour: WeatherHour) => number = () => 1,
): SkyRadiation {
  const sum: SkyRadiation = {
    vault,
    sky: new Float64Array(vault.count),
    beam: new Float64Array(vault.count),
    beamNormal: 0,
    beamHorizontal: 0,
    diffuseHorizontal: 0,
    hours: 0,
  };
  const one = new Float64Array(vault.count);
  for (const hour of hours) {
    const share = shareOf(hour);
    if (share <= 0) continue;
    sum.hours += share;
    hourSky(vault, hour, one);
    for (let p = 0; p < vault.count; p++) sum.sky[p]! += one[p]! * share;
    sum.diffuseHorizontal += hour.diffuseHorizontal * share;
    if (!hour.sun) continue;
    sum.beam[patchAt(vault, hour.sun.altitudeDeg, hour.sun.azimuthDeg)]! += hour.beamNormal * share;
    sum.beamNormal += hour.beamNormal * share;
    sum.beamHorizontal += hour.beamNormal * Math.sin(hour.sun.altitudeDeg * RAD) * share;
  }
  return sum;
}
