import { groundLevel, type Polygon, triangulate } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry, DoubleSide, Mesh, MeshBasicMaterial, type Object3D } from 'three';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { useShade } from '../sun/shade-store';
import { SCENE } from '../theme/palette';
import { polyline, type Point3, segments } from './overlay-lines';
import type { PaneView } from './pane-view';
import { useLayer } from './use-layer';

/** How far what is drawn lies off the ground, metres. */
const LIFT_M = 0.06;

/** Outlines of the shade that is measured, on the ground of a pane that shows its option; newly shaded ground filled. */
export function useShadeOutlines(view: PaneView, isShown: boolean): void {
  const { ground } = useDocument().site;
  const theme = useView((v) => v.theme);
  const found = useShade((state) => (state.on === 'areas' || state.on === 'ground' ? state.found : null));
  const make = (): Object3D[] => {
    if (!isShown || !found) return [];
    const at = ([x, y]: readonly [number, number]): Point3 => [x, y, groundLevel(ground, [x, y]) + LIFT_M];
    const lines = (polygons: readonly Polygon[]) =>
      polygons
        .flatMap(({ outer, holes }) => [outer, ...holes])
        .flatMap((ring) => polyline(ring.map(at), true));
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
        new MeshBasicMaterial({
          color: SCENE[theme].sun,
          opacity: 0.38,
          transparent: true,
          depthWrite: false,
          side: DoubleSide,
        }),
      );
      fill.renderOrder = 5;
      objects.push(fill);
    }
    if (found.shaded.length) objects.push(segments(lines(found.shaded), SCENE[theme].accent, 1, 9));
    return objects;
  };
  useLayer(view, make, [found, isShown, ground, theme]);
}
