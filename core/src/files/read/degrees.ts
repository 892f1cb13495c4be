import { InputError } from '../../errors';
import { longSide, type Point2 } from '../../geometry';
import type { ModelFile } from '../model-file';
import { median } from './nearest';

/** A place by longitude and latitude. */
export type GeoPlace = Pick<NonNullable<ModelFile['site']>, 'longitudeDeg' | 'latitudeDeg'>;

/** How a file of longitudes and latitudes is read. */
export interface GeoJsonOptions {
  /** Where the project lies; where the file lies elsewhere, its own middle counts. */
  near?: GeoPlace | null;
  /** Whether latitude stands before longitude, against the standard; null: as it looks. */
  latitudeFirst?: boolean | null;
}

/** Length of a degree of latitude, metres; near enough to tell what is near. */
export const DEGREE_M = 111_200;
/** A project this far from a file has nothing to do with it, metres. */
export const ELSEWHERE_M = 50_000;
/** Outlines that are smaller, in degrees, are no plan. */
const TINY = 0.05;
/** And outlines that are larger are no houses. */
const HUGE = 2;
/** Nor are those, in any unit of a plan, that reach from degrees to somewhere else. */
const VAST = 500_000;

/** Whether outlines without a map system are in degrees. Throws InputError `geojson` for degrees beyond the earth. */
export function areDegrees({ footprints }: ModelFile): boolean {
  const { canBe, canBeSwapped } = rangeOf(footprints);
  const size = median(footprints.map(({ outer }) => longSide(outer)));
  // Houses of hundreds of kilometres are drawn in metres, near the origin of a plan.
  if (canBe || canBeSwapped) return size < HUGE;
  if (size >= TINY && size <= VAST) return false;
  const isFar = (p: Point2) => Math.abs(p[0]) > 180 || Math.abs(p[1]) > 90;
  const i = footprints.findIndex(({ outer }) => outer.some(isFar));
  const corner = footprints[i]!.outer.find(isFar)!;
  throw new InputError(
    'geojson',
    `Polygon ${i + 1} has a corner at ${corner[0]}, ${corner[1]}, which is no longitude and latitude; export the file in WGS 84.`,
  );
}

function rangeOf(footprints: ModelFile['footprints']): { canBe: boolean; canBeSwapped: boolean } {
  let [mostX, mostY] = [0, 0];
  for (const { outer } of footprints)
    for (const [x, y] of outer) [mostX, mostY] = [Math.max(mostX, Math.abs(x)), Math.max(mostY, Math.abs(y))];
  return { canBe: mostX <= 180 && mostY <= 90, canBeSwapped: mostX <= 90 && mostY <= 180 };
}

/**
 * Puts longitude first in a file of degrees in which latitude stands there: as it is told, else where the degrees can be
 * nothing else, or where the file lies near the project only so. What was guessed is said.
 */
export function takeOrder(model: ModelFile, { near = null, latitudeFirst = null }: GeoJsonOptions): void {
  const { canBe, canBeSwapped } = rangeOf(model.footprints);
  const [x, y] = [0, 1].map((k) => median(model.footprints.map(({ outer }) => outer[0]![k]!))) as [
    number,
    number,
  ];
  const away = (lon: number, lat: number) =>
    near
      ? Math.hypot(
          (lon - near.longitudeDeg) * Math.cos((near.latitudeDeg * Math.PI) / 180),
          lat - near.latitudeDeg,
        ) * DEGREE_M
      : Infinity;
  const isNearOnlySwapped = away(y, x) < ELSEWHERE_M && away(x, y) > ELSEWHERE_M;
  const looksSwapped = canBeSwapped && (!canBe || isNearOnlySwapped);
  model.latitudeFirst = latitudeFirst ?? looksSwapped;
  if (!model.latitudeFirst) return;
  const swapped = (ring: Point2[]) => ring.map(([a, b]): Point2 => [b, a]);
  for (const footprint of model.footprints) {
    footprint.outer = swapped(footprint.outer);
    footprint.holes = footprint.holes.map(swapped);
  }
  if (latitudeFirst !== null) return;
  const km = (metres: number) => Math.round(metres / 1000).toLocaleString('en');
  model.notes.push(
    canBe
      ? `Latitude seems to stand before longitude: so the file lies ${km(away(y, x))} km from the project, as it stands ${km(away(x, y))} km. Is that so? It is read so; “--no-latitude-first” on the command line, or the choice beside the plan, reads it as it stands.`
      : 'Latitude stands before longitude, against the standard: as they stand they would lie beyond the poles. They are read the other way round.',
  );
}
