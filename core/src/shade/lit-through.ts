import { intersectPolygons, type Polygon, polygonsArea, subtractPolygons } from '../geometry';
import { castShade, type FlatReceiver, type PassingCasters } from './cast';

/**
 * The area of a receiver that is in sun, each part with the share that screens let through to it: one behind another they
 * multiply.
 * @param shade what lies in shade altogether
 */
export function litThrough(
  receiver: FlatReceiver,
  shade: readonly Polygon[],
  screens: readonly PassingCasters[],
): number {
  const whole = polygonsArea(receiver.regions);
  if (screens.length === 0) return whole - polygonsArea(shade);
  let parts = [{ share: 1, polygons: subtractPolygons(receiver.regions, shade) }];
  for (const { transmittance, casters } of screens) {
    const behind = castShade(receiver, casters);
    if (behind.length === 0) continue;
    parts = parts.flatMap(({ share, polygons }) => [
      { share: share * transmittance, polygons: intersectPolygons(polygons, behind) },
      { share, polygons: subtractPolygons(polygons, behind) },
    ]);
    parts = parts.filter(({ polygons }) => polygons.length > 0);
  }
  return parts.reduce((sum, { share, polygons }) => sum + share * polygonsArea(polygons), 0);
}
