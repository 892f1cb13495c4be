import {
  type Candidate,
  type Device,
  type DeviceMake,
  DeviceSweep,
  type DevicePlace,
  glazedPlaces,
  type HourSet,
  InputError,
  type MaskStore,
  onFace,
  type Point3,
  shadeWorth,
  deviceStations,
  withoutDevice,
  type WorthMap,
  type WorthPlane,
} from '@dial-shade/core';
import { partsOf, windowsOf } from './glass-year-work';
import type { Asked } from './scene-now';

/** Sets of hours by id: those in which sun is not wanted, and those in which it is. */
export interface SetsAsked {
  unwanted: string;
  wanted: string | null;
}

/** Some candidates of a sweep, with what there is to be kept out and let in. */
export interface SweepPart {
  found: Omit<Candidate, 'make'>[];
  unwantedWhole: number;
  wantedWhole: number | null;
  unit: 'kWh' | 'h';
  /** Without the device. */
  without: Omit<Candidate, 'make'>;
  /** Rays for each device. */
  rays: number;
}

function setOf({ project }: Asked, id: string): HourSet {
  const set = project.hourSets.find((one) => one.id === id);
  if (!set) throw new InputError('hours', 'The set of hours is gone; choose another.');
  return set;
}

/** The sweep that was asked about last: its parts come one after another. */
let latest: { parts: unknown[]; about: string; sweep: DeviceSweep } | null = null;

function sweepOf(asked: Asked, key: string, device: Device, sets: SetsAsked, masks: MaskStore): DeviceSweep {
  const { project, optionId, meshes } = asked;
  const others = withoutDevice(project, optionId, device.id).options.find(({ id }) => id === optionId)!;
  const { make: _, ...hung } = device;
  const about = JSON.stringify([key, hung, sets, others.schemes.find(({ id }) => id === others.scheme)]);
  const parts = partsOf(asked);
  if (latest?.about === about && latest.parts.every((part, i) => part === parts[i])) return latest.sweep;
  const [place] = windowsOf(asked, key, 'window') as [DevicePlace];
  const sweep = new DeviceSweep({ project, optionId, meshes, masks }, place, device, {
    unwanted: setOf(asked, sets.unwanted),
    wanted: sets.wanted === null ? null : setOf(asked, sets.wanted),
  });
  latest = { parts, about, sweep };
  return sweep;
}

/** Tries some sizes of a device at a window. Throws InputError. */
export function sweepPart(
  asked: Asked,
  key: string,
  device: Device,
  sets: SetsAsked,
  makes: readonly DeviceMake[],
  masks: MaskStore,
): SweepPart {
  const sweep = sweepOf(asked, key, device, sets, masks);
  return {
    found: makes.map((make) => sweep.read(make)),
    unwantedWhole: sweep.unwantedWhole,
    wantedWhole: sweep.wantedWhole,
    unit: sweep.year.sky.hasWeather ? 'kWh' : 'h',
    without: sweep.without,
    rays: sweep.year.grid.count * sweep.year.sky.samples.count,
  };
}

/** A map of worth, and where it lies: the corner of its first cell, and a metre along it and out from the facade. */
export interface WorthFound {
  map: WorthMap;
  origin: Point3;
  along: Point3;
  out: Point3;
}

/**
 * Where shade is worth having on a plane over one window, or over all that a device along its storey runs over.
 * @param without a device that is thought away, as its own underside asks
 */
export function worthOf(
  asked: Asked,
  key: string,
  along: Device['along'],
  plane: WorthPlane,
  sets: SetsAsked,
  without: string | null,
  masks: MaskStore,
): WorthFound {
  const { optionId, meshes } = asked;
  const project = without === null ? asked.project : withoutDevice(asked.project, optionId, without);
  const [one] = windowsOf(asked, key, 'window') as [DevicePlace];
  const places =
    along === 'storey'
      ? glazedPlaces(project, optionId, meshes)
          .flatMap((body) => body.places)
          .filter(({ owner, face }) => owner.id === one.owner.id && face.key === one.face.key)
      : [one];
  const map = shadeWorth({ project, optionId, meshes, masks }, places, along, plane, {
    unwanted: setOf(asked, sets.unwanted),
    wanted: sets.wanted === null ? null : setOf(asked, sets.wanted),
  });
  const { face, box } = deviceStations({ along }, places)[0]!;
  const tilt = (plane.tiltDeg * Math.PI) / 180;
  const at = (x: number, y: number): Point3 =>
    onFace(
      face,
      [(box.u0 + box.u1) / 2 + x, box.v1 + plane.aboveM - y * Math.sin(tilt)],
      -(plane.offM + y * Math.cos(tilt)),
    );
  const origin = at(map.x0, 0);
  const way = (p: Point3) => p.map((value, k) => value - origin[k]!) as unknown as Point3;
  return { map, origin, along: way(at(map.x0 + 1, 0)), out: way(at(map.x0, 1)) };
}
