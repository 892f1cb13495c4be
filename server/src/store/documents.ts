import { meshesNamed, picturesNamed, type Project } from '@dial-shade/core';

/** Stands in a stored document for its weather year, which is stored beside it: it is most of it, and changes seldom. */
const WEATHER_ASIDE = '"weather":"@beside"';

/** A document as it is stored: checked JSON text, and what is asked of it without unpacking it. */
export interface CheckedDocument {
  /** The document with its weather year taken out. */
  text: string;
  /** The weather year; null without one, undefined where it is the one that is stored already. */
  weather: string | null | undefined;
  name: string;
  place: string;
  options: number;
  /** Hashes of the meshes and pictures that it names. */
  blobs: string[];
}

/**
 * A sound project as it is stored.
 * @param before the document that is stored under the same id, of which it was made
 */
export function checkedDocument(project: Project, before?: Project): CheckedDocument {
  const { weather } = project.site;
  const kept = weather && { ...project, site: { ...project.site, weather: '@beside' } };
  return {
    text: JSON.stringify(kept ?? project),
    weather: before && before.site.weather === weather ? undefined : weather && JSON.stringify(weather),
    name: project.name,
    place: project.site.place.name,
    options: project.options.length,
    blobs: [...meshesNamed(project).keys(), ...picturesNamed(project).keys()],
  };
}

/** The text of a whole document from what is stored of it. */
export function wholeText(text: string, weather: string | null): string {
  // Within a text quotes are escaped, so this stands where the weather stood, and nowhere else.
  return weather === null ? text : text.replace(WEATHER_ASIDE, () => `"weather":${weather}`);
}
