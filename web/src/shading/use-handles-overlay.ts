import { type Camera, cutOffLines, type FramePoint, onFace, type Point3 } from '@dial-shade/core';
import { useMemo } from 'react';
import { DoubleSide, Mesh, MeshBasicMaterial, SphereGeometry } from 'three';
import type { Label } from '../board/label-layer';
import { polyline, segments } from '../board/overlay-lines';
import type { PaneView } from '../board/pane-view';
import { useLabels, useLayer } from '../board/use-layer';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { SCENE } from '../theme/palette';
import { type DeviceInHand, deviceInHand } from './device-in-hand';
import { useGlass } from './glass-store';

/** How large a handle is drawn, metres. */
const HANDLE_M = 0.055;

/**
 * The handles of the device in hand, and the outline of the window that is looked at; in a slice and in plan its cut-off
 * angles as dimensions.
 */
export function useHandlesOverlay(view: PaneView, camera: Camera | null, optionId: string): void {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const theme = useView((v) => v.theme);
  const { device, chosen } = useGlass();
  const hand = deviceInHand(project, optionId, meshes, { device, chosen });
  const plane = camera?.kind === 'upright' ? 'slice' : camera?.kind === 'level' ? 'plan' : null;
  const angles = useMemo(() => (hand && plane ? anglesOf(hand, plane) : NONE), [hand, plane]);
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
      ...angles.flatMap(({ rays }) =>
        rays.map((ray) => segments(polyline(ray), SCENE[theme].ink, 1, 13, true)),
      ),
      ...hand.handles.flatMap(({ at }) => [
        knob(at, HANDLE_M, SCENE[theme].ink, 20),
        knob(at, HANDLE_M * 0.72, SCENE[theme].sun, 21),
      ]),
    ];
  };
  useLayer(view, make, [hand, angles, theme]);
  const labels = useMemo(() => angles.map(({ label }) => label), [angles]);
  useLabels(view, 'angles', labels);
}

/** A cut-off angle as it is drawn: the ray from beyond the edge of the device to what it just shades. */
interface Angle {
  /** A little to both sides of the plane that it lies in: a cut through the middle of the window takes that itself away. */
  rays: Point3[][];
  label: Label;
}

const NONE: readonly Angle[] = [];

/** How far the ray is drawn out beyond the edge of the device, as a share of its way behind it. */
const BEYOND = 0.45;
/** How far to either side, metres: lines are drawn up to 0.1 m nearer to the eye than they lie. */
const ASIDE_M = 0.12;

/** The cut-off angles of the device in hand, as it stands in the file, in a slice or in plan. */
function anglesOf({ device, station: { face, box } }: DeviceInHand, plane: 'slice' | 'plan'): Angle[] {
  const at = ([u, v, w]: FramePoint) => onFace(face, [u, v], -w);
  return cutOffLines(device.make, box)
    .filter((line) => line.in === plane)
    .map(({ from, to, deg }) => {
      const out = from.map((value, k) => value + (value - to[k]!) * BEYOND) as unknown as FramePoint;
      const across = plane === 'slice' ? 0 : 1;
      const rays = [-ASIDE_M, ASIDE_M].map((aside) =>
        [out, from, to].map((p) =>
          at(p.map((value, k) => value + (k === across ? aside : 0)) as unknown as FramePoint),
        ),
      );
      const text = `${plane === 'slice' ? 'VSA' : 'HSA'} ${deg.toFixed(1)}°`;
      return { rays, label: { text, at: [...at(out)], className: 'dimension' } };
    });
}

/** A ball that is seen through whatever stands before it, also where a cut takes half of it away. */
function knob(at: readonly [number, number, number], radius: number, color: string, order: number): Mesh {
  const material = new MeshBasicMaterial({ color, depthTest: false, transparent: true, side: DoubleSide });
  const mesh = new Mesh(new SphereGeometry(radius, 16, 12), material);
  mesh.position.set(...at);
  mesh.renderOrder = order;
  return mesh;
}
