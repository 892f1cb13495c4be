import { type DevicePlace, withoutDevices } from '../devices';
import { innerPoint, onFace, outlinePolygon } from '../form';
import { bounds, containsWithHoles, type MeshStore, type Point2, type Point3 } from '../geometry';
import type { Project } from '../project';
import { assembleScene, type Scene } from '../scene';
import type { Room } from '../shade';
import {
  directionSetOf,
  isOpen,
  type LayeredObstacles,
  LayerTracer,
  maskWords,
  pieceLayers,
  sceneLayers,
} from '../trace';

/** Working plane and eye over the floor, metres. */
export const WORKING_PLANE_M = 0.85;
export const EYE_M = 1.2;

/** Points a side over each pane. */
const SIDE = 32;
/** What the overcast sky gives level ground, of its luminance at the zenith. */
const HORIZONTAL = (7 * Math.PI) / 9;

/** The light and the view in the middle of a room, with the devices that stand and without. */
export interface RoomLight {
  /** Sky component on the working plane under the CIE overcast sky through the panes, per cent of the open level ground. */
  skyPercent: { shaded: number; bare: number };
  /** Share of the solid angle of the room's glass through which one still sees out past the devices; null without windows. */
  viewLeft: number | null;
}

/** The day on which trees are looked at: in leaf. */
const DAY = 621;

/** What comes from each direction at a point, with what panes and screens let through. */
function openFrom(
  { from, vectors: v }: ThroughPanes,
  { layers, transmission }: LayeredObstacles,
): Float64Array {
  const count = v.length / 3;
  const open = new Float64Array(count).fill(1);
  const words = maskWords(count);
  for (const layer of layers) {
    const mask = new Uint32Array(words);
    new LayerTracer(layer, v, directionSetOf(v)).trace(Float64Array.from(from), null, 0, 1, mask);
    for (let d = 0; d < count; d++) if (!isOpen(mask, words, 0, d)) open[d] = 0;
  }
  if (transmission)
    for (let d = 0; d < count; d++)
      if (open[d]! > 0) open[d] = transmission.share(...from, v[d * 3]!, v[d * 3 + 1]!, v[d * 3 + 2]!, DAY);
  return open;
}

/** The middle of a room: of the box round its outline where that lies within, else a point well within. */
export function middleOf({ shape }: Pick<Room, 'shape'>): Point2 {
  const { minX, maxX, minY, maxY } = bounds(shape.outer);
  const middle: Point2 = [(minX + maxX) / 2, (minY + maxY) / 2];
  return containsWithHoles(shape, middle) ? middle : innerPoint(shape);
}

/**
 * The sky component and the view in the middle of a room of an option.
 * @param windows its glazed openings
 */
export function roomLight(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  room: Room,
  windows: readonly Pick<DevicePlace, 'face' | 'opening'>[],
  scene: Scene = assembleScene(project, optionId, meshes),
): RoomLight {
  const [x, y] = middleOf(room);
  const bare = assembleScene(withoutDevices(project, optionId), optionId, meshes);
  const plane = throughPanes([x, y, room.floorM + WORKING_PLANE_M], windows);
  const percent = (of: Scene) => {
    const open = openFrom(plane, sceneLayers(of));
    let sum = 0;
    for (let d = 0; d < plane.solidAngle.length; d++) {
      const sine = plane.vectors[d * 3 + 2]!;
      if (sine > 0) sum += ((1 + 2 * sine) / 3) * sine * plane.solidAngle[d]! * open[d]!;
    }
    return (100 * sum) / HORIZONTAL;
  };
  const devices = scene.pieces.filter((_, i) => scene.owners[i]!.layer === 'devices');
  const bareSky = percent(bare);
  const eye = throughPanes([x, y, room.floorM + EYE_M], windows);
  const whole = eye.solidAngle.reduce((sum, one) => sum + one, 0);
  const left = openFrom(eye, pieceLayers(devices)).reduce(
    (sum, open, d) => sum + open * eye.solidAngle[d]!,
    0,
  );
  return {
    skyPercent: { shaded: devices.length > 0 ? percent(scene) : bareSky, bare: bareSky },
    viewLeft: whole > 0 ? left / whole : null,
  };
}

/** Directions from a point through panes, and the solid angle that each stands for, sr. */
interface ThroughPanes {
  from: Point3;
  vectors: Float64Array;
  solidAngle: Float64Array;
}

function throughPanes(from: Point3, windows: readonly Pick<DevicePlace, 'face' | 'opening'>[]): ThroughPanes {
  const [vectors, solidAngle]: number[][] = [[], []];
  for (const { face, opening } of windows) {
    const outline = outlinePolygon(opening.outline);
    const { minX: u0, maxX: u1, minY: v0, maxY: v1 } = bounds(outline);
    const [width, height] = [u1 - u0, v1 - v0];
    for (let i = 0; i < SIDE; i++)
      for (let k = 0; k < SIDE; k++) {
        const p: Point2 = [u0 + ((i + 0.5) / SIDE) * width, v0 + ((k + 0.5) / SIDE) * height];
        if (!containsWithHoles({ outer: outline, holes: [] }, p)) continue;
        const to = onFace(face, p, opening.revealM);
        const way = to.map((value, j) => value - from[j]!);
        const far = Math.hypot(...way);
        const facing = way.reduce((sum, value, j) => sum + value * face.normal[j]!, 0) / far;
        if (facing <= 0) continue;
        vectors!.push(...way.map((value) => value / far));
        solidAngle!.push((facing * width * height) / (SIDE * SIDE * far * far));
      }
  }
  return { from, vectors: Float64Array.from(vectors!), solidAngle: Float64Array.from(solidAngle!) };
}
