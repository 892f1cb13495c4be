import { wallName } from '../form';
import { bounds, dot, type Point3 } from '../geometry';
import type { Device } from '../project';
import type { OpeningBox } from './device-boxes';
import type { DevicePlace } from './device-place';

/** Where a device is built: at an opening, or once along what it runs along. */
export interface DeviceStation {
  face: DevicePlace['face'];
  box: OpeningBox;
}

/** The stations of a device that hangs on some openings. */
export function deviceStations(
  { along = 'opening' }: Pick<Device, 'along'>,
  places: readonly DevicePlace[],
): DeviceStation[] {
  if (along === 'opening') return places.map(({ face, box }) => ({ face, box }));
  const runs = groupsOf(places, ({ owner, face }) =>
    along === 'storey' ? face.key : (wallName(owner.id, face.host) ?? face.key),
  );
  return [...runs.values()].map(runAlong);
}

function groupsOf(places: readonly DevicePlace[], nameOf: (place: DevicePlace) => string) {
  const groups = new Map<string, DevicePlace[]>();
  for (const place of places) {
    const name = `${place.owner.id}/${nameOf(place)}`;
    const group = groups.get(name);
    if (group) group.push(place);
    else groups.set(name, [place]);
  }
  return groups;
}

/** One station over all openings of a face, or of the faces of a wall: from one end of it to the other. */
function runAlong(places: readonly DevicePlace[]): DeviceStation {
  const { face } = places.reduce((low, one) => (one.face.origin[2] < low.face.origin[2] ? one : low));
  const { origin, u, v } = face;
  const whole: OpeningBox = { u0: Infinity, v0: Infinity, u1: -Infinity, v1: -Infinity, revealM: Infinity };
  for (const { face: own, box } of places) {
    const off = own.origin.map((value, k) => value - origin[k]!) as unknown as Point3;
    const [du, dv] = [dot(off, u), dot(off, v)];
    const ends = bounds(own.outline);
    whole.u0 = Math.min(whole.u0, du + ends.minX);
    whole.u1 = Math.max(whole.u1, du + ends.maxX);
    whole.v0 = Math.min(whole.v0, dv + box.v0);
    whole.v1 = Math.max(whole.v1, dv + box.v1);
    whole.revealM = Math.min(whole.revealM, box.revealM);
  }
  return { face, box: whole };
}
