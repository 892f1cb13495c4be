import { type Face, hostKey, meshFace, openableFaces, outlineBox, uprightFaces } from '../form';
import type { Mesh } from '../geometry';
import type { Ground, MassShape, Model, Opening, OpeningRule } from '../project';
import { type AdjoiningBody, adjoiningMass, adjoiningModel, type PartyPart } from './adjoining-body';
import { fits, openingViolation, type Placed, type Violation } from './fit';
import { partyParts } from './party';
import { inScope, makeOnFace, MAX_MADE, type Relaxation } from './rule';

/** An opening that stands in a wall or roof, with the rule that made it, if one did. */
export interface FittedOpening extends Opening {
  rule: string | null;
}

/** All openings of one body: what fits, what does not, what its rules could not keep. */
export interface FittedBody {
  faces: Face[];
  /** By face key. */
  byFace: Map<string, FittedOpening[]>;
  /** How many of them rules made. */
  made: number;
  /** Parts of walls that other bodies cover, by face key. */
  parties: Map<string, PartyPart[]>;
  /** Single openings that cannot be where they are. */
  violations: { opening: Opening; face: Face | null; violation: Violation }[];
  /** What gave way, by rule. */
  relaxed: { rule: string; face: Face; what: Relaxation; asked: number; got: number }[];
}

/** Something whose faces take openings. The same body gives the same object until it or the ground changes. */
export interface Openable {
  id: string;
  openings: readonly Opening[];
  adjoining: AdjoiningBody;
  /** Its faces that have, or by these rules may have, openings. */
  faces(rules: readonly OpeningRule[]): Face[];
}

const ofBodies = new WeakMap<MassShape, { ground: Ground; openable: Openable }>();

/** A mass or building, all walls and roofs of which may take openings. */
export function openableBody(body: MassShape, ground: Ground): Openable {
  const known = ofBodies.get(body);
  if (known?.ground === ground) return known.openable;
  const { id, openings } = body;
  const openable: Openable = {
    id,
    openings,
    adjoining: adjoiningMass(body, ground),
    faces: () => openableFaces(body, ground),
  };
  ofBodies.set(body, { ground, openable });
  return openable;
}

const ofModels = new WeakMap<Model, { mesh: Mesh; openable: Openable }>();

/** An imported mesh: the flat faces that its openings name, and the upright ones that a rule names or means. */
export function openableModel(model: Model, mesh: Mesh): Openable {
  const known = ofModels.get(model);
  if (known?.mesh === mesh) return known.openable;
  const { id, openings } = model;
  const openable: Openable = {
    id,
    openings,
    adjoining: adjoiningModel(model, mesh),
    faces(rules) {
      const faces = new Map<string, Face>();
      const put = (face: Face | null) => face && faces.set(face.key, face);
      for (const { host } of openings) if (host.on === 'mesh') put(meshFace(model, mesh, host.face));
      for (const { scope } of rules) {
        if (scope.walls) {
          for (const wall of scope.walls) {
            const [owner, , face] = wall.split('/');
            if (owner === id) put(meshFace(model, mesh, Number(face)));
          }
        } else if (scope.owners?.includes(id)) for (const face of uprightFaces(model, mesh)) put(face);
      }
      return [...faces.values()];
    },
  };
  ofModels.set(model, { mesh, openable });
  return openable;
}

/** What the openings of a body depend on besides the body. */
export interface FittingContext {
  trueNorthDeg: number;
  rules: readonly OpeningRule[];
  /** What stands near enough to cover a part of its walls. */
  near: readonly AdjoiningBody[];
}

const known = new WeakMap<Openable, FittingContext & { fitted: FittedBody }>();

/** The openings of a body. Remembered until the body, its rules, or what touches it changes. */
export function fitOpenings(openable: Openable, context: FittingContext): FittedBody {
  const last = known.get(openable);
  if (
    last &&
    last.trueNorthDeg === context.trueNorthDeg &&
    sameItems(last.rules, context.rules) &&
    sameItems(last.near, context.near)
  )
    return last.fitted;
  const fitted = makeFitted(openable, context);
  known.set(openable, { ...context, fitted });
  return fitted;
}

function sameItems<T>(one: readonly T[], other: readonly T[]): boolean {
  return one.length === other.length && one.every((item, i) => item === other[i]);
}

function makeFitted(openable: Openable, { rules, near, trueNorthDeg }: FittingContext): FittedBody {
  const faces = openable.faces(rules);
  const parties = partyParts(faces, near);
  const fitted: FittedBody = { faces, byFace: new Map(), made: 0, parties, violations: [], relaxed: [] };
  const byKey = new Map(faces.map((face) => [face.key, face]));
  for (const opening of openable.openings) {
    const face = byKey.get(hostKey(opening.host)) ?? null;
    const there = face ? (fitted.byFace.get(face.key) ?? []) : [];
    const violation = face
      ? openingViolation(face, opening.outline, there, parties.get(face.key) ?? [])
      : { reason: 'Its wall or roof face no longer exists.', nearest: null };
    if (violation) fitted.violations.push({ opening, face, violation });
    else fitted.byFace.set(face!.key, [...there, { ...opening, rule: null }]);
  }
  for (const rule of rules)
    for (const face of faces)
      if (inScope(rule, openable.id, face, trueNorthDeg)) applyRule(rule, face, openable.id, fitted);
  return fitted;
}

/** Puts what a rule makes on a face there, except where it would meet what is there already or leave the face. */
function applyRule(rule: OpeningRule, face: Face, ownerId: string, fitted: FittedBody): void {
  const covered = fitted.parties.get(face.key) ?? [];
  const made = makeOnFace(rule.make, face, covered, ownerId);
  for (const { what, asked, got } of made.relaxed)
    fitted.relaxed.push({ rule: rule.id, face, what, asked, got });
  const there = fitted.byFace.get(face.key) ?? [];
  if (fitted.made + made.outlines.length > MAX_MADE) {
    fitted.relaxed.push({ rule: rule.id, face, what: 'too many', asked: made.outlines.length, got: 0 });
    return;
  }
  // A face of a mesh may have any outline; on a wall, what a rule makes always lies within it.
  const clear = made.outlines.filter(
    ({ outline }) =>
      (face.host.on === 'wall' && !there.some((other) => boxesNear(other, { name: '', outline }))) ||
      fits(face, outline, there, covered),
  );
  fitted.made += clear.length;
  if (clear.length)
    fitted.byFace.set(face.key, [
      ...there,
      ...clear.map(({ key, outline }) => madeOpening(rule, face, key, outline)),
    ]);
  else if (made.outlines.length && there.length === 0)
    fitted.relaxed.push({ rule: rule.id, face, what: 'none fits', asked: made.outlines.length, got: 0 });
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
