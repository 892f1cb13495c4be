import { onFace } from '@dial-shade/core';
import { Mesh, MeshBasicMaterial, SphereGeometry } from 'three';
import { polyline, segments } from '../board/overlay-lines';
import type { PaneView } from '../board/pane-view';
import { useLayer } from '../board/use-layer';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { SCENE } from '../theme/palette';
import { deviceInHand } from './device-in-hand';
import { useGlass } from './glass-store';

/** How large a handle is drawn, metres. */
const HANDLE_M = 0.055;

/** The handles of the device in hand, and the outline of the window that is looked at. */
export function useHandlesOverlay(view: PaneView, wanted: boolean, optionId: string): void {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const theme = useView((v) => v.theme);
  const { device, chosen } = useGlass();
  const hand = wanted ? deviceInHand(project, optionId, meshes, { device, chosen }) : null;
  const make = () => {
    if (!hand) return [];
    const { face, box } = hand.station;
    const corners = [
      [box.u0, box.v0],
      [box.u1, box.v0],
      [box.u1, box.v1],
      [box.u0, box.v1],
    ] as const;
    const outline = corners.map((p) => onFace(face, p, -0.01));
    return [
      segments(polyline(outline, true), SCENE[theme].sun, 1, 12, true),
      ...hand.handles.flatMap(({ at }) => [
        knob(at, HANDLE_M, SCENE[theme].ink, 20),
        knob(at, HANDLE_M * 0.72, SCENE[theme].sun, 21),
      ]),
    ];
  };
  useLayer(view, make, [hand, theme]);
}

/** A ball that is seen through whatever stands before it. */
function knob(at: readonly [number, number, number], radius: number, color: string, order: number): Mesh {
  const material = new MeshBasicMaterial({ color, depthTest: false, transparent: true });
  const mesh = new Mesh(new SphereGeometry(radius, 16, 12), material);
  mesh.position.set(...at);
  mesh.renderOrder = order;
  return mesh;
}
