import type { Place, Project } from '../../project';
import type { ModelFile } from '../model-file';

/** The time zone at a place; throws off the map of zones. */
export type ZoneAt = (latitudeDeg: number, longitudeDeg: number) => string;

/** The project at the place and with the true north that a file states, as far as it does; both to be confirmed. */
export function siteTaken(project: Project, model: ModelFile): Project {
  const { site } = project;
  const place = model.site && {
    ...site.place,
    latitudeDeg: model.site.latitudeDeg,
    longitudeDeg: model.site.longitudeDeg,
    elevationM: model.site.elevationM ?? site.place.elevationM,
    confirmed: false,
  };
  const north = model.trueNorthDeg === null ? null : { trueNorthDeg: model.trueNorthDeg, confirmed: false };
  if (!place && !north) return project;
  return { ...project, site: { ...site, ...(place && { place }), ...(north && { north }) } };
}

/** The project with the time zone of its place, where that is another than it was and the map of zones knows one. */
export function zoneTaken(
  project: Project,
  was: Place,
  zoneAt: ZoneAt,
): { project: Project; notes: string[] } {
  const { site } = project;
  const { latitudeDeg, longitudeDeg, zone } = site.place;
  if (latitudeDeg === was.latitudeDeg && longitudeDeg === was.longitudeDeg) return { project, notes: [] };
  let found: string;
  try {
    found = zoneAt(latitudeDeg, longitudeDeg);
  } catch {
    return { project, notes: [`There is no time zone on the map there; it is still ${zone}.`] };
  }
  if (found === zone) return { project, notes: [] };
  return {
    project: { ...project, site: { ...site, place: { ...site.place, zone: found } } },
    notes: [`The time zone there is ${found}.`],
  };
}
