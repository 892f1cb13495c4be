import {
  type Device,
  type DeviceHandle,
  deviceHandles,
  type DevicePlace,
  type DeviceStation,
  deviceStations,
  glazedPlaces,
  onFace,
  type Option,
  placesOfDevice,
  type Point3,
  type Project,
  standingScheme,
  TODAY,
  type MeshStore,
} from '@dial-shade/core';
import { shared } from '../state/shared-memo';
import { useGlass } from './glass-store';

/** The device that is worked on, where it stands at the window that is looked at, and what of it can be taken hold of. */
export interface DeviceInHand {
  option: Option;
  schemeId: string;
  device: Device;
  station: DeviceStation;
  handles: { handle: DeviceHandle; at: Point3; axis: Point3 }[];
}

/** The device of the standing scheme that is chosen, or its first. */
export function chosenDevice(project: Project, optionId: string, id: string | null): Device | null {
  const devices = standingScheme(project, optionId)?.devices ?? [];
  return devices.find((one) => one.id === id) ?? devices[0] ?? null;
}

/** The glazed openings that a device of an option hangs on. */
export function placesHung(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  device: Device,
): DevicePlace[] {
  const bodies = glazedPlaces(project, optionId, meshes);
  return placesOfDevice(device, bodies, project.site.north.trueNorthDeg);
}

/** The device in hand of an option; null where none hangs at a window. */
export function deviceInHand(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  { device: id, chosen }: { device: string | null; chosen: string | null } = useGlass.getState(),
): DeviceInHand | null {
  if (optionId === TODAY) return null;
  return shared('device in hand', [project, optionId, meshes, id, chosen], () => {
    const device = chosenDevice(project, optionId, id);
    const option = project.options.find((one) => one.id === optionId)!;
    if (!device) return null;
    const places = placesHung(project, optionId, meshes, device);
    const place = places.find(({ owner, opening }) => `${owner.id}/${opening.id}` === chosen) ?? places[0];
    if (!place) return null;
    const station = stationOf(device, places, place);
    const { face, box } = station;
    const handles = deviceHandles(device.make, box).map((handle) => {
      const [u, v, w] = handle.at;
      const [au, av, aw] = handle.axis;
      const axis = [0, 1, 2].map((k) => au * face.u[k]! + av * face.v[k]! + aw * face.normal[k]!);
      return { handle, at: onFace(face, [u, v], -w), axis: axis as unknown as Point3 };
    });
    return { option, schemeId: option.scheme!, device, station, handles };
  });
}

/** The station of a device that stands at one of its openings. */
function stationOf(
  device: Device,
  places: readonly DevicePlace[],
  { owner, face, box }: DevicePlace,
): DeviceStation {
  const along = device.along ?? 'opening';
  if (along === 'opening') return { face, box };
  const own = places.filter((place) => place.owner.id === owner.id);
  const stations = deviceStations(
    device,
    along === 'storey' ? own.filter((p) => p.face.key === face.key) : own,
  );
  return (
    stations.find((one) => one.face.normal.every((value, k) => Math.abs(value - face.normal[k]!) < 1e-9)) ??
    stations[0]!
  );
}
