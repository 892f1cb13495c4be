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
  type Project,
  projectFileSchema,
  projectSchema,
} from '../project';
import { budgetProblem, firstItems } from './budget';
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
    return said(document, issue.path, message);
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
  return said(document, path.slice(0, numbered + 1), message);
}

/** Unknown keys that are named in one sentence, and letters of each. */
const MAX_KEYS = 5;
const MAX_KEY = 60;

function said(document: unknown, path: readonly PropertyKey[], message: string): string {
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
  const document = migrate(raw);
  // Most faulty files have faults everywhere: a few items of each long list tell, and the rest need not be looked at.
  const first = firstItems(document);
  if (first !== document) {
    const some = schema.safeParse(first);
    const faults = some.success ? [] : sentences(document, some.error);
    if (faults.length) return { faults };
  }
  const parsed = parsedWhole(document, schema);
  if ('faults' in parsed) return parsed;
  const faults = soundnessProblems(parsed.document);
  return faults.length ? { faults } : parsed;
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
  try {
    const found = checked(raw, schema);
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
  const sound = new Set<object>(before.neighbours);
  for (const option of before.options) for (const mass of option.masses) sound.add(mass);
  const isNew = (part: object) => !sound.has(part);
  if (
    after.options.some(({ masses }) => masses.length > MAX_MASSES) ||
    after.neighbours.length > MAX_NEIGHBOURS
  )
    return problems(after);
  const changed = {
    ...after,
    neighbours: after.neighbours.filter(isNew),
    options: after.options.map((option) => ({ ...option, masses: option.masses.filter(isNew) })),
  };
  const found = problems(changed);
  if (found.length) return found;
  return danglingReferences(after).map(({ path, message }) => said(after, path, message));
}

/** A checked document of the current version. Throws InputError `project` with every problem. */
export function parseProject(raw: unknown): Project {
  return parse(raw, projectSchema);
}

/** A checked project file: the document and its meshes by content hash. Throws InputError `project`. */
export function parseProjectFile(raw: unknown): { project: Project; meshes: Record<string, FileMesh> } {
  const { meshes, ...project } = parse(raw, projectFileSchema);
  const missing = [...meshesNamed(project)].filter(([hash]) => !meshes?.[hash]);
  if (missing.length) {
    const faults = missing.map(([, name]) => `The mesh of “${name}” is not in the file.`);
    throw new InputError('project', faults[0]!, faults);
  }
  return { project, meshes: meshes ?? {} };
}

function parse<T extends Project>(raw: unknown, schema: z.ZodType<T>): T {
  const found = checked(raw, schema);
  if ('document' in found) return found.document;
  const { faults } = found;
  const more = faults.length > 1 ? ` (and ${faults.length - 1} more)` : '';
  throw new InputError('project', faults[0]! + more, faults);
}

/** What keeps a document of sound structure from standing: shapes that cannot be built, references that lead nowhere. */
function soundnessProblems(project: Project): string[] {
  const found: { path: Path; message: string }[] = [];
  const look = (shape: MassShape, path: Path) => {
    const message = footprintProblem(shape.footprint) ?? storeyProblem(shape) ?? roofProblem(shape);
    if (message) found.push({ path, message });
  };
  project.neighbours.forEach((neighbour, i) => {
    if (neighbour.kind === 'building') look(neighbour, ['neighbours', i]);
  });
  project.options.forEach((option, i) =>
    option.masses.forEach((mass, k) => look(mass, ['options', i, 'masses', k])),
  );
  return [...found, ...danglingReferences(project)]
    .slice(0, MAX_FAULTS)
    .map(({ path, message }) => said(project, path, message));
}
