import {
  adjoiningModel,
  assembleScene,
  bounds,
  type Ground,
  groundLevel,
  hasMoving,
  type MeshStore,
  openingsIn,
  type OpeningsOf,
  type Owner,
  type Piece,
  type Point2,
  type Project,
  type Scene,
  sceneAt,
  type SurfaceKind,
} from '@dial-shade/core';
import { shared } from '../state/shared-memo';
import type { Selection } from '../state/view-store';
import { KIND_COLOURS, optionTint, PART_COLOURS, rampRgb, SCENE } from '../theme/palette';
import type { ModelLook } from './drawn-model';
import type { Focus } from './frame-points';
import type { Rgb, SurfaceColours } from './solid-geometry';
import type { Circle } from './sun-path-lines';

export type Theme = 'light' | 'dark';

/** What of the page a scene is drawn with. */
export interface LookAsked {
  theme: Theme;
  byKind: boolean;
  selection: Selection | null;
  also: readonly Selection[];
  /** Keys of owners that are not drawn. */
  hidden: ReadonlySet<string>;
  /** Colour of the ground where it is not the theme's. */
  ground?: string;
  /** The moment that what moves stands as it does at, epoch ms; null: at rest. */
  atMs: number | null;
  /** Tells those apart who show the same option at moments of their own. */
  of?: string;
}

/** What a pane shows an option under: panes with moments of their own stand apart where anything moves. */
export function lookOf(project: Project, optionId: string, paneId: number, hasOwnMoment: boolean): string {
  const isThere = project.options.some(({ id }) => id === optionId);
  return hasOwnMoment && isThere && hasMoving(project, optionId) ? `pane ${paneId}` : '';
}

/**
 * The scene of an option as it is drawn, in the colours of its owners or, to check the model, of kinds of face; all who ask
 * for the same get the same object.
 */
export function sceneLook(
  project: Project,
  meshes: MeshStore,
  optionId: string,
  {
    theme,
    byKind,
    selection,
    also,
    hidden: hiddenKeys,
    ground = SCENE[theme].ground,
    atMs,
    of = '',
  }: LookAsked,
): ModelLook {
  const shownOption = project.options.some((o) => o.id === optionId) ? optionId : project.options[0]!.id;
  const moves = hasMoving(project, shownOption);
  const key = (part: string) => `${part}:${shownOption}${of}${moves && atMs === null ? ' at rest' : ''}`;
  const toned = (part: string) => key(byKind ? `${part} by kind` : part);
  // Of what moves the same scene while nothing has moved.
  const now = moves && atMs !== null ? sceneAt(project, shownOption, meshes, atMs) : null;
  const scene = shared(
    key('scene'),
    [project, meshes, now],
    () => now ?? assembleScene(project, shownOption, meshes),
  );
  const openings = shared(key('openings'), [project, meshes], () => openingsIn(project, shownOption, meshes));
  const colours = shared(toned('colours'), [scene, project, openings, theme, ground], () =>
    byKind ? kindColours(scene, openings, theme) : ownerColours(scene, project, theme, ground),
  );
  const chosen = shared(key('chosen'), [scene, selection, also], () => {
    const all = selection ? [selection, ...also] : [];
    return new Set(
      scene.owners.flatMap((owner, i) => (all.some((one) => isSelected(owner, one)) ? [i] : [])),
    );
  });
  const hidden = shared(
    key('hidden'),
    [scene, hiddenKeys],
    () => new Set(scene.owners.flatMap((owner, i) => (hiddenKeys.has(ownerKey(owner)) ? [i] : []))),
  );
  return shared(toned('look'), [scene, colours, chosen, hidden], () => ({ scene, colours, chosen, hidden }));
}

export function isSelected(owner: Owner, selection: Selection): boolean {
  // A body that is marked as a device is chosen as the body of the option that it is.
  const layer = owner.layer === 'devices' ? 'option' : owner.layer;
  return owner.id === selection.id && owner.optionId === selection.optionId && layer === selection.layer;
}

/** The name under which a thing is hidden or locked. */
export function ownerKey(owner: { id: string; optionId: string | null }): string {
  return `${owner.optionId ?? ''}/${owner.id}`;
}

/** Every surface in the colour of its owner; panes, leaves, doors and the like in their own. */
function ownerColours(scene: Scene, project: Project, theme: Theme, ground: string): SurfaceColours {
  const byOwner = scene.owners.map((owner) => ownerColour(owner, project, theme, ground));
  const parts = rgbOf(PART_COLOURS[theme]);
  return (surface) => parts[scene.surfaces[surface]!.kind] ?? byOwner[scene.ownerOf[surface]!]!;
}

function rgbOf(colours: Partial<Record<string, string>>): Partial<Record<string, Rgb>> {
  return Object.fromEntries(Object.entries(colours).map(([key, hex]) => [key, rampRgb(() => hex!, 0)]));
}

function ownerColour(owner: Owner, project: Project, theme: Theme, ground: string): Rgb {
  const palette = SCENE[theme];
  const hex = () => {
    if (owner.layer === 'ground') return ground;
    if (owner.layer === 'neighbours') return palette.neighbour;
    if (owner.layer === 'today') return palette.today;
    return optionTint(project.options.find((option) => option.id === owner.optionId)?.hue ?? 7, theme);
  };
  return rampRgb(hex, 0);
}

