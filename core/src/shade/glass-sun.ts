import { type DevicePlace, glazedPlaces } from '../devices';
import { onFace, outlinePolygon } from '../form';
import { dot, type MeshStore, type Point2, type Point3, polygonsArea } from '../geometry';

import type { Project } from '../project';
import { gridPanes, refuseTooLarge, type Scene } from '../scene';
import { sunPosition, sunVector } from '../sun';
import { castersOf, castersTogether, castShade, type FlatReceiver, passingCastersOf } from './cast';
import { litThrough } from './lit-through';
import { MovingScene } from './moving-scene';

/** How much of the glass of an opening is in sun at a moment. */
export interface GlassSun {
  place: DevicePlace;
  /** Of the glass, metres²: all of the outline, or the panes between the bars of a curtain wall. */
  areaM2: number;
  /** In sun as everything stands, and as it would be without the option's devices. */
  sunlitM2: number;
  bareM2: number;
}

/**
 * The sun on the glass of an option's glazed openings at a moment (epoch ms), exact: what everything that blocks throws on
 * the plane of the pane, united and taken from the glass; once with the devices that stand and once without. Behind
 * screens the glass is in sun with the share that they let through; panes, fences and crowns take nothing away. While the sun is down or behind the facade, nothing is in sun.
 */
export function glassInSun(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  atMs: number,
  { wanted = () => true, scene: atHand }: { wanted?: (place: DevicePlace) => boolean; scene?: Scene } = {},
): GlassSun[] {
  refuseTooLarge(project, optionId, meshes);
  const { place: where, north, ground } = project.site;
  const places = glazedPlaces(project, optionId, meshes)
    .flatMap((body) => body.places)
    .filter(wanted);
  const glass = places.map((place) => ({ place, pane: paneOf(place) }));
  const dark = glass.map(({ place, pane }) => ({
    place,
    areaM2: polygonsArea(pane.regions),
    sunlitM2: 0,
    bareM2: 0,
  }));
  const { altitudeDeg, azimuthDeg } = sunPosition(atMs, where);
  if (altitudeDeg <= 0) return dark;
  const sun = sunVector(altitudeDeg, azimuthDeg, north.trueNorthDeg);
  const scene = new MovingScene(project, optionId, meshes, atHand).at(atMs);
  if (dot(sun, scene.ground.normal) <= 0) return dark;
  const first = ground.kind === 'terrain' ? 0 : 1;
  const bare = scene.pieces.filter((_, i) => i >= first && scene.owners[i]!.layer !== 'devices');
  const devices = scene.pieces.filter((_, i) => scene.owners[i]!.layer === 'devices');
  const around = castersOf(bare, sun);
  const casters = { bare: around, all: castersTogether(around, castersOf(devices, sun)) };
  const screens = passingCastersOf(devices, sun, 0);
  return glass.map(({ place, pane }, i) => {
    const { areaM2 } = dark[i]!;
    if (dot(pane.normal, sun) <= 1e-9) return dark[i]!;
    const bareM2 = Math.max(0, areaM2 - polygonsArea(castShade(pane, casters.bare)));
    return {
      place,
      areaM2,
      sunlitM2:
        devices.length > 0 && bareM2 > 0
          ? Math.max(0, litThrough(pane, castShade(pane, casters.all), screens))
          : bareM2,
      bareM2,
    };
  });
}

/** The glass of an opening as a flat surface, in the two coordinates of its face. */
export function paneOf({ face, opening }: DevicePlace): FlatReceiver {
  const { origin, u, v, normal } = face;
  const rings = opening.grid ? gridPanes(opening) : [outlinePolygon(opening.outline)];
  const offset = dot(origin, normal) - opening.revealM;
  return {
    normal,
    offset,
    flat: (p: Point3): Point2 => {
      const d: Point3 = [p[0] - origin[0], p[1] - origin[1], p[2] - origin[2]];
      return [dot(d, u), dot(d, v)];
    },
    lift: (p: Point2) => onFace(face, p, opening.revealM),
    regions: rings.map((outer) => ({ outer: outer.map(([x, y]): Point2 => [x, y]), holes: [] })),
    stretch: 1,
  };
}
