import { type Face, hostKey, openableFaces } from '../form/faces';
import type { Ground, MassShape, Opening, OpeningRule } from '../project/schema';
import { fits, type Misfit, openingMisfit, type Placed } from './fit';
import { outlineBox } from './outline';
import { type Body, type PartyPart, partyParts, touching } from './party';
import { type GaveWay, inScope, makeOnFace } from './rule';

/** An opening that stands in a wall or roof, with the rule that made it, if one did. */
export interface FittedOpening extends Opening {
  rule: string | null;
}

/** All openings of one body: what fits, what does not, what its rules could not keep. */
export interface FittedBody {
  faces: Face[];
  /** By face key. */
  byFace: Map<string, FittedOpening[]>;
  /** Parts of walls that other bodies cover, by face key. */
  parties: Map<string, PartyPart[]>;
  /** Single openings that cannot be where they are. */
  misfits: { opening: Opening; face: Face | null; misfit: Misfit }[];
  /** What gave way, by rule. */
  gaveWay: { rule: string; face: Face; what: GaveWay; asked: number; got: number }[];
}

/** What the openings of a body depend on besides the body. */
export interface FittingContext {
  ground: Ground;
  trueNorthDeg: number;
  rules: readonly OpeningRule[];
  /** Bodies that may stand against this one. */
  others: readonly Body[];
}

interface Known {
  ground: Ground;
  trueNorthDeg: number;
  rules: readonly OpeningRule[];
  near: readonly Body[];
  fitted: FittedBody;
}

const known = new WeakMap<object, Known>();

/** The openings of a body. Remembered until the body, its rules, the ground or a body that touches it changes. */
export function fitOpenings(body: Body, ownerId: string, context: FittingContext): FittedBody {
  const near = touching(body, context.others, context.ground);
  const last = known.get(body);
  if (
    last &&
    last.ground === context.ground &&
    last.trueNorthDeg === context.trueNorthDeg &&
    sameItems(last.rules, context.rules) &&
    sameItems(last.near, near)
  )
    return last.fitted;
  const fitted = makeFitted(body, ownerId, context, near);
  known.set(body, {
    ground: context.ground,
    trueNorthDeg: context.trueNorthDeg,
    rules: context.rules,
    near,
    fitted,
  });
  return fitted;
}

function sameItems<T>(one: readonly T[], other: readonly T[]): boolean {
  return one.length === other.length && one.every((item, i) => item === other[i]);
}

function makeFitted(
  body: MassShape,
  ownerId: string,
  context: FittingContext,
  near: readonly Body[],
): FittedBody {
  const faces = openableFaces(body, context.ground);
  const parties = partyParts(body, near, context.ground, faces);
  const fitted: FittedBody = { faces, byFace: new Map(), parties, misfits: [], gaveWay: [] };
  const byKey = new Map(faces.map((face) => [face.key, face]));
  for (const opening of body.openings) {
    const face = byKey.get(hostKey(opening.host)) ?? null;
    const there = face ? (fitted.byFace.get(face.key) ?? []) : [];
    const misfit = face
      ? openingMisfit(face, opening.outline, there, parties.get(face.key) ?? [])
      : { reason: 'Its wall or roof face no longer exists.', nearest: null };
    if (misfit) fitted.misfits.push({ opening, face, misfit });
    else fitted.byFace.set(face!.key, [...there, { ...opening, rule: null }]);
  }
  for (const rule of context.rules)
    for (const face of faces) {
      if (!inScope(rule, ownerId, face, context.trueNorthDeg)) continue;
      const covered = parties.get(face.key) ?? [];
      const made = makeOnFace(rule.make, face, covered, ownerId);
      for (const { what, asked, got } of made.gaveWay)
        fitted.gaveWay.push({ rule: rule.id, face, what, asked, got });
      const there = fitted.byFace.get(face.key) ?? [];
      const clear = made.outlines.filter(
        ({ outline }) =>
          !there.some((other) => boxesNear(other, { name: '', outline })) ||
          fits(face, outline, there, covered),
      );
      if (clear.length)
        fitted.byFace.set(face.key, [
          ...there,
          ...clear.map(({ key, outline }) => madeOpening(rule, face, key, outline)),
        ]);
    }
  return fitted;
}

function boxesNear(one: Placed, other: Placed): boolean {
  const a = outlineBox(one.outline);
  const b = outlineBox(other.outline);
  return a.u0 < b.u1 + 0.06 && b.u0 < a.u1 + 0.06 && a.v0 < b.v1 + 0.06 && b.v0 < a.v1 + 0.06;
}

function madeOpening(rule: OpeningRule, face: Face, key: string, outline: Opening['outline']): FittedOpening {
  const { make } = rule;
  const kind = make.by === 'door' ? 'door' : make.by === 'panels' && !make.glazed ? 'void' : 'window';
  const opaque = kind === 'void' || (make.by === 'door' && make.opaque);
  return {
    id: `${rule.id}.${face.key.replaceAll('/', '-')}.${key}`,
    name: `${rule.name} ${Number.isInteger(Number(key)) ? Number(key) + 1 : key}`,
    host: face.host,
    outline,
    kind,
    glazing: opaque ? null : rule.glazing,
    revealM: rule.revealM,
    openable: rule.openable,
    grid: null,
    rule: rule.id,
  };
}
