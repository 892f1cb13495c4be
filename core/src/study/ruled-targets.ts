import { glazedPlaces, isInsideSheet, placesOfDevice, standingScheme } from '../devices';
import {
  type Face,
  faceAzimuthDeg,
  onFace,
  outlineBox,
  outlinePolygon,
  roomsOf,
  storeyFloorM,
} from '../form';
import {
  centroid,
  contains,
  dot,
  type MeshStore,
  type Point2,
  type Point3,
  type Ring,
  segmentDistance,
  signedArea,
} from '../geometry';
import { type FittedOpening, isMeant, openingsIn, sectorOf } from '../openings';
import { type Glazing, type Project, type RuledTarget, TODAY } from '../project';
import { gridPanes } from '../scene';
import type { FlatTarget, InsideSheet, TargetGlass } from './flat-target';

type OpeningsTarget = Extract<RuledTarget, { kind: 'openings' }>;
type FacadesTarget = Extract<RuledTarget, { kind: 'facades' }>;
type RoomsTarget = Extract<RuledTarget, { kind: 'rooms' }>;
type Numbers = [number, number, number];

/** Where the sun exposure of a room is read: so high above the sill, and at least so high above the floor (EN 17037). */
const REFERENCE = { aboveSillM: 0.3, aboveFloorM: 1.2 };

/** The flat targets that a target by rule comes to in an option. */
export function ruledTargets(
  project: Project,
  optionId: string,
  target: RuledTarget,
  meshes: MeshStore,
): FlatTarget[] {
  if (target.kind === 'openings') return openingTargets(project, optionId, target, meshes);
  if (target.kind === 'facades') return facadeTargets(project, optionId, target, meshes);
  return roomTargets(project, optionId, target);
}

/** The bodies that a target is among, with the option that holds them. */
function bodiesAmong(
  project: Project,
  optionId: string,
  { among }: Pick<RuledTarget, 'among'>,
  meshes: MeshStore,
) {
  const openings = openingsIn(project, optionId, meshes);
  const holder = among === 'neighbours' ? null : among === 'today' ? TODAY : optionId;
  return { openings, bodies: openings.all.filter((item) => item.optionId === holder) };
}

function openingTargets(
  project: Project,
  optionId: string,
  target: OpeningsTarget,
  meshes: MeshStore,
): FlatTarget[] {
  const { openings, bodies } = bodiesAmong(project, optionId, target, meshes);
  const { trueNorthDeg } = project.site.north;
  const sheets = insideSheets(project, optionId, meshes);
  const proposed = target.facing || target.withinM !== null ? proposals(project) : [];
  return bodies.flatMap(({ body }) => {
    const fitted = openings.of(body);
    if (!fitted) return [];
    return fitted.faces.flatMap((face) => {
      // Openings in roofs have no wall: they are meant where nothing says which walls.
      const { sectors, storeys, walls, owners } = target.scope;
      const isInRoof = face.host.on === 'roof';
      const isOwner = !owners || owners.includes(body.id);
      if (
        isInRoof
          ? sectors || storeys || walls || !isOwner
          : !isMeant(meshScope(target, body), body.id, face, trueNorthDeg)
      )
        return [];
      return (fitted.byFace.get(face.key) ?? []).flatMap((opening) => {
        const glazing = project.glazings.find(({ id }) => id === opening.glazing);
        if (!glazing) return [];
        const inside = sheets.get(sheetKey(body.id, face, opening.id));
        const pane = paneTarget(target, body, face, opening, { ...glazing, inside }, trueNorthDeg);
        return isAffected(target, pane, proposed) ? [pane] : [];
      });
    });
  });
}

/** A scope that names no walls means meshes by name only, as rules for openings do; a target means all their openings. */
function meshScope({ scope }: OpeningsTarget | FacadesTarget, body: { id: string }) {
  return 'mesh' in body && !scope.owners && !scope.walls ? { ...scope, owners: [body.id] } : scope;
}

const sheetKey = (owner: string, face: Pick<Face, 'key'>, opening: string) =>
  [owner, face.key, opening].join('|');

/** The sheets that hang inside in an option, by opening. */
function insideSheets(project: Project, optionId: string, meshes: MeshStore): Map<string, InsideSheet[]> {
  const found = new Map<string, InsideSheet[]>();
  const devices = standingScheme(project, optionId)?.devices.filter(({ make }) => isInsideSheet(make)) ?? [];
  if (devices.length === 0) return found;
  const bodies = glazedPlaces(project, optionId, meshes);
  for (const device of devices)
    for (const { owner, face, opening } of placesOfDevice(device, bodies, project.site.north.trueNorthDeg)) {
      const key = sheetKey(owner.id, face, opening.id);
      const { u, v, normal } = face;
      found.set(key, [...(found.get(key) ?? []), { make: device.make, face: { u, v, normal } }]);
    }
  return found;
}

/** The glass of an opening as a target: where the pane stands, back by the reveal. */
function paneTarget(
  target: OpeningsTarget,
  body: { id: string; name: string },
  face: Face,
  opening: FittedOpening,
  { gValue, frameShare, panes, categoryQ, inside }: Glazing & Pick<TargetGlass, 'inside'>,
  trueNorthDeg: number,
): FlatTarget {
  const outline = outlinePolygon(opening.outline);
  const { u0, u1, v0, v1 } = outlineBox(opening.outline);
  const reference: Point2 = [
    (u0 + u1) / 2,
    Math.min(v1, Math.max(v0 + REFERENCE.aboveSillM, REFERENCE.aboveFloorM)),
  ];
  const middle = centroid(outline);
  return {
    ...planeOf(face, opening.revealM),
    id: partId(target, body, face, opening.id),
    name: `${placeName(body, face, trueNorthDeg)} · ${opening.name}`,
    outline: pairs(outline),
    holes: [],
    spacingM: target.spacingM,
    offsetM: target.offsetM,
    of: null,
    ...(target.at !== 'grid' && {
      sensorAt: target.at === 'reference' ? reference : contains(outline, middle) ? middle : outline[0]!,
    }),
    glass: {
      ...{ gValue, frameShare: opening.grid ? barShare(opening) : frameShare, panes, categoryQ },
      ...(inside && { inside }),
    },
  };
}

