import { contentHash } from '../content-hash';
import { changedSince } from '../method';
import {
  type Project,
  standingMasses,
  standingModels,
  standingNeighbours,
  type Study,
  type Target,
  TODAY,
} from '../project';
import { inVariant, standingScheme } from '../devices';
import { hasMoving } from '../shade';
import { STUDY_KINDS, windowsOf } from './kinds';

/** What a result was computed from: for each thing, its name for people and a hash of what matters of it. */
export type Signature = Record<string, { name: string; hash: string }>;

/** Begins the key, and a kind ends it, of the number of the method that a result was computed by; those of before there were numbers have none. */
const METHOD = 'method:';

/** Everything of a part that its shade depends on: all but what it is called. */
function shape<T extends { name: string }>({ name: _, ...rest }: T): Omit<T, 'name'> {
  return rest;
}

/** Signatures of parts by the part itself; parts are never changed in place. */
const hashes = new WeakMap<object, string>();

function partHash(part: object, matters: () => unknown): string {
  let hash = hashes.get(part);
  if (!hash) {
    hash = contentHash(matters());
    hashes.set(part, hash);
  }
  return hash;
}

function targetShape(target: Target): unknown[] {
  const { id: _, name: __, ...rule } = target;
  if (target.kind !== 'ground' && target.kind !== 'plane') return [rule];
  const grid = [target.outline, target.spacingM, target.offsetM];
  if (target.kind === 'ground') return [...grid, target.levelM, ...(target.clean ? ['clean'] : [])];
  return [...grid, target.holes, target.origin, target.u, target.v];
}

/** Whether what a target means goes by what any option proposes. */
function isOfProposals(target: Target): boolean {
  return target.kind === 'openings' && (target.facing || target.withinM !== null);
}

/** Everything that the result of a study of an option, or of one with another scheme (`Variant`), depends on. Names and notes do not count. */
export function signature(asked: Project, variantId: string, study: Study): Signature {
  const { project, optionId } = inVariant(asked, variantId);
  const { place, north, ground } = project.site;
  const { hasWindow, hasStep, needsWeather, method } = STUDY_KINDS[study.kind];
  const windows = study.also?.length ? windowsOf(study) : study.window;
  const window = hasWindow ? [windows, ...(hasStep ? [study.stepMinutes] : [])] : null;
  const when = study.kind === 'sun-hours' ? window : [study.kind, window];
  const all: Signature = {
    place: {
      name: 'the place',
      hash: contentHash([place.latitudeDeg, place.longitudeDeg, place.elevationM, place.zone]),
    },
    north: { name: 'true north', hash: contentHash(north.trueNorthDeg) },
    ground: { name: 'the ground', hash: contentHash(ground) },
    window: { name: hasWindow ? 'the window of time' : 'the kind of study', hash: contentHash(when) },
    [METHOD + study.kind]: { name: 'the method', hash: String(method.number) },
  };
  const { weather, albedo, thrownBack, reflectances } = project.site;
  // What moves by a rule goes by the beam.
  if (needsWeather || hasMoving(project, optionId))
    all.weather = { name: 'the weather', hash: weather ? partHash(weather, () => weather) : '' };
  if (needsWeather) {
    if ((study.sunsPerHour ?? 1) !== 1)
      all.suns = { name: 'the number of suns an hour', hash: contentHash(study.sunsPerHour) };
    all.albedo = { name: 'the albedo', hash: contentHash(albedo) };
    all.reflectances = {
      name: 'what surfaces throw back',
      hash: contentHash([thrownBack, ...(thrownBack === 'traced' ? [reflectances] : [])]),
    };
  }
  if (study.kind === 'insolation' && study.peakHour)
    all.peak = { name: 'the strongest hour', hash: contentHash(true) };
  // How much sun is enough is a part of what is found.
  if (study.kind === 'sun-on-ground')
    all.enough = { name: 'the threshold', hash: contentHash(study.criterion.atLeast) };
  // Openings near to what is proposed, or that see it, go by all options.
  const proposals = project.options
    .filter(({ id }) => id !== TODAY)
    .map(({ masses, models }) => [masses.map(({ footprint }) => footprint), models.map(({ move }) => move)]);
  for (const target of project.targets)
    if (study.targets.includes(target.id))
      all[`target:${target.id}`] = {
        name: `the target “${target.name}”`,
        hash: isOfProposals(target)
          ? contentHash([targetShape(target), proposals])
          : partHash(target, () => targetShape(target)),
      };
  const note = (key: string, kind: string, part: { name: string }) => {
    all[key] = { name: `the ${kind} “${part.name}”`, hash: partHash(part, () => shape(part)) };
  };
  for (const neighbour of standingNeighbours(project, optionId))
    note(`neighbour:${neighbour.id}`, 'neighbour', neighbour);
  for (const rule of project.neighbourRules) note(`rule:neighbours:${rule.id}`, 'rule', rule);
  for (const glazing of project.glazings) note(`glazing:${glazing.id}`, 'glazing', glazing);
  const today = project.options.find((option) => option.id === TODAY);
  const own = project.options.find((option) => option.id === optionId);
  for (const option of new Set([today, own])) {
    if (!option) continue;
    const isOwn = option.id === optionId;
    const isToday = option.id === TODAY;
    const masses = isOwn ? option.masses : standingMasses(project, optionId);
    const models = isOwn ? option.models : standingModels(project, optionId);
    for (const mass of masses) note(`mass:${option.id}:${mass.id}`, 'mass', mass);
    for (const model of models) note(`model:${option.id}:${model.id}`, 'model', model);
    for (const rule of option.rules) note(`rule:${option.id}:${rule.id}`, 'rule', rule);
    if (isOwn && !isToday)
      for (const device of standingScheme(project, option.id)?.devices ?? [])
        note(`device:${option.id}:${device.id}`, 'device', device);
  }
  return all;
}

/** What differs between what a result was computed from and what stands now, one sentence each; empty when nothing. */
export function signatureChanges(then: Signature, now: Signature): string[] {
  const sentence = (name: string, verb: string) => `${name[0]!.toUpperCase()}${name.slice(1)} ${verb}.`;
  const changes: string[] = [];
  for (const [key, part] of Object.entries(now)) {
    const before = then[key];
    if (key.startsWith(METHOD)) {
      const { method } = STUDY_KINDS[key.slice(METHOD.length) as Study['kind']];
      changes.push(...changedSince(method, Number(before?.hash ?? 1)));
      continue;
    }
    if (!before) changes.push(sentence(part.name, 'is new'));
    else if (before.hash !== part.hash) changes.push(sentence(part.name, 'was changed'));
  }
  for (const [key, part] of Object.entries(then))
    if (!now[key] && !key.startsWith(METHOD)) changes.push(sentence(part.name, 'was removed'));
  return changes;
}
