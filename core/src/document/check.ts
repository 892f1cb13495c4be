import type { z } from 'zod';
import { InputError } from '../errors';
import { footprintProblem, roofProblem, storeyProblem } from '../form';
import {
  type FileMesh,
  type MassShape,
  MAX_MASSES,
  MAX_NEIGHBOURS,
  meshesNamed,
  migrate,
  picturesNamed,
  type Project,
  projectFileSchema,
  projectSchema,
} from '../project';
import { budgetProblem, firstItems } from './budget';
import { withChanges } from './changes';
import { danglingReferences } from './references';

type Path = (string | number)[];

const NOUNS: Record<string, string> = {
  neighbours: 'neighbour',
  options: 'option',
  masses: 'mass',
  models: 'model',
  targets: 'target',
  studies: 'study',
  probes: 'probe',
  viewpoints: 'viewpoint',
  momentSets: 'moment set',
  hourSets: 'set of hours',
  envelopes: 'envelope',
  sources: 'file brought in',
  underlays: 'picture on the ground',
  criteria: 'set of criteria',
  storeys: 'storey',
  holes: 'court',
  openings: 'opening',
  rules: 'rule',
  neighbourRules: 'rule for neighbours',
  rooms: 'room',
  partitions: 'partition',
  furniture: 'piece of furniture',
  areas: 'area',
  glazings: 'glazing',
};

/** Where in a document a path leads, in words: `Option “B Court”, mass “Wing”, storey 2`. */
export function describePath(document: unknown, path: readonly PropertyKey[]): string {
  const words: string[] = [];
  let value: unknown = document;
  for (let i = 0; i < path.length; i++) {
    const key = path[i]!;
    value =
      typeof value === 'object' && value !== null ? (value as Record<PropertyKey, unknown>)[key] : undefined;
    const noun = NOUNS[String(path[i - 1])];
    if (typeof key !== 'number' || !noun) continue;
    const named = (value as { name?: unknown } | undefined)?.name;
    words.push(typeof named === 'string' && named.trim() ? `${noun} “${named}”` : `${noun} ${key + 1}`);
  }
  const text = words.join(', ');
  return text && text[0]!.toUpperCase() + text.slice(1);
}

function sentences(document: unknown, error: z.ZodError): string[] {
  return error.issues.slice(0, MAX_FAULTS).map((issue) => {
    if (issue.code === 'unrecognized_keys') return unknownKeys(document, issue.path, issue.keys);
    const known = issue.code === 'custom' || !/^Invalid|^Too|^Unrecognized/.test(issue.message);
    const last = issue.path.filter((key) => typeof key === 'string').at(-1);
    const message = known
      ? issue.message
      : `“${String(last ?? 'the document')}” is missing or not of the right kind.`;
    return sentence(document, issue.path, message);
  });
}

/** Keys that the format does not have are refused: what they were meant to say would be lost. */
function unknownKeys(document: unknown, path: readonly PropertyKey[], keys: readonly string[]): string {
  const numbered = path.findLastIndex((key) => typeof key === 'number');
  const inside = path.slice(numbered + 1).map(String);
  const named = keys.slice(0, MAX_KEYS).map((key) => `“${[...inside, key.slice(0, MAX_KEY)].join('.')}”`);
  const more = keys.length > MAX_KEYS ? ` and ${keys.length - MAX_KEYS} more` : '';
  const what = keys.length === 1 ? 'is not a key' : 'are not keys';
  const message = `${named.join(', ')}${more} ${what} of this version of the project file; correct the name, or take it out.`;
  return sentence(document, path.slice(0, numbered + 1), message);
}

/** Unknown keys that are named in one sentence, and letters of each. */
const MAX_KEYS = 5;
const MAX_KEY = 60;

function sentence(document: unknown, path: readonly PropertyKey[], message: string): string {
  const where = describePath(document, path);
  return where ? `${where}: ${message}` : message;
}

