import { InputError } from '../errors';
import {
  type Area,
  type CriteriaSet,
  type Envelope,
  type Glazing,
  type HourSet,
  type MomentSet,
  type Neighbour,
  type Option,
  type Place,
  type Probe,
  type Project,
  type Site,
  type Study,
  type Target,
  TODAY,
  type Underlay,
  type Viewpoint,
} from '../project';

/** Every edit takes a document and gives a new one; what did not change is shared. */
export type Edit = (project: Project) => Project;

type Listed = {
  areas: Area;
  glazings: Glazing;
  neighbours: Neighbour;
  targets: Target;
  studies: Study;
  probes: Probe;
  options: Option;
  viewpoints: Viewpoint;
  momentSets: MomentSet;
  hourSets: HourSet;
  envelopes: Envelope;
  criteria: CriteriaSet;
  underlays: Underlay;
};

/** Rename the project, change its note or its units. */
export const editProject =
  (change: Partial<Pick<Project, 'name' | 'note' | 'units'>>): Edit =>
  (project) => ({ ...project, ...change });

/** Change where the site is; the place stays or becomes unconfirmed unless the change confirms it. */
export const editPlace =
  (change: Partial<Place>): Edit =>
  (project) =>
    withSite(project, 'place', { confirmed: false, ...change });

/** Turn true north, or confirm it. */
export const editNorth =
  (change: Partial<Site['north']>): Edit =>
  (project) =>
    withSite(project, 'north', { confirmed: false, ...change });

/** With fields of a part of the site changed; the same project where they are as they were. */
function withSite<K extends 'place' | 'north'>(project: Project, part: K, fields: Partial<Site[K]>): Project {
  const was = project.site[part];
  const keys = Object.keys(fields) as (keyof Site[K])[];
  if (keys.every((key) => fields[key] === was[key])) return project;
  return { ...project, site: { ...project.site, [part]: { ...was, ...fields } } };
}

/** Change the year, the ground, the boundary, the weather, or what is thrown back. */
export const editSite =
  (change: Partial<Omit<Site, 'place' | 'north'>>): Edit =>
  (project) => ({ ...project, site: { ...project.site, ...change } });

/** Put a new thing at the end of its list. */
export const add =
  <K extends keyof Listed>(list: K, item: Listed[K]): Edit =>
  (project) => ({ ...project, [list]: [...project[list], item] });

/** Change fields of one thing in a list. */
export const change =
  <K extends keyof Listed>(list: K, id: string, fields: Partial<Listed[K]>): Edit =>
  (project) => ({
    ...project,
    [list]: (project[list] as Listed[K][]).map((item) => (item.id === id ? { ...item, ...fields } : item)),
  });

/** Remove one thing from a list. Targets leave the studies that use them; Today cannot be removed. */
export const remove =
  <K extends keyof Listed>(list: K, id: string): Edit =>
  (project) => {
    if (list === 'options' && id === TODAY)
      throw new InputError('today', 'Today cannot be removed; it is what every option is compared with.');
    const rest = (project[list] as { id: string }[]).filter((item) => item.id !== id);
    const studies = project.studies.map((study) => ({
      ...study,
      targets: study.targets.filter((target) => target !== id),
    }));
    return list === 'targets'
      ? { ...project, studies, targets: rest as Target[] }
      : { ...project, [list]: rest };
  };
