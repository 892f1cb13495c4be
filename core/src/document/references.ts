import { type Project, TODAY } from '../project';

type Path = (string | number)[];

/** A thing of a document that names another wrongly: the place, and what is wrong in a sentence. */
export interface DanglingReference {
  path: Path;
  message: string;
  /** What is missing, where that is the fault. */
  wanted?: { list: 'targets' | 'glazings'; id: string };
}

type Named = { id: string };
type Holder = { openings: (Named & { glazing: string | null })[] };

/** Ids that are used twice, and names of things that do not exist. */
export function danglingReferences(project: Project): DanglingReference[] {
  const found: DanglingReference[] = [];
  const say = (path: Path, message: string, wanted?: DanglingReference['wanted']) =>
    found.push({ path, message, ...(wanted && { wanted }) });
  const refuseTwins = (items: readonly Named[], path: Path) => {
    const seen = new Set<string>();
    items.forEach(({ id }, i) => {
      if (seen.has(id)) say([...path, i], `The id “${id}” is used twice.`);
      seen.add(id);
    });
  };
  if (!project.options.some((option) => option.id === TODAY))
    say(['options'], 'The option “today” is missing.');
  const lists = ['neighbours', 'glazings', 'areas', 'options', 'targets', 'studies'] as const;
  for (const key of [
    ...lists,
    'probes',
    'viewpoints',
    'momentSets',
    'hourSets',
    'envelopes',
    'sources',
    'underlays',
    'criteria',
    'neighbourRules',
  ] as const)
    refuseTwins(project[key], [key]);
  project.options.forEach((option, i) => {
    refuseTwins(option.masses, ['options', i, 'masses']);
    refuseTwins(option.rules, ['options', i, 'rules']);
  });
  const targets = new Set(project.targets.map((target) => target.id));
  project.studies.forEach((study, i) => {
    for (const wanted of study.targets)
      if (!targets.has(wanted))
        say(['studies', i], `The target “${wanted}” does not exist.`, { list: 'targets', id: wanted });
  });
  const glazings = new Set(project.glazings.map((glazing) => glazing.id));
  const needGlazing = (wanted: string | null, path: Path) => {
    if (wanted !== null && !glazings.has(wanted))
      say(path, `The glazing “${wanted}” does not exist.`, { list: 'glazings', id: wanted });
  };
  const checkOpenings = (shape: Holder, at: Path) => {
    refuseTwins(shape.openings, [...at, 'openings']);
    shape.openings.forEach((opening, k) => needGlazing(opening.glazing, [...at, 'openings', k]));
  };
  project.neighbourRules.forEach((rule, i) => needGlazing(rule.glazing, ['neighbourRules', i]));
  project.neighbours.forEach((neighbour, i) => {
    if ('openings' in neighbour) checkOpenings(neighbour, ['neighbours', i]);
  });
  project.options.forEach((option, i) => {
    option.rules.forEach((rule, k) => needGlazing(rule.glazing, ['options', i, 'rules', k]));
    option.masses.forEach((mass, k) => checkOpenings(mass, ['options', i, 'masses', k]));
    option.models.forEach((model, k) => checkOpenings(model, ['options', i, 'models', k]));
  });
  return found;
}
