import type { MeshStore } from '../geometry';
import type { Device, Project } from '../project';
import type { DevicePlace } from './device-place';
import { glazedPlaces } from './device-places';

type Named = NonNullable<Device['openings']>;

/**
 * The project after rules of openings changed, with the openings that devices name one by one found again: rules number
 * what they make along the wall, so after another bay count the same number is another place. Each goes to the opening of
 * its wall and storey whose middle lies nearest, within its own width; what has none there is named no longer.
 */
export function withOpeningsKept(
  before: Project,
  after: Project,
  optionId: string,
  meshes: MeshStore,
): Project {
  const option = after.options.find(({ id }) => id === optionId);
  const named = option?.schemes.some(({ devices }) =>
    devices.some(({ openings, except }) => openings !== null || (except?.length ?? 0) > 0),
  );
  if (!option || !named) return after;
  const placesIn = (project: Project) =>
    glazedPlaces(project, optionId, meshes).flatMap((body) => body.places);
  const [old, now] = [placesIn(before), placesIn(after)];
  const kept = (list: Named): Named => {
    const found = list.flatMap((one) => {
      const was = old.find(({ owner, opening }) => owner.id === one.owner && opening.id === one.opening);
      if (!was) return [one];
      const nearest = nearestTo(was, now);
      return nearest ? [{ owner: nearest.owner.id, opening: nearest.opening.id }] : [];
    });
    return found.filter(
      ({ owner, opening }, i) => found.findIndex((o) => o.owner === owner && o.opening === opening) === i,
    );
  };
  const schemes = option.schemes.map((scheme) => ({
    ...scheme,
    devices: scheme.devices.map((device) => ({
      ...device,
      openings: device.openings && kept(device.openings),
      ...(device.except && { except: kept(device.except) }),
    })),
  }));
  return { ...after, options: after.options.map((one) => (one === option ? { ...option, schemes } : one)) };
}

/** The opening of the same wall and storey whose middle lies nearest, within the width of the one that was. */
function nearestTo({ owner, face, box }: DevicePlace, now: readonly DevicePlace[]): DevicePlace | null {
  const middle = ({ box: b }: DevicePlace) => [(b.u0 + b.u1) / 2, (b.v0 + b.v1) / 2] as const;
  const [u, v] = [(box.u0 + box.u1) / 2, (box.v0 + box.v1) / 2];
  let [best, least]: [DevicePlace | null, number] = [null, Math.max(box.u1 - box.u0, 0.5)];
  for (const place of now) {
    if (place.owner.id !== owner.id || place.face.key !== face.key) continue;
    const [pu, pv] = middle(place);
    const off = Math.hypot(pu - u, pv - v);
    if (off <= least) [best, least] = [place, off];
  }
  return best;
}
