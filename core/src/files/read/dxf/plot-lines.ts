import {
  areaWithHoles,
  bounds,
  contains,
  longSide,
  type Point2,
  segmentDistance,
  signedArea,
} from '../../../geometry';

/** A ring and those that lie directly within it. */
interface Around {
  ring: readonly Point2[];
  within: readonly (readonly Point2[])[];
  layer: string;
}

/** Names of layers on which lines go round what is built. */
const PLOT_NAMES =
  /boundary|plot|parcel|parzelle|grundst|flurst|cadast|kataster|lotline|property|limite|grenze/i;

/** Less than this no house is, m²; a court or a shaft may be. */
const HOUSE_M2 = 40;
/** A court keeps at least the depth of a wing from the outside; a house may come nearer to its plot line, metres. */
const WING_M = 4;
/** Half the depth of the deepest wing that windows light, metres. */
const DEEP_M = 7.5;
/** Of a building with courts more than this is built; of a plot less. */
const BUILT_SHARE = 2 / 3;

/**
 * Whether a ring is the line of a plot round houses rather than a building round its courts: by the name of its layer;
 * where what lies within fills less than a third of it, and comes nearer to it than a wing is deep or leaves more between
 * than any wing that has windows. In metres.
 */
export function isPlotLine({ ring, within, layer }: Around): boolean {
  if (within.length === 0) return false;
  if (PLOT_NAMES.test(layer)) return true;
  const houses = within.filter((one) => Math.abs(signedArea(one)) >= HOUSE_M2);
  if (houses.length === 0) return false;
  const area = Math.abs(signedArea(ring));
  const built = areaWithHoles({ outer: ring, holes: within }) / area;
  if (built <= BUILT_SHARE) return false;
  return houses.some((one) => one.some((p) => awayFrom(ring, p) < WING_M)) || deepest(ring, within) > DEEP_M;
}

/** The greatest distance of a place between rings to any of them, metres, looked for on a grid. */
function deepest(outer: readonly Point2[], holes: readonly (readonly Point2[])[]): number {
  const { minX, maxX, minY, maxY } = bounds(outer);
  const step = Math.max(1, longSide(outer) / 40);
  let most = 0;
  for (let x = minX + step / 2; x < maxX; x += step)
    for (let y = minY + step / 2; y < maxY; y += step) {
      const p: Point2 = [x, y];
      if (!contains(outer, p) || holes.some((hole) => contains(hole, p))) continue;
      most = Math.max(most, Math.min(awayFrom(outer, p), ...holes.map((hole) => awayFrom(hole, p))));
    }
  return most;
}

function awayFrom(ring: readonly Point2[], p: Point2): number {
  let least = Infinity;
  ring.forEach((a, i) => {
    least = Math.min(least, segmentDistance(p, a, ring[(i + 1) % ring.length]!));
  });
  return least;
}