/** Faults that are listed before the rest is only counted on. */
const MAX_FAULTS = 100;

/**
 * The document in the current version, or what is wrong with it, one sentence each: at most a hundred, so that a file of
 * nothing but faults costs no more. Throws InputError for one of another kind or a newer version.
 */
function checked<T extends Project>(
  raw: unknown,
  schema: z.ZodType<T>,
): { document: T } | { faults: string[] } {
  const over = budgetProblem(raw);
  if (over) return { faults: [over] };
  const parsed = structured(migrate(raw), schema);
  if ('faults' in parsed) return parsed;
  const { document } = parsed;
  const faults = said([...shapeProblems(document), ...danglingReferences(document)], document);
  return faults.length ? { faults } : parsed;
}

/** A document, or a part of one, by its schema alone. */
function structured<T>(document: unknown, schema: z.ZodType<T>): { document: T } | { faults: string[] } {
  // Most faulty files have faults everywhere: a few items of each long list tell, and the rest need not be looked at.
  const first = firstItems(document);
  if (first !== document) {
    const some = schema.safeParse(first);
    const faults = some.success ? [] : sentences(document, some.error);
    if (faults.length) return { faults };
  }
  return parsedWhole(document, schema);
}

function parsedWhole<T>(document: unknown, schema: z.ZodType<T>): { document: T } | { faults: string[] } {
  try {
    const parsed = schema.safeParse(document);
    return parsed.success ? { document: parsed.data } : { faults: sentences(document, parsed.error) };
  } catch (error) {
    if (error instanceof RangeError) return { faults: ['The document has more faults than can be listed.'] };
    throw error;
  }
}

/** The problems of a document, one sentence each, at most a hundred; empty when it is sound. Never throws. */
export function problems(raw: unknown, schema: z.ZodType<Project> = projectSchema): string[] {
  return faultsOf(() => checked(raw, schema));
}

function faultsOf(check: () => { document: unknown } | { faults: string[] }): string[] {
  try {
    const found = check();
    return 'faults' in found ? found.faults : [];
  } catch (error) {
    if (error instanceof InputError) return [...error.problems];
    throw error;
  }
}

/**
 * The problems of a document that came about by an edit of a sound one: like `problems`, but neighbours and masses that
 * are the very same objects as before are not looked into again, only whether what names what still fits.
 */
export function editProblems(before: Project, after: Project): string[] {
  return faultsOf(() => editedDocument(before, after));
}

/**
 * A sound document with changes made to it (see `documentChanges`), sound and whole again; what did not change of its
 * neighbours and masses is the same object as before. Throws InputError `changes` where they are not of this document,
 * `project` with every problem.
 */
export function changedProject(before: Project, changes: unknown): Project {
  const over = budgetProblem(changes);
  return soundOr(over ? { faults: [over] } : editedDocument(before, withChanges(before, changes)));
}

/**
 * A document that came about by an edit of a sound one, checked as far as it is not the same objects as before: only the parts
 * of it that changed, of neighbours and masses only those that did, and the weather only where it did.
 */
