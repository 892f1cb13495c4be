import {
  type Camera,
  type CameraOf,
  containsWithHoles,
  groundLevel,
  massLevels,
  openingsIn,
  type Project,
  type Scene,
  sectionOf,
  standingBodies,
  storeyFloorM,
  TODAY,
} from '@dial-shade/core';
import type { Selection } from '../state/view-store';
import { cutOf } from './cut';
import type { PaneView } from './pane-view';

type FocusBox = PaneView['focusBox'];

export const CAMERA_KINDS: { kind: Camera['kind']; name: string; hint: string }[] = [
  { kind: 'orbit', name: 'Orbit', hint: 'From outside, turning round the model' },
  { kind: 'eye', name: 'Eye', hint: 'From where somebody stands' },
  { kind: 'level', name: 'Plan', hint: 'From above, cut level over a storey' },
  { kind: 'upright', name: 'Section', hint: 'Cut upright along a line' },
  { kind: 'elevation', name: 'Elevation', hint: 'Square on a facade' },
  { kind: 'sun', name: 'From the sun', hint: 'What it sees is lit; nothing in it is in shade' },
];

/** How high an eye is over what it stands on, and how high over a floor a plan is cut, where nobody has said. */
export const EYE_HEIGHT_M = 1.6;
export const CUT_ABOVE_M = 0.85;
export const NORMAL_FOV_DEG = 45;
export const WIDE_FOV_DEG = 75;

/** Floors of an option's masses, from below: what plans are cut over. */
export function floorsOf(project: Project, optionId: string): { name: string; floorM: number }[] {
  const masses = project.options
    .filter(({ id }) => id === optionId || id === TODAY)
    .flatMap(({ masses: m }) => m.filter((mass) => optionId === TODAY || !mass.demolished));
  const found = masses.flatMap((mass) =>
    mass.storeys.map((_, storey) => ({
      name: `${mass.name}, storey ${storey + 1}`,
      floorM: storeyFloorM(mass, project.site.ground, storey),
    })),
  );
  const levels = new Map<number, string[]>();
  for (const { name, floorM } of found) {
    const key = Math.round(floorM * 100) / 100;
    levels.set(key, [...(levels.get(key) ?? []), name]);
  }
  return [...levels]
    .sort(([a], [b]) => a - b)
    .map(([floorM, names]) => ({
      name: names.length > 1 ? `${names[0]!} and ${names.length - 1} more` : names[0]!,
      floorM,
    }));
}

/** A cut along a line, showing all that stands. */
export function sectionCamera(
  from: [number, number],
  to: [number, number],
  { centre, radius, lowM, highM }: FocusBox,
): CameraOf<'upright'> {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
  const u = [(to[0] - from[0]) / length, (to[1] - from[1]) / length] as const;
  const isShort = length < radius;
  const alongM = isShort ? length / 2 : (centre[0] - from[0]) * u[0] + (centre[1] - from[1]) * u[1];
  const heightM = Math.max((highM - lowM) * 1.5, (isShort ? length * 1.6 : radius * 2) * 0.62);
  return { kind: 'upright', from, to, alongM, levelM: (lowM + highM) / 2, heightM };
}

/** A view of a kind to begin with, showing what the board shows. */
export function beginCamera(
  kind: Exclude<Camera['kind'], 'orbit'>,
  project: Project,
  optionId: string,
  selection: Selection | null,
  box: FocusBox,
): Camera {
  const { centre, radius, lowM, highM } = box;
  const heightM = Math.max(10, radius * 1.7);
  switch (kind) {
    case 'eye': {
      const [x, y] = [centre[0], centre[1] - radius * 0.4];
      const z = groundLevel(project.site.ground, [x, y]) + EYE_HEIGHT_M;
      return { kind, at: [x, y, z], bearingDeg: 0, pitchDeg: 3, fovDeg: NORMAL_FOV_DEG };
    }
    case 'level': {
      const floorM =
        floorsOf(project, optionId)[0]?.floorM ?? groundLevel(project.site.ground, [centre[0], centre[1]]);
      return { kind, floorM, aboveM: CUT_ABOVE_M, centre: [centre[0], centre[1]], heightM, northUp: false };
    }
    case 'upright':
      return sectionCamera([centre[0] - radius, centre[1]], [centre[0] + radius, centre[1]], box);
    case 'elevation': {
      const bearingDeg = selection?.wallBearingDeg ?? 180;
      return { kind, centre, bearingDeg, heightM: Math.max((highM - lowM) * 1.5, radius * 1.2) };
    }
    case 'sun':
      return { kind, lookAt: centre, heightM };
  }
}

/** What keeps a view from showing anything sensible, in a sentence, or null: an eye in the ground or in a solid, a cut in the air. */
export function viewTrouble(
  project: Project,
  optionId: string,
  scene: Scene,
  camera: Camera | null,
): string | null {
  if (camera?.kind === 'eye') {
    const [x, y, z] = camera.at;
    if (z < groundLevel(project.site.ground, [x, y])) return 'The eye is under the ground; stand elsewhere.';
    const openings = openingsIn(project, optionId);
    const solid = standingBodies(project, optionId).find((body) => {
      const { floorM, eavesM } = massLevels(body, project.site.ground);
      const isHollow =
        openings.fitted(body).byFace.size > 0 || body.partitions.length > 0 || body.furniture.length > 0;
      return !isHollow && z > floorM && z < eavesM && containsWithHoles(body.footprint, [x, y]);
    });
    return solid ? `The eye is inside “${solid.name}”, which is solid; stand elsewhere.` : null;
  }
  const plane = camera && cutOf(camera);
  if (!plane) return null;
  const isMet = scene.pieces.some(
    (piece, i) => scene.owners[i]!.layer !== 'ground' && sectionOf(piece, plane).lines.length > 0,
  );
  return isMet ? null : 'The cut meets nothing that stands here.';
}
