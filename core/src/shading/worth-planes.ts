import { RAD } from '../civil';
import type { DevicePlace } from '../devices';
import { cross, dot, type Point3 } from '../geometry';
import type { DeviceMake, Target } from '../project';
import type { WorthPlane } from './shade-worth';

const CELL_M = 0.1;
/** How far a plane that was drawn may lie from running along the facade: the sine of the angle. */
const ALONG = 0.01;
/** Planes reach at most so far, metres. */
const MAX_M = 20;

type Drawn = Extract<Target, { kind: 'plane' }>;

/** The plane of the underside of a device over a window; null of devices that have none. */
export function planeUnder(make: DeviceMake): WorthPlane | null {
  if (make.kind !== 'overhang' && make.kind !== 'canopy' && make.kind !== 'awning') return null;
  const { aboveM, sideM, tiltDeg, depthM } = make;
  return { aboveM, offM: 0, tiltDeg, sideM, outM: depthM, cellM: CELL_M };
}

/**
 * A plane that was drawn, as it stands before a window: from its edge nearest the facade outwards, or from its upper edge
 * down. Null where it does not run along the facade, lies behind it, or reaches too far.
 */
export function planeDrawn(
  { origin, u, v, outline }: Pick<Drawn, 'origin' | 'u' | 'v' | 'outline'>,
  { face, box }: DevicePlace,
): WorthPlane | null {
  const corners = outline.map(([x, y]) => {
    const off = origin.map(
      (value, k) => value + x * u[k]! + y * v[k]! - face.origin[k]!,
    ) as unknown as Point3;
    return { u: dot(off, face.u), v: dot(off, face.v), w: dot(off, face.normal) };
  });
  // The way in the plane that is square to the facade's own: outwards where it goes outwards at all, else down.
  const normal = cross(u, v);
  if (Math.abs(dot(normal, face.u)) > ALONG) return null;
  let [down, out] = [dot(normal, face.normal), dot(normal, face.v)];
  if (out < 0 || (Math.abs(out) < 1e-9 && down < 0)) [down, out] = [-down, -out];
  const tiltDeg = Math.atan2(down, out) / RAD;
  if (Math.abs(tiltDeg) > 90) return null;
  const [sin, cos] = [Math.sin(tiltDeg * RAD), Math.cos(tiltDeg * RAD)];
  const along = corners.map((p) => p.w * cos - p.v * sin);
  const first = corners[along.indexOf(Math.min(...along))]!;
  const plane: WorthPlane = {
    aboveM: round(first.v - box.v1),
    offM: round(first.w),
    tiltDeg: round(tiltDeg),
    sideM: round(
      Math.max(
        0,
        box.u0 - Math.min(...corners.map((p) => p.u)),
        Math.max(...corners.map((p) => p.u)) - box.u1,
      ),
    ),
    outM: round(Math.max(...along) - Math.min(...along)),
    cellM: CELL_M,
  };
  const { aboveM, offM, sideM, outM } = plane;
  const fits = offM >= -1e-6 && Math.abs(aboveM) <= MAX_M && Math.max(offM, sideM, outM) <= MAX_M && outM > 0;
  return fits ? { ...plane, offM: Math.max(0, offM) } : null;
}

const round = (value: number) => Number(value.toFixed(4));
