import { kelpLane } from '@dial-shade/samples';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { contentHash } from '../content-hash';
import { CURRENT_VERSION, type Project, projectJsonSchema } from '../project';
import { parseProject, problems } from './check';

const FOLDER = 'core/testing/versions';
/** Sample projects as earlier programs wrote them, their weather left out: `version-N-MM.json`, of each version every form that it had. */
const files = readdirSync(FOLDER).filter((name) => name.startsWith('version-'));
const read = (name: string) => JSON.parse(readFileSync(join(FOLDER, name), 'utf8')) as Raw;
type Raw = Record<string, unknown> & { version: number };

/** By version, what its schema hashes to. A version that has gone out is never given another. */
const HASHES = JSON.parse(readFileSync(join(FOLDER, 'schema-hashes.json'), 'utf8')) as Record<string, string>;

test('the schema is that of its version: a change of it raises the version', () => {
  // Whoever comes here by a change of the schema: raise CURRENT_VERSION, write the step in versions.ts, put a file of the
  // version before into core/testing/versions, and write the hash of the new version beside those before.
  expect({ [CURRENT_VERSION]: contentHash(projectJsonSchema()) }).toEqual({
    [CURRENT_VERSION]: HASHES[CURRENT_VERSION],
  });
});

test('there are files of every earlier version', () => {
  const versions = new Set(files.map((name) => read(name).version));
  for (let version = 1; version < CURRENT_VERSION; version++) expect(versions).toContain(version);
});

/** Where something that a file says is not, or not the same, in what was made of it. */
function lost(before: unknown, after: unknown, path = ''): string[] {
  if (typeof before !== 'object' || before === null) return Object.is(before, after) ? [] : [path];
  if (typeof after !== 'object' || after === null) return [path];
  return Object.entries(before).flatMap(([key, value]) =>
    lost(value, (after as Record<string, unknown>)[key], `${path}/${key}`),
  );
}

/** What steps between versions gave another place or name, as regular expressions of paths. */
const MOVED: Record<number, RegExp> = {
  1: /^\/(version|studies\/\d+\/(criterion\/atLeastH|scale\/(min|max)H)|viewpoints\/\d+\/.*)$/,
  2: /^\/(version|studies\/\d+\/(criterion\/atLeastH|scale\/(min|max)H)|viewpoints\/\d+\/.*)$/,
  3: /^\/(version|studies\/\d+\/(criterion\/atLeastH|scale\/(min|max)H)|viewpoints\/\d+\/.*)$/,
  4: /^\/(version|studies\/\d+\/(criterion\/atLeastH|scale\/(min|max)H))$/,
  5: /^\/version$/,
  6: /^\/version$/,
  7: /^\/version$/,
  8: /^\/version$/,
  9: /^\/version$/,
};

test.each(files)('%s loads whole', (name) => {
  const file = read(name);
  const project = parseProject(file);
  expect(project.version).toBe(CURRENT_VERSION);
  expect(problems(project)).toEqual([]);
  expect(lost(file, project).filter((path) => !MOVED[file.version]!.test(path))).toEqual([]);
  // As it is loaded, so it stays.
  expect(parseProject(JSON.parse(JSON.stringify(project)))).toEqual(project);
});

test('a file of version 6 from before its lists were added is as one that has them empty', () => {
  const { envelopes: _, comparison: __, hourSets: ___, ...project } = kelpLane();
  const { survey: ____, thrownBack: _____, reflectances: ______, ...site } = project.site;
  const options = project.options.map(({ schemes: _s, scheme: __s, ...option }) => option);
  const loaded = parseProject({ ...project, site, options, version: 6 });
  const none = kelpLane().options.map((option) => ({ ...option, schemes: [], scheme: null }));
  const empty: Partial<Project> = {
    envelopes: [],
    hourSets: [],
    options: none,
    comparison: { measures: [], options: null, against: null, rooms: 'new' },
  };
  expect(loaded).toEqual({ ...kelpLane(), ...empty });
});

test.each<[string, (project: Loose) => void, string]>([
  ['of the whole', (p) => (p.colour = set('red')), '“colour” is not a key of this version'],
  ['of the site', (p) => (p.site!.place!.height = set(3)), '“site.place.height” is not a key'],
  [
    'of a mass',
    (p) => (p.options![1]!.masses![0]!.roof!.slope = set(30)),
    'Option “Bar”, mass “Bar”: “roof.slope” is not a key',
  ],
  [
    'several at once',
    (p) => Object.assign(p.studies![0]!, { one: 1, two: 2, three: 3, four: 4, five: 5, six: 6 }),
    '“one”, “two”, “three”, “four”, “five” and 1 more are not keys',
  ],
  [
    'of a device',
    (p) => (p.options![1]!.schemes![0]!.devices![0]!.make!.colour = set('red')),
    '“make.colour” is not a key',
  ],
])('a key that is not known, %s, is refused and not dropped', (_, spoil, sentence) => {
  const project = structuredClone(kelpLane()) as unknown as Loose;
  spoil(project);
  expect(problems(project).join('\n')).toContain(sentence);
});

test('a file of a later version is refused', () => {
  expect(problems({ ...kelpLane(), version: CURRENT_VERSION + 1 })[0]).toContain('update the program');
});

type Loose = { [key: string]: Loose } & Loose[];
const set = (value: unknown) => value as Loose;
