import { NO_COMPARISON } from './comparison';
import { InputError } from '../errors';
import { DEFAULT_CRITERIA } from './criteria';
import { DEFAULT_GLAZINGS } from './glazings';
import { DEFAULT_DRAWING } from './drawing';
import { DEFAULT_REFLECTANCES } from './reflectances';

/** The version that this program writes. */
export const CURRENT_VERSION = 10;

type Raw = Record<string, unknown>;

/** Step `n` turns a document of version n into one of version n + 1. */
const migrations: Record<number, (document: Raw) => Raw> = {
  // Version 2 added glazing types, areas, rules for neighbours; everything else that is new has a default.
  1: (document) => ({
    ...document,
    glazings: DEFAULT_GLAZINGS,
    areas: [],
    neighbourRules: [],
  }),
  // Version 3 gave edges of footprints lasting numbers; those of earlier footprints are numbered as they run, which is
  // what a footprint without numbers says.
  2: (document) => document,
  // Version 4 added sets of moments, and ways of looking other than from outside, each with how it is drawn.
  3: (document) => ({
    ...document,
    viewpoints: Array.isArray(document.viewpoints)
      ? document.viewpoints.map(viewpointOf3)
      : document.viewpoints,
    momentSets: [],
  }),
  // Version 5 has several kinds of study; thresholds and scales are in the unit of what is measured.
  4: (document) => ({
    ...document,
    studies: Array.isArray(document.studies) ? document.studies.map(studyOf4) : document.studies,
  }),
  // Version 6 added sets of criteria and of hours; weather, albedo, further windows of time and panes of glazings have defaults.
  5: (document) => ({
    ...document,
    criteria: DEFAULT_CRITERIA,
    hourSets: [],
    glazings: Array.isArray(document.glazings) ? document.glazings.map(glazingOf5) : document.glazings,
  }),
  // Version 7 refuses what it does not know. Version 6 had grown without a number of its own: sets of hours, schemes of devices,
  // envelopes, the comparison, the survey came to it one after the other, and a file may be from before any of them.
  6: (document) => ({
    hourSets: [],
    ...document,
    site: isObject(document.site)
      ? { survey: null, albedo: 0.2, weather: null, ...document.site }
      : document.site,
    options: Array.isArray(document.options) ? document.options.map(optionOf6) : document.options,
    envelopes: Array.isArray(document.envelopes) ? document.envelopes.map(envelopeOf6) : [],
    comparison: isObject(document.comparison) ? { ...NO_COMPARISON, ...document.comparison } : NO_COMPARISON,
  }),
  // Version 8 says how light that is thrown back is taken, what surfaces throw back, and what sheets inside do to the g-value.
  7: (document) => ({
    ...document,
    site: isObject(document.site)
      ? { ...document.site, thrownBack: 'traced', reflectances: DEFAULT_REFLECTANCES }
      : document.site,
  }),
  // Version 9 remembers files that were brought in.
  8: (document) => ({ ...document, sources: [] }),
  // Version 10 has pictures on the ground.
  9: (document) => ({ ...document, underlays: [] }),
};

const isObject = (value: unknown): value is Raw => typeof value === 'object' && value !== null;

const optionOf6 = (option: unknown) => (isObject(option) ? { schemes: [], scheme: null, ...option } : option);

/** What an envelope keeps was by the clock before it could be by the sun. */
function envelopeOf6(envelope: unknown): unknown {
  if (!isObject(envelope) || !Array.isArray(envelope.keep)) return envelope;
  return {
    ...envelope,
    keep: envelope.keep.map((one) => (isObject(one) ? { basis: 'clock', ...one } : one)),
  };
}

/** The types of before that a new project had keep the panes that their names say. */
function glazingOf5(glazing: unknown): unknown {
  if (!isObject(glazing)) return glazing;
  const known = DEFAULT_GLAZINGS.find(({ id }) => id === glazing.id);
  return { panes: known?.panes ?? 2, categoryQ: known?.categoryQ ?? 4, ...glazing };
}

function studyOf4(study: unknown): unknown {
  if (!isObject(study)) return study;
  const { criterion, scale } = study;
  const changed = { ...study };
  if (isObject(criterion)) {
    const { atLeastH, ...rest } = criterion;
    changed.criterion = { atLeast: atLeastH, ...rest };
  }
  if (isObject(scale)) changed.scale = { min: scale.minH, max: scale.maxH };
  return changed;
}

function viewpointOf3(viewpoint: unknown): unknown {
  if (typeof viewpoint !== 'object' || viewpoint === null) return viewpoint;
  const { id, name, ...camera } = viewpoint as Raw;
  return { id, name, camera: { kind: 'orbit', ...camera }, drawing: DEFAULT_DRAWING };
}

/**
 * A document of any earlier version brought to the current one, unchecked.
 * Throws InputError `version` when it is no project or comes from a later version.
 */
export function migrate(raw: unknown, steps = migrations, current = CURRENT_VERSION): unknown {
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
    throw new InputError(
      'project',
      'This is not a Dial Shade project file: it does not hold one JSON object.',
    );
  let document = raw as Raw;
  if (document.format !== 'dial-shade-project')
    throw new InputError(
      'project',
      'This is not a Dial Shade project file: its “format” is not “dial-shade-project”.',
    );
  if (typeof document.version !== 'number' || !Number.isInteger(document.version) || document.version < 1)
    throw new InputError(
      'version',
      'The project file names no version; “version” must be a whole number from 1.',
    );
  if (document.version > current)
    throw new InputError(
      'version',
      `The project file is of version ${document.version}, this program reads up to ${current}; update the program.`,
    );
  for (let version = document.version; version < current; version++) {
    const step = steps[version];
    if (!step)
      throw new InputError('version', `Version ${version} of the project file can no longer be read.`);
    document = { ...step(document), version: version + 1 };
  }
  return document;
}
