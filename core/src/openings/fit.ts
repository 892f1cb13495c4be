import { type Face, moveOutline, outlineBox, outlinePolygon } from '../form';
import {
  bounds,
  contains,
  type Point2,
  type Ring,
  ringProblem,
  ringsMeet,
  segmentDistance,
} from '../geometry';
import type { OpeningOutline } from '../project';
import type { PartyPart } from './adjoining-body';

/** What must stay between an opening and the edge of its face, and between two openings, metres. */
export const OPENING_MARGIN_M = 0.05;

/** Something on a face that an opening must keep clear of. */
export interface Placed {
  name: string;
  outline: OpeningOutline;
}

/** Why an opening cannot be where it is, and the nearest place at which it can, if there is one. */
export interface Violation {
  reason: string;
  nearest: OpeningOutline | null;
}

/** Why this outline cannot be on this face, or null when it can. */
export function openingViolation(
  face: Face,
  outline: OpeningOutline,
  others: readonly Placed[],
  parties: readonly PartyPart[],
  say: (metres: number) => string = (m) => `${m.toFixed(2)} m`,
): Violation | null {
  const reason = violationReason(face, outline, others, parties, say);
  return reason === null ? null : { reason, nearest: nearestFit(face, outline, others, parties) };
}

function violationReason(
  face: Face,
  outline: OpeningOutline,
  others: readonly Placed[],
  parties: readonly PartyPart[],
  say: (metres: number) => string,
): string | null {
  const polygon = outlinePolygon(outline);
  const wrong = ringProblem(polygon);
  if (wrong) return `The opening ${wrong}.`;
  const box = outlineBox(outline);
  const where = { wall: 'wall', roof: 'roof face', mesh: 'face' }[face.host.on];
  if (!isInside(face, polygon)) {
    const tooWide = box.u1 - box.u0 > face.lengthM - 2 * OPENING_MARGIN_M;
    const tooHigh = box.v1 - box.v0 > face.heightM - 2 * OPENING_MARGIN_M;
    if (tooWide)
      return `The opening is ${say(box.u1 - box.u0)} wide, the ${where} ${say(face.lengthM)}; with ${say(OPENING_MARGIN_M)} kept at each side it does not fit.`;
    if (tooHigh)
      return `The opening is ${say(box.v1 - box.v0)} high, the ${where} ${say(face.heightM)}; with ${say(OPENING_MARGIN_M)} kept above and below it does not fit.`;
    return `The opening leaves its ${where} or comes nearer than ${say(OPENING_MARGIN_M)} to its edge.`;
  }
  const party = parties.find((part) => meetsPart(box, polygon, part));
  if (party) return `“${party.by}” stands against this part of the wall; a party wall takes no openings.`;
  const other = others.find((placed) => tooNear(polygon, outlinePolygon(placed.outline)));
  if (other)
    return `The opening overlaps “${other.name}” or comes nearer than ${say(OPENING_MARGIN_M)} to it.`;
  return null;
}

/** Whether an outline may be on a face. */
export function fits(
  face: Face,
  outline: OpeningOutline,
  others: readonly Placed[],
  parties: readonly PartyPart[],
): boolean {
  const polygon = outlinePolygon(outline);
  const box = outlineBox(outline);
  return (
    isInside(face, polygon) &&
    !parties.some((part) => meetsPart(box, polygon, part)) &&
    !others.some((placed) => tooNear(polygon, outlinePolygon(placed.outline)))
  );
}

const SLACK = 1e-6;

function isInside(face: Face, polygon: Ring): boolean {
  const margin = OPENING_MARGIN_M - SLACK;
  if (!polygon.every((p) => contains(face.outline, p))) return false;
  const rings = [face.outline, ...face.holes];
  if (rings.some((ring) => ringsMeet(polygon, ring))) return false;
  if (face.holes.some((hole) => contains(polygon, hole[0]!) || contains(hole, polygon[0]!))) return false;
  return rings.every((ring) => ringGap(polygon, ring) >= margin);
}

function meetsPart(box: ReturnType<typeof outlineBox>, polygon: Ring, part: PartyPart): boolean {
  const m = OPENING_MARGIN_M - SLACK;
  if (box.u1 <= part.u0 - m || box.u0 >= part.u1 + m || box.v1 <= part.v0 - m || box.v0 >= part.v1 + m)
    return false;
  return tooNear(polygon, [
    [part.u0, part.v0],
    [part.u1, part.v0],
    [part.u1, part.v1],
    [part.u0, part.v1],
  ]);
}

function tooNear(one: Ring, other: Ring): boolean {
  const [a, b] = [bounds(one), bounds(other)];
  const apart = Math.max(a.minX - b.maxX, b.minX - a.maxX, a.minY - b.maxY, b.minY - a.maxY);
  if (apart >= OPENING_MARGIN_M) return false;
  return (
    ringsMeet(one, other) ||
    contains(one, other[0]!) ||
    contains(other, one[0]!) ||
    ringGap(one, other) < OPENING_MARGIN_M - SLACK
  );
}

/** Least distance between the edges of two rings that do not cross. */
function ringGap(one: Ring, other: Ring): number {
  const toEdges = (points: Ring, ring: Ring) =>
    Math.min(
      ...points.flatMap((p) => ring.map((a, i) => segmentDistance(p, a, ring[(i + 1) % ring.length]!))),
    );
  return Math.min(toEdges(one, other), toEdges(other, one));
}

/** Places tried across the face, besides those that just clear an obstacle. */
const TRIES = 40;

/** The outline moved as little as possible so that it fits, or null when it fits nowhere. */
export function nearestFit(
  face: Face,
  outline: OpeningOutline,
  others: readonly Placed[],
  parties: readonly PartyPart[],
): OpeningOutline | null {
  const box = outlineBox(outline);
  const faceBox = outlineBox({ kind: 'polygon', points: face.outline.map(([u, v]) => [u, v]) });
  const obstacles = [...others.map(({ outline: o }) => outlineBox(o)), ...parties];
  const shifts = (low: number, high: number, faceLow: number, faceHigh: number, sides: Point2[]) => {
    const m = OPENING_MARGIN_M;
    const wanted = [0, faceLow + m - low, faceHigh - m - high];
    for (const [a, b] of sides) wanted.push(a - m - high, b + m - low);
    const room = faceHigh - faceLow - 2 * m - (high - low);
    for (let i = 1; i < TRIES && room > 0; i++) wanted.push(faceLow + m - low + (room * i) / TRIES);
    return wanted.sort((a, b) => Math.abs(a) - Math.abs(b));
  };
  const us = shifts(
    box.u0,
    box.u1,
    faceBox.u0,
    faceBox.u1,
    obstacles.map((o) => [o.u0, o.u1]),
  );
  const vs = shifts(
    box.v0,
    box.v1,
    faceBox.v0,
    faceBox.v1,
    obstacles.map((o) => [o.v0, o.v1]),
  );
  let best: OpeningOutline | null = null;
  let least = Infinity;
  for (const du of us) {
    if (Math.abs(du) >= least) break;
    for (const dv of vs) {
      const way = Math.hypot(du, dv);
      if (way >= least) break;
      const moved = moveOutline(outline, du, dv);
      if (fits(face, moved, others, parties)) [best, least] = [moved, way];
    }
  }
  return best;
}
