import type { Face } from '../form';
import type { AdjoiningBody, PartyPart } from './adjoining-body';

/** Parts of upright faces that others cover, by the key of the face. Faces without any are left out. */
export function partyParts(faces: readonly Face[], near: readonly AdjoiningBody[]): Map<string, PartyPart[]> {
  const found = new Map<string, PartyPart[]>();
  for (const other of near)
    for (const face of faces) {
      if (Math.abs(face.normal[2]) > 0.02) continue;
      const parts = other.partsOn(face);
      if (parts.length) found.set(face.key, merge([...(found.get(face.key) ?? []), ...parts]));
    }
  return found;
}

/** Parts over the same stretch of the wall that follow one another upwards become one. */
function merge(parts: PartyPart[]): PartyPart[] {
  const sorted = [...parts].sort((a, b) => a.u0 - b.u0 || a.v0 - b.v0);
  const out: PartyPart[] = [];
  for (const part of sorted) {
    const below = out.find(
      (o) =>
        o.by === part.by &&
        Math.abs(o.u0 - part.u0) < 1e-6 &&
        Math.abs(o.u1 - part.u1) < 1e-6 &&
        part.v0 <= o.v1 + 1e-6,
    );
    if (below) below.v1 = Math.max(below.v1, part.v1);
    else out.push({ ...part });
  }
  return out;
}

/** Stretches of a wall that nothing covers anywhere between two heights, as pairs of u. */
export function freeSpans(
  lengthM: number,
  parts: readonly PartyPart[],
  v0: number,
  v1: number,
): [number, number][] {
  const blocked = parts.filter((p) => p.v1 > v0 + 1e-6 && p.v0 < v1 - 1e-6).sort((a, b) => a.u0 - b.u0);
  const spans: [number, number][] = [];
  let from = 0;
  for (const part of blocked) {
    if (part.u0 - from > 1e-3) spans.push([from, part.u0]);
    from = Math.max(from, part.u1);
  }
  if (lengthM - from > 1e-3) spans.push([from, lengthM]);
  return spans;
}
