import {
  canMove,
  type DevicePlace,
  deviceStations,
  glazedPlaces,
  type MovedBy,
  placesBeside,
  standingScheme,
} from '../devices';
import { dot, type MeshStore, type Point3, type Polygon, polygonsArea, unitePolygons } from '../geometry';
import type { Device, DeviceMake, Project } from '../project';
import { assembleScene, deviceAreaM2, refuseTooLarge, type Scene } from '../scene';
import { sunPosition, sunVector } from '../sun';
import { castersOf, castShade, type FlatReceiver, type PassingCasters, passingCastersOf } from './cast';
import { paneOf } from './glass-sun';
import { type FreeRange, leastMake } from './least-size';
import { litThrough } from './lit-through';
import { isOf, movedBy, MovingScene, positionedPiece } from './moving-scene';

/** A moment that counts with a weight: hours, or kWh on a square metre of the glass. */
export interface WeighedMoment {
  atMs: number;
  weight: number;
}

/** A moment at which the sun is before the glass, with the shade that falls on it without the device in question. */
interface Seen extends WeighedMoment {
  sun: Point3;
  /** What the device goes by where it moves. */
  by: MovedBy | null;
  shade: Polygon[];
  /** Screens of other devices. */
  screens: PassingCasters[];
  /** Share of the glass that lies in shade without the device. */
  bare: number;
}

/** How much of the glass is in shade over moments. */
export interface ShadeReading {
  /** Weighed mean of the share in shade, and without the device; of moments with the sun before the glass. */
  shaded: number;
  bare: number;
  /** The moment with the least shade, and its share. */
  least: { atMs: number; share: number } | null;
}

/**
 * The glass of one window over many moments, exact, while one device of its scheme changes: what everything else throws on
 * it is worked out once for each moment.
 */
export class WindowShade {
  readonly areaM2: number;
  private readonly pane: FlatReceiver;
  private readonly seen: Seen[] = [];
  /** The openings in the same wall that the device hangs on: what hangs at the next window shades too. */
  private readonly beside: DevicePlace[];

  /** @param device the one that changes; what else of the scheme stands stays */
  constructor(
    project: Project,
    optionId: string,
    meshes: MeshStore,
    private readonly place: DevicePlace,
    private readonly device: Device,
    moments: readonly WeighedMoment[],
    scene: Scene = assembleScene(project, optionId, meshes),
  ) {
    refuseTooLarge(project, optionId, meshes);
    const { place: where, north, ground } = project.site;
    this.pane = paneOf(place);
    this.areaM2 = polygonsArea(this.pane.regions);
    const bodies = glazedPlaces(project, optionId, meshes);
    this.beside = placesBeside(device, place, bodies, north.trueNorthDeg);
    const first = ground.kind === 'terrain' ? 0 : 1;
    const moving = new MovingScene(project, optionId, meshes, scene);
    for (const { atMs, weight } of moments) {
      const { altitudeDeg, azimuthDeg } = sunPosition(atMs, where);
      if (altitudeDeg <= 0 || weight <= 0) continue;
      const sun = sunVector(altitudeDeg, azimuthDeg, north.trueNorthDeg);
      if (dot(sun, scene.ground.normal) <= 0 || dot(this.pane.normal, sun) <= 1e-9) continue;
      const now = moving.at(atMs);
      const stays = now.pieces.filter((_, i) => i >= first && !isOf(now.owners[i]!, device));
      const screened = now.pieces.filter(
        (_, i) => now.owners[i]!.layer === 'devices' && !isOf(now.owners[i]!, device),
      );
      const shade = castShade(this.pane, castersOf(stays, sun));
      const screens = passingCastersOf(screened, sun, 0);
      const bare = 1 - litThrough(this.pane, shade, screens) / this.areaM2;
      const by = canMove(device.make) ? movedBy(project, atMs) : null;
      this.seen.push({ atMs, weight, sun, shade, screens, bare, by });
    }
  }

  /** Moments with the sun before the glass. */
  get moments(): number {
    return this.seen.length;
  }

  /** What all moments with the sun before the glass weigh together, over its area: kWh where they weigh kWh/m². */
  get whole(): number {
    return this.areaM2 * this.seen.reduce((sum, { weight }) => sum + weight, 0);
  }

  /** How much there is of the device at this window, m². */
  areaOf(make: DeviceMake): number {
    return deviceAreaM2(make, deviceStations(this.device, [this.place]));
  }

  /** The shade with the device as it is asked for; without it where null. */
  read(make: DeviceMake | null): ShadeReading {
    const pieceAt = make && positionedPiece({ ...this.device, make }, this.beside);
    let [sum, bareSum, weights] = [0, 0, 0];
    let least: ShadeReading['least'] = null;
    for (const { atMs, weight, sun, shade, screens, bare, by } of this.seen) {
      let share = bare;
      if (pieceAt && bare < 1 - 1e-9) {
        const piece = pieceAt(by);
        const own = castShade(this.pane, castersOf([piece], sun));
        const both =
          shade.length > 0 && own.length > 0 ? unitePolygons([...shade, ...own]) : [...shade, ...own];
        const all = [...screens, ...passingCastersOf([piece], sun, 0)];
        share = 1 - litThrough(this.pane, both, all) / this.areaM2;
      }
      share = Math.min(1, share);
      sum += weight * share;
      bareSum += weight * bare;
      weights += weight;
      if (!least || share < least.share) least = { atMs, share };
    }
    return { shaded: weights > 0 ? sum / weights : 1, bare: weights > 0 ? bareSum / weights : 1, least };
  }
}

/** What a device is to be sized for. */
export interface SizeAsked {
  /** Which of its numbers is free, and between what. */
  number: string;
  from: number;
  to: number;
  /** Share of the glass that is to be in shade, 0 to 1: over all moments together, or at each of them. */
  goal: number;
  each: boolean;
  /** Another number that is free too. */
  second?: SecondNumber | null;
}

/** A second number of a device that is free, and between what. */
export interface SecondNumber extends FreeRange {
  number: string;
}

/** The smallest device that does it, or the best that can be had. */
export interface Sized {
  /** The number found, to a millimetre; the one that shades most where none does it. */
  value: number;
  /** The second number, where two are free. */
  second: number | null;
  isMet: boolean;
  reading: ShadeReading;
}

/**
 * Finds the least value of a number of a device with which the glass is shaded as asked, by bisection on exact shade: with
 * depths, more never shades less. Of two numbers that are free, the two that do it with the least area of device at the
 * window. Where the greatest does not do it, what shades most, told as not met.
 */
export function sizeDevice(window: WindowShade, make: DeviceMake, asked: SizeAsked): Sized {
  const { goal, each } = asked;
  const goodness = (of: DeviceMake) => {
    const reading = window.read(of);
    return each ? (reading.least?.share ?? 1) : reading.shaded;
  };
  const found = leastMake(make, asked, goodness, goal - 1e-6, (of) => window.areaOf(of));
  return { value: found.value, second: found.second, isMet: found.isMet, reading: window.read(found.make) };
}

/** The device of the standing scheme with this name or id; null without. */
export function deviceNamed(project: Project, optionId: string, typed: string): Device | null {
  const devices = standingScheme(project, optionId)?.devices ?? [];
  return devices.find(({ id, name }) => id === typed || name.toLowerCase() === typed.toLowerCase()) ?? null;
}
