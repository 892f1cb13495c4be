import { RAD } from '../civil';
import { InputError } from '../errors';
import type { Point3 } from '../geometry';
import type { Project, Study } from '../project';
import { patchAt, skyVault } from '../sky';
import type { WeatherYear } from '../weather';
import { STUDY_KINDS } from './kinds';
import { blankPoints } from './sensor-grid';
import type { FlatTarget } from './flat-target';

/** A surface that only faces: the kinds that ask more of it refuse it. */
const FACING: FlatTarget = {
  id: 'facing',
  name: 'Point',
  kind: 'plane',
  origin: [0, 0, 0],
  u: [1, 0, 0],
  v: [0, 1, 0],
  outline: [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ],
  holes: [],
  spacingM: 1,
  offsetM: 0.01,
  of: null,
};

/** Where in the sky what a study measures comes from. */
export interface SkyWeights {
  /** Of each of the 145 patches of the vault: what comes from it with nothing in its way, in the unit of the first measure. */
  patches: Float64Array;
  /** All of the sky together. */
  whole: number;
}

/**
 * What each patch of the sky sends to a surface that faces one way, by what a study measures: its suns by the patch they
 * stand in, its parts of the sky likewise. Null for kinds that are no sum over directions, or that ask for more than a
 * facing. Throws InputError `weather` where a weather year is missing.
 */
export function skyWeights(
  project: Project,
  study: Study,
  normal: Point3,
  weather: WeatherYear | null = null,
): SkyWeights | null {
  const kind = STUDY_KINDS[study.kind];
  if (!kind.weights) return null;
  try {
    kind.check?.([FACING]);
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
  const directions = kind.directions(project, study, weather);
  const each = new Float64Array(directions.count);
  const at = { ...blankPoints(1, 1), normals: Float64Array.from(normal), targets: [FACING] };
  kind.weights(directions, at, 0, each);
  const { trueNorthDeg } = project.site.north;
  const vault = skyVault(1, trueNorthDeg);
  const patches = new Float64Array(vault.count);
  const { vectors: v } = directions;
  let whole = 0;
  for (let d = 0; d < directions.count; d++) {
    if (each[d] === 0) continue;
    const altitudeDeg = Math.asin(Math.min(1, v[d * 3 + 2]!)) / RAD;
    const azimuthDeg = Math.atan2(v[d * 3]!, v[d * 3 + 1]!) / RAD - trueNorthDeg;
    patches[patchAt(vault, altitudeDeg, azimuthDeg)]! += each[d]!;
    whole += each[d]!;
  }
  return { patches, whole };
}