/** Every surface in the colour of its kind; walls that are party walls by more than half in one of their own. */
function kindColours(scene: Scene, openings: OpeningsOf, theme: Theme): SurfaceColours {
  const byKind = rgbOf(KIND_COLOURS);
  const plain = rampRgb(() => SCENE[theme].neighbour, 0);
  const party = partyFaces(openings);
  return (surface) => {
    const { kind, face } = scene.surfaces[surface]!;
    const owner = scene.owners[scene.ownerOf[surface]!]!;
    if (kind === 'wall' && face && party.has(`${ownerKey(owner)}/${face}`)) return byKind.party!;
    return byKind[kind satisfies SurfaceKind] ?? plain;
  };
}

/** Walls of which more than half is covered by another body. */
function partyFaces(openings: OpeningsOf): Set<string> {
  const found = new Set<string>();
  for (const { body, optionId: of } of openings.bodies)
    for (const [key, parts] of openings.fitted(body).parties) {
      const face = openings.fitted(body).faces.find((f) => f.key === key);
      const covered = parts.reduce((sum, p) => sum + (p.u1 - p.u0) * (p.v1 - p.v0), 0);
      if (face && covered > (face.lengthM * face.heightM) / 2)
        found.add(`${ownerKey({ id: body.id, optionId: of })}/${key}`);
    }
  return found;
}

/** Where the north ring stands: round what stands in any option; where nothing does, round the site. */
export function siteCircle(project: Project, meshes: MeshStore): Circle {
  const standing = bodyPoints(project, meshes);
  const drawn: Point2[] = [
    ...(project.site.boundary ?? []),
    ...project.targets.flatMap((t) =>
      t.kind === 'ground' ? t.outline : t.kind === 'plane' ? [[t.origin[0], t.origin[1]] as const] : [],
    ),
    ...project.areas.flatMap((area) => area.outline),
  ];
  const points = standing.length ? standing : drawn;
  if (points.length === 0) return { centre: [0, 0], radius: 40 };
  const box = bounds(points);
  const centre: Point2 = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const reach = points.reduce((far, [x, y]) => Math.max(far, Math.hypot(x - centre[0], y - centre[1])), 0);
  return { centre, radius: Math.max(20, Math.min(reach * RING_SHARE, 2000)) };
}

/** The ring as a share of how far what stands reaches: the model is to be large in the view, and its ring with it. */
const RING_SHARE = 0.74;

/** How far the ring goes with its letters, as a share of its radius. */
const RING_ROOM = 1.2;

/** Points in plan of everything that stands in any option. */
function bodyPoints(project: Project, meshes: MeshStore): Point2[] {
  const models = [
    ...project.neighbours.flatMap((n) => (n.kind === 'mesh' ? [n] : [])),
    ...project.options.flatMap((option) => option.models),
  ];
  return [
    ...project.options.flatMap((option) => option.masses.flatMap((mass) => mass.footprint.outer)),
    ...project.neighbours.flatMap((n) =>
      n.kind === 'building' ? n.footprint.outer : 'path' in n ? n.path : n.kind === 'tree' ? [n.at] : [],
    ),
    ...models.flatMap((model): Point2[] => {
      const mesh = meshes.get(model.mesh);
      if (!mesh) return [];
      const [x0, y0, , x1, y1] = adjoiningModel(model, mesh).box;
      return [
        [x0, y0],
        [x1, y1],
      ];
    }),
  ];
}

/** The corners of the box of everything that stands; where nothing does, of one round the ring. */
export function focusOf(scene: Scene, ground: Ground, { centre, radius }: Circle): Focus {
  const standing = scene.pieces.filter(
    ({ surfaceOf }, i) => surfaceOf.length > 0 && scene.owners[i]!.layer !== 'ground',
  );
  const z = groundLevel(ground, [centre[0], centre[1]]);
  const reach = radius * RING_ROOM;
  const around = [
    [centre[0] - reach, centre[1] - reach, z],
    [centre[0] + reach, centre[1] + reach, z + radius * 0.3],
  ] as const;
  const all = standing.length ? standing.map(boxOf) : [around];
  const points = new Float64Array(all.length * 24);
  all.forEach((box, b) => {
    for (let i = 0; i < 8; i++)
      points.set([box[i & 1]![0], box[(i >> 1) & 1]![1], box[i >> 2]![2]], b * 24 + i * 3);
  });
  return points;
}

type Corner = readonly [number, number, number];
const boxes = new WeakMap<Piece, readonly [Corner, Corner]>();

function boxOf(piece: Piece): readonly [Corner, Corner] {
  let box = boxes.get(piece);
  if (!box) {
    const low: [number, number, number] = [Infinity, Infinity, Infinity];
    const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
    piece.positions.forEach((value, i) => {
      const k = (i % 3) as 0 | 1 | 2;
      if (value < low[k]) low[k] = value;
      if (value > high[k]) high[k] = value;
    });
    box = [low, high];
    boxes.set(piece, box);
  }
  return box;
}