/** Share of a curtain wall that its bars take. */
function barShare(opening: FittedOpening): number {
  const area = (ring: Ring) => Math.abs(signedArea(ring));
  const glass = gridPanes(opening).reduce((sum, pane) => sum + area(pane), 0);
  return 1 - glass / area(outlinePolygon(opening.outline));
}

const pairs = (ring: Ring) => ring.map(([u, v]): [number, number] => [u, v]);

/** The plane of a face, or one so far behind it. */
function planeOf(face: Face, inM = 0) {
  return {
    kind: 'plane' as const,
    origin: [...onFace(face, [0, 0], inM)] as Numbers,
    u: [...face.u] as Numbers,
    v: [...face.v] as Numbers,
  };
}

/** The body that a part of a target by rule is of, by its id; null of what was drawn. */
export const bodyOfPart = (id: string): string | null => id.split('.')[1] ?? null;

function partId(target: RuledTarget, body: { id: string }, face: Face, more = ''): string {
  return [target.id, body.id, face.key.replaceAll('/', '-'), more].filter(Boolean).join('.');
}

/** Body, the way it faces, whether into a court, storey: “Terrace 3 · south · court · storey 2”. */
function placeName(body: { name: string }, face: Face, trueNorthDeg: number): string {
  const azimuth = faceAzimuthDeg(face.normal, trueNorthDeg);
  const parts = [body.name];
  if (face.host.on === 'roof') parts.push('roof');
  if (azimuth !== null) parts.push(sectorOf(azimuth));
  if (face.host.on === 'wall' && face.host.ring > 0) parts.push('court');
  if (face.host.on === 'wall') parts.push(`storey ${face.host.storey + 1}`);
  return parts.join(' · ');
}

/** What any option proposes, in plan. */
function proposals(project: Project): Ring[] {
  return project.options
    .filter(({ id }) => id !== TODAY)
    .flatMap(({ masses, models }) => [
      ...masses.map(({ footprint }) => footprint.outer),
      // Of a mesh, the place where it is set: its outline is not looked into.
      ...models.map(({ move: [x, y] }): Ring => [[x, y]]),
    ]);
}

function isAffected(
  { facing, withinM }: OpeningsTarget,
  pane: FlatTarget,
  proposed: readonly Ring[],
): boolean {
  if (pane.kind !== 'plane' || (!facing && withinM === null)) return true;
  const { origin: o, u, v, outline } = pane;
  const normal: Point3 = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const [a, b] = centroid(outline);
  const at: Point2 = [o[0] + u[0] * a + v[0] * b, o[1] + u[1] * a + v[1] * b];
  return proposed.some((ring) => {
    const before = ring.some((p) => dot([p[0] - o[0], p[1] - o[1], 0], normal) > 1e-6);
    const near =
      withinM === null ||
      contains(ring, at) ||
      ring.some((p, i) => segmentDistance(at, p, ring[(i + 1) % ring.length]!) <= withinM);
    return (!facing || before) && near;
  });
}

function facadeTargets(
  project: Project,
  optionId: string,
  target: FacadesTarget,
  meshes: MeshStore,
): FlatTarget[] {
  const { openings, bodies } = bodiesAmong(project, optionId, target, meshes);
  const { trueNorthDeg } = project.site.north;
  const { owners } = target.scope;
  return bodies.flatMap(({ body }) =>
    openings
      .fitted(body)
      .faces.filter((face) =>
        face.host.on === 'roof'
          ? target.roofs && (!owners || owners.includes(body.id))
          : isMeant(meshScope(target, body), body.id, face, trueNorthDeg),
      )
      .map((face) => ({
        ...planeOf(face),
        id: partId(target, body, face),
        name: placeName(body, face, trueNorthDeg),
        outline: pairs(face.outline),
        holes: face.holes.map(pairs),
        spacingM: target.spacingM,
        offsetM: target.offsetM,
        of: null,
      })),
  );
}

function roomTargets(project: Project, optionId: string, target: RoomsTarget): FlatTarget[] {
  const { bodies } = openingsIn(project, optionId);
  const holder = target.among === 'neighbours' ? null : target.among === 'today' ? TODAY : optionId;
  const found = bodies.find(({ body, optionId: of }) => of === holder && body.id === target.mass);
  if (!found) return [];
  const { body } = found;
  return roomsOf(body)
    .filter(({ id }) => (target.rooms ? id !== null && target.rooms.includes(id) : id !== null))
    .map((room) => ({
      id: [target.id, body.id, room.id].join('.'),
      name: `${body.name} · ${room.name}`,
      kind: 'plane' as const,
      origin: [0, 0, storeyFloorM(body, project.site.ground, room.storey) + target.heightM] as Numbers,
      u: [1, 0, 0] as Numbers,
      v: [0, 1, 0] as Numbers,
      outline: pairs(room.outer),
      holes: room.holes.map(pairs),
      spacingM: target.spacingM,
      offsetM: target.offsetM,
      of: null,
    }));
}