function editedDocument(before: Project, raw: unknown): { document: Project } | { faults: string[] } {
  const after = raw as Project;
  const isLaidOut =
    Array.isArray(after.neighbours) &&
    Array.isArray(after.options) &&
    after.options.every((option) => Array.isArray(option?.masses));
  if (
    !isLaidOut ||
    after.format !== before.format ||
    after.version !== before.version ||
    after.options.some(({ masses }) => masses.length > MAX_MASSES) ||
    after.neighbours.length > MAX_NEIGHBOURS
  )
    return checked(raw, projectSchema);
  const sound = new Set<object>(before.neighbours);
  for (const option of before.options) for (const mass of option.masses) sound.add(mass);
  const isNew = (part: object) => !sound.has(part);
  const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])] as (keyof Project)[];
  const changedKeys = keys.filter((key) => before[key] !== after[key]);
  const changed: Record<string, unknown> = Object.fromEntries(changedKeys.map((key) => [key, after[key]]));
  if (changed.neighbours) changed.neighbours = after.neighbours.filter(isNew);
  if (changed.options)
    changed.options = after.options.map((option) => ({ ...option, masses: option.masses.filter(isNew) }));
  const { weather } = before.site;
  const isSameWeather = weather !== null && after.site?.weather === weather;
  if (changed.site && isSameWeather) changed.site = { ...after.site, weather: null };
  const known = changedKeys.filter((key) => key in projectSchema.shape);
  const picked = Object.fromEntries(known.map((key) => [key, true])) as { [K in keyof Project]?: true };
  const found = structured(changed, projectSchema.pick(picked));
  if ('faults' in found) return found;
  const parts = found.document as Partial<Project>;
  const whole = <T extends object>(all: readonly T[], looked: readonly T[]) => {
    const next = looked.values();
    return all.map((part) => (isNew(part) ? next.next().value! : part));
  };
  const document: Project = { ...before, ...parts };
  if (parts.neighbours) document.neighbours = whole(after.neighbours, parts.neighbours);
  if (parts.options)
    document.options = parts.options.map((option, i) => ({
      ...option,
      masses: whole(after.options[i]!.masses, option.masses),
    }));
  if (parts.site && isSameWeather) document.site = { ...parts.site, weather };
  const faults = said([...shapeProblems(document, isNew), ...danglingReferences(document)], document);
  return faults.length ? { faults } : { document };
}

/** A checked document of the current version. Throws InputError `project` with every problem. */
export function parseProject(raw: unknown): Project {
  return parse(raw, projectSchema);
}

/** A checked project file: the document, its meshes and its pictures (base64) by content hash. Throws InputError `project`. */
export function parseProjectFile(raw: unknown): {
  project: Project;
  meshes: Record<string, FileMesh>;
  pictures: Record<string, string>;
} {
  const { meshes = {}, pictures = {}, ...project } = parse(raw, projectFileSchema);
  const missing = (what: string, named: ReadonlyMap<string, string>, held: object) =>
    [...named].flatMap(([hash, name]) =>
      hash in held ? [] : [`The ${what} of “${name}” is not in the file.`],
    );
  const faults = [
    ...missing('mesh', meshesNamed(project), meshes),
    ...missing('picture', picturesNamed(project), pictures),
  ];
  if (faults.length) throw new InputError('project', faults[0]!, faults);
  return { project, meshes, pictures };
}

function parse<T extends Project>(raw: unknown, schema: z.ZodType<T>): T {
  return soundOr(checked(raw, schema));
}

function soundOr<T>(found: { document: T } | { faults: string[] }): T {
  if ('document' in found) return found.document;
  const { faults } = found;
  const more = faults.length > 1 ? ` (and ${faults.length - 1} more)` : '';
  throw new InputError('project', faults[0]! + more, faults);
}

interface Fault {
  path: Path;
  message: string;
}

/** Shapes of a document that cannot be built. */
function shapeProblems(project: Project, isLookedAt: (part: object) => boolean = () => true): Fault[] {
  const found: Fault[] = [];
  const look = (shape: MassShape, path: Path) => {
    if (!isLookedAt(shape)) return;
    const message = footprintProblem(shape.footprint) ?? storeyProblem(shape) ?? roofProblem(shape);
    if (message) found.push({ path, message });
  };
  project.neighbours.forEach((neighbour, i) => {
    if (neighbour.kind === 'building') look(neighbour, ['neighbours', i]);
  });
  project.options.forEach((option, i) =>
    option.masses.forEach((mass, k) => look(mass, ['options', i, 'masses', k])),
  );
  return found;
}

/** The first of these faults as sentences. */
function said(faults: readonly Fault[], document: unknown): string[] {
  return faults.slice(0, MAX_FAULTS).map(({ path, message }) => sentence(document, path, message));
}
