import { type Ground, groundLevel, type Polygon, triangulate } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry, DoubleSide, Mesh, MeshBasicMaterial, type Object3D } from 'three';
import { SCENE } from '../theme/palette';
import { polyline, type Point3, segments, sharedMaterial } from './overlay-lines';

/** How far what is drawn lies off the ground, metres. */
const LIFT_M = 0.06;

/** Regions of shade in plan, laid on the ground: all of it outlined, what is newly shaded filled. */
export interface ShadeRegions {
  shaded: readonly Polygon[];
  newly: readonly Polygon[];
}

/** Outlines of shade on the ground; newly shaded ground filled. */
export function shadeObjects(found: ShadeRegions, ground: Ground, theme: 'light' | 'dark'): Object3D[] {
  const at = ([x, y]: readonly [number, number]): Point3 => [x, y, groundLevel(ground, [x, y]) + LIFT_M];
  const lines = (polygons: readonly Polygon[]) =>
    polygons.flatMap(({ outer, holes }) => [outer, ...holes]).flatMap((ring) => polyline(ring.map(at), true));
  const objects: Object3D[] = [];
  const corners = found.newly.flatMap(({ outer, holes }) => {
    const points = [...outer, ...holes.flat()];
    return triangulate([outer, ...holes]).flatMap((i) => [...at(points[i]!)]);
  });
  if (corners.length) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(Float32Array.from(corners), 3));
    const fill = new Mesh(
      geometry,
      sharedMaterial(
        `newly/${theme}`,
        () =>
          new MeshBasicMaterial({
            color: SCENE[theme].sun,
            opacity: 0.38,
            transparent: true,
            depthWrite: false,
            side: DoubleSide,
          }),
      ),
    );
    fill.renderOrder = 5;
    objects.push(fill);
  }
  if (found.shaded.length) objects.push(segments(lines(found.shaded), SCENE[theme].accent, 1, 9));
  return objects;
}
