import type { Becomes, Project, Source } from '../../../project';
import type { ModelFile, ModelFootprint } from '../../model-file';
import { modelRows, type ModelRow, type OutlinesBy } from '../../model-rows';

/** Properties under which ids of outlines are kept; compared without case. */
const IDS = ['id', '@id', 'osm_id', 'gml_id', 'uuid', 'fid', 'objectid', 'egid', 'identifier'];

/** How parts of a file are named over time: outlines by ids of their own where each has one, else by their names. */
export function outlineParts({
  footprints,
}: Pick<ModelFile, 'footprints'>): (footprint: ModelFootprint) => string {
  const keys = Object.keys(footprints[0]?.properties ?? {});
  const key = IDS.flatMap((name) => keys.find((one) => one.toLowerCase() === name) ?? []).find(
    (one) =>
      new Set(footprints.map(({ properties }) => properties[one])).size === footprints.length &&
      footprints.every(({ properties }) => properties[one] !== undefined),
  );
  return ({ name, properties }) =>
    key === undefined ? `name:${name}` : `id:${String(properties[key]).slice(0, 190)}`;
}

/** Names of all parts that a file can bring in one by one. */
function partsOf(model: ModelFile): Set<string> {
  const outline = outlineParts(model);
  return new Set([
    ...model.footprints.map(outline),
    ...model.groups.map(({ name }) => `name:${name}`),
    ...modelRows(model).map(({ name }) => `name:${name}`),
  ]);
}

/** So large a share of what a file brought in is in another, and at least so many, for it to be the same under a new name. */
const SHARE = 0.5;
const FEW = 3;

/** The file that was brought in before and is here again, by its name or by most of its ids; null for a new one. */
export function sourceOf(project: Project, model: ModelFile, file: string, hash: string): Source | null {
  const same = [...project.sources].reverse();
  const byName = same.find((source) => source.hash === hash) ?? same.find((source) => source.file === file);
  if (byName) return byName;
  const parts = partsOf(model);
  return (
    same.find(({ parts: all }) => {
      const known = all.filter(({ part }) => part.startsWith('id:'));
      const here = known.filter(({ part }) => parts.has(part)).length;
      return here >= FEW && here >= known.length * SHARE;
    }) ?? null
  );
}

/** How what a row becomes is remembered: groups by their names, since their numbers change from file to file. */
export const rememberedAs = ({ key, name }: Pick<ModelRow, 'key' | 'name'>): string =>
  (/^group:\d+$/.test(key) ? `part:${name}` : key).slice(0, 200);

/**
 * What each row of a file becomes as it was decided before: for this file, else for the last that had such a layer, kind or
 * part. Rows that nothing is known of are left out.
 */
export function rememberedBecomes(
  project: Project,
  rows: readonly ModelRow[],
  source: Source | null,
): Record<string, Becomes> {
  const files = [...(source ? [source] : []), ...[...project.sources].reverse()];
  return Object.fromEntries(
    rows.flatMap((row) => {
      const found = files.map(({ becomes }) => becomes[rememberedAs(row)]).find((one) => one !== undefined);
      return found !== undefined && row.may.includes(found) ? [[row.key, found]] : [];
    }),
  );
}

/** What was decided about the rows of a file, to be remembered. */
export function decidedBecomes(
  model: ModelFile,
  becomes: (row: ModelRow) => Becomes,
  by: OutlinesBy | undefined,
): Record<string, Becomes> {
  return Object.fromEntries(modelRows(model, by).map((row) => [rememberedAs(row), becomes(row)]));
}
