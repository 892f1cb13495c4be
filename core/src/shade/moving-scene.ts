import { clockAt } from '../civil';
import { canMove, type DevicePlace, deviceStations, type MovedBy, standingScheme } from '../devices';
import type { MeshStore } from '../geometry';
import type { Device, Project } from '../project';
import { assembleScene, type Owner, type Piece, positionNow, type Scene, solidAt } from '../scene';
import { sunPosition, sunVector } from '../sun';
import { hoursAtSite, type WeatherHour } from '../weather';

const HOUR_MS = 3_600_000;

const byStart = new WeakMap<readonly WeatherHour[], Map<number, WeatherHour>>();

/** The beam of the hour of the weather year that a moment lies in, W/m² on a plane that faces the sun; null without. */
export function beamAt(project: Project, atMs: number): number | null {
  if (!project.site.weather) return null;
  const { hours } = hoursAtSite(project);
  let starts = byStart.get(hours);
  if (!starts) byStart.set(hours, (starts = new Map(hours.map((hour) => [hour.startMs, hour]))));
  const first = hours[0]?.startMs ?? 0;
  const start = first + Math.floor((atMs - first) / HOUR_MS) * HOUR_MS;
  return starts.get(start)?.beamNormal ?? null;
}

/** What devices that move go by at a moment (epoch ms). */
export function movedBy(project: Project, atMs: number): MovedBy {
  const { place, north } = project.site;
  const { altitudeDeg, azimuthDeg } = sunPosition(atMs, place);
  const { date, minutes } = clockAt(atMs, place.zone);
  return {
    sun: altitudeDeg > 0 ? sunVector(altitudeDeg, azimuthDeg, north.trueNorthDeg) : null,
    beamWm2: beamAt(project, atMs),
    minutes,
    month: Number(date.slice(5, 7)),
  };
}

/** Whether anything that stands in an option moves. */
export function hasMoving(project: Project, optionId: string): boolean {
  return standingScheme(project, optionId)?.devices.some(({ make }) => canMove(make)) ?? false;
}

/** Scenes of one project that are kept. */
const KEPT_SCENES = 40;
const kept = new WeakMap<Project, Map<string, { meshes: MeshStore; scene: Scene }>>();

function keptScene(project: Project, key: string, meshes: MeshStore, make: () => Scene): Scene {
  let scenes = kept.get(project);
  if (!scenes) kept.set(project, (scenes = new Map()));
  const known = scenes.get(key);
  if (known?.meshes === meshes) return known.scene;
  if (scenes.size >= KEPT_SCENES) scenes.clear();
  const scene = make();
  scenes.set(key, { meshes, scene });
  return scene;
}

/**
 * The scene of an option as its devices stand at a moment (epoch ms); of what moves the same object while nothing has
 * moved. Throws what `assembleScene` throws.
 */
export function sceneAt(project: Project, optionId: string, meshes: MeshStore, atMs: number): Scene {
  if (!hasMoving(project, optionId)) return assembleScene(project, optionId, meshes);
  const resting = keptScene(project, optionId, meshes, () => assembleScene(project, optionId, meshes));
  const by = movedBy(project, atMs);
  return keptScene(project, `${optionId} ${positionsKey(resting, by)}`, meshes, () =>
    assembleScene(project, optionId, meshes, by),
  );
}

/** How everything that moves in a scene stands at a moment, at rest for null: two moments with the same key have the same scene. */
export function positionsKey({ moving }: Scene, by: MovedBy | null): string {
  return moving
    .map(({ make, stations }) => stations.map(({ face }) => positionNow(make, face, by)).join())
    .join(';');
}

/** The scenes of an option at moments: one and the same where nothing moves. */
export class MovingScene {
  private readonly isStill: boolean;

  /** @param resting the scene of the option at rest */
  constructor(
    private readonly project: Project,
    private readonly optionId: string,
    private readonly meshes: MeshStore,
    readonly resting: Scene = assembleScene(project, optionId, meshes),
  ) {
    this.isStill = !hasMoving(project, optionId);
  }

  at(atMs: number): Scene {
    return this.isStill ? this.resting : sceneAt(this.project, this.optionId, this.meshes, atMs);
  }
}

/** Whether an owner is a device. */
export function isOf({ layer, id }: Owner, device: Pick<Device, 'id'>): boolean {
  return layer === 'devices' && id === device.id;
}

/** A device at some openings as it stands by what it goes by, built once a position. */
export function positionedPiece(
  device: Pick<Device, 'make' | 'along'>,
  places: readonly DevicePlace[],
): (by: MovedBy | null) => Piece {
  const { make } = device;
  const stations = deviceStations(device, places);
  const built = new Map<string, Piece>();
  return (by) => {
    const positions = stations.map(({ face }) => positionNow(make, face, by));
    const key = positions.join();
    let piece = built.get(key);
    if (!piece) built.set(key, (piece = solidAt(make, stations, positions)));
    return piece;
  };
}
