import { anticlockwise, bounds, type Point2, signedArea } from '../geometry';
import type { OpeningOutline } from '../project';

/** Straight pieces that an arch is drawn with. */
const ARCH_PIECES = 16;

/** The outline of an opening as a polygon in u and v, anticlockwise seen from outside. */
export function outlinePolygon(outline: OpeningOutline): Point2[] {
  if (outline.kind === 'polygon') return [...anticlockwise(outline.points)];
  const { u, v, widthM, heightM } = outline;
  const foot: Point2[] = [
    [u, v],
    [u + widthM, v],
  ];
  if (outline.kind === 'rectangle') return [...foot, [u + widthM, v + heightM], [u, v + heightM]];
  // Circle through both springings and the crown.
  const half = widthM / 2;
  const radius = (half * half + outline.riseM * outline.riseM) / (2 * outline.riseM);
  const centreV = v + heightM - radius;
  const open = Math.asin(Math.min(1, half / radius));
  const arch = Array.from({ length: ARCH_PIECES + 1 }, (_, i): Point2 => {
    const angle = open - (2 * open * i) / ARCH_PIECES;
    return [u + half + radius * Math.sin(angle), centreV + radius * Math.cos(angle)];
  });
  const springs = v + heightM - outline.riseM;
  return springs - v < 1e-9 ? arch : [...foot, ...arch];
}

/** Area of an opening, m². */
export function outlineArea(outline: OpeningOutline): number {
  return Math.abs(signedArea(outlinePolygon(outline)));
}

/** The box round an opening: left, sill, right, head. */
export function outlineBox(outline: OpeningOutline): { u0: number; v0: number; u1: number; v1: number } {
  const { minX, minY, maxX, maxY } = bounds(outlinePolygon(outline));
  return { u0: minX, v0: minY, u1: maxX, v1: maxY };
}

/** The outline moved within its face. */
export function moveOutline(outline: OpeningOutline, du: number, dv: number): OpeningOutline {
  if (outline.kind === 'polygon')
    return { ...outline, points: outline.points.map(([u, v]): [number, number] => [u + du, v + dv]) };
  return { ...outline, u: outline.u + du, v: outline.v + dv };
}

/** The outline as seen in a mirror that stands upright at u = 0 on a face of this length. */
export function mirrorOutline(outline: OpeningOutline, lengthM: number): OpeningOutline {
  if (outline.kind === 'polygon')
    return { ...outline, points: outline.points.map(([u, v]): [number, number] => [lengthM - u, v]) };
  return { ...outline, u: lengthM - outline.u - outline.widthM };
}

/** The outline stretched to another box. */
export function fitOutline(
  outline: OpeningOutline,
  box: { u0: number; v0: number; u1: number; v1: number },
): OpeningOutline {
  const now = outlineBox(outline);
  const [widthM, heightM] = [box.u1 - box.u0, box.v1 - box.v0];
  if (outline.kind === 'rectangle') return { ...outline, u: box.u0, v: box.v0, widthM, heightM };
  if (outline.kind === 'arch') {
    const riseM = Math.min(outline.riseM, widthM / 2, heightM);
    return { ...outline, u: box.u0, v: box.v0, widthM, heightM, riseM };
  }
  const [su, sv] = [widthM / (now.u1 - now.u0), heightM / (now.v1 - now.v0)];
  return {
    ...outline,
    points: outline.points.map(([u, v]): [number, number] => [
      box.u0 + (u - now.u0) * su,
      box.v0 + (v - now.v0) * sv,
    ]),
  };
}
