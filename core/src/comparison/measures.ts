import { envelopeBreaches } from '../envelope';
import { massFigures, massLevels } from '../form';
import { type RoomAssumptions, type RoomYear, roomYear, typicalRooms } from '../gains';
import type { MeshStore } from '../geometry';
import { facadeAreas, openingsIn } from '../openings';
import { type Envelope, type Project, requireOption, SECTORS, type Study } from '../project';
import { roomsIn } from '../shade';
import {
  bodyOfPart,
  compareResults,
  ruleFor,
  shareAtLeast,
  STUDY_KINDS,
  type StudyResult,
  summaryRows,
  mainValues,
} from '../study';

/** One thing that options are compared by. */
export interface ComparedMeasure {
  /** `floor`, `facade/south`, `study/ID/share`, `envelope/ID/over` and so on; lasting. */
  key: string;
  group: 'massing' | 'facades' | 'study' | 'envelope' | 'rooms';
  /** Of what group: the name of the study or envelope; empty for massing. */
  of: string;
  name: string;
  unit: string;
  digits: number;
  /** Which way is better; null where neither is. */
  better: 'more' | 'less' | null;
  /** The study or the envelope that it comes from. */
  source: string | null;
}

/** A figure of an option, with whether it is enough where a criterion says so. */
export interface MeasureValue {
  value: number;
  passes?: boolean;
}

export type MeasureValues = Record<string, MeasureValue>;

const MASSING: readonly (readonly [string, string, string, number, ComparedMeasure['better']])[] = [
  ['floor', 'Floor area', 'm²', 0, 'more'],
  ['footprint', 'Footprint', 'm²', 0, null],
  ['volume', 'Volume', 'm³', 0, null],
  ['height', 'Height', 'm', 1, null],
  ['storeys', 'Storeys', '', 0, null],
  ['compactness', 'Facade for each m² of floor', 'm²', 2, 'less'],
];

/** Kinds whose greater values are not better by themselves. */
const NEITHER: ReadonlySet<Study['kind']> = new Set(['shadow-frequency', 'insolation', 'solar-gain']);

/** Everything that the options of a project can be compared by. */
type Measured = Pick<Project, 'studies' | 'envelopes' | 'site' | 'targets' | 'neighbours' | 'criteria'>;

export function comparedMeasures(project: Measured): ComparedMeasure[] {
  const { studies, envelopes, site } = project;
  return [
    ...MASSING.map(([key, name, unit, digits, better]): ComparedMeasure => ({
      ...{ key, group: 'massing', of: '', name, unit, digits, better, source: null },
    })),
    ...SECTORS.flatMap((sector): ComparedMeasure[] => [
      {
        ...{ key: `facade/${sector}`, group: 'facades', of: '', name: `Facade to the ${sector}` },
        ...{ unit: 'm²', digits: 0, better: null, source: null },
      },
      {
        ...{ key: `glazed/${sector}`, group: 'facades', of: '', name: `Glass to the ${sector}` },
        ...{ unit: 'm²', digits: 0, better: null, source: null },
      },
    ]),
    ...studies.flatMap((study) => [...studyMeasures(study), ...takenMeasures(project, study)]),
    ...envelopes.map(({ id, name }): ComparedMeasure => ({
      ...{ key: `envelope/${id}/over`, group: 'envelope', of: name, name: 'Sticks out of it' },
      ...{ unit: 'm³', digits: 0, better: 'less', source: id },
    })),
    ...(site.weather ? roomMeasures() : []),
  ];
}

/** What is taken, against Today, from each neighbour and each drawn target of a study whose greater values are better. */
function takenMeasures({ targets, neighbours, criteria }: Measured, study: Study): ComparedMeasure[] {
  if (NEITHER.has(study.kind)) return [];
  const own = targets.filter(({ id }) => study.targets.includes(id));
  const isFrom = ({ id }: { id: string }) =>
    own.some(
      (target) =>
        (target.kind === 'openings' || target.kind === 'facades') &&
        target.among === 'neighbours' &&
        (target.scope.owners?.includes(id) ?? true),
    );
  const from = [
    ...own.filter(({ kind }) => kind === 'ground' || kind === 'plane'),
    ...neighbours.filter((one) => one.kind === 'building' && isFrom(one)),
  ];
  const { needs } = ruleFor({ criteria }, study);
  const measure = STUDY_KINDS[study.kind].measures.find(({ key }) => key === needs[0]!.measure)!;
  return from.map(({ id, name }) => ({
    ...{ key: `study/${study.id}/from/${id}`, group: 'study', of: study.name, name: `Taken from ${name}` },
    ...{ unit: measure.unit, digits: measure.digits, better: 'less', source: study.id },
  }));
}

/** `key`, what it is, unit, digits and which way is better, of a year of rooms. */
const ROOMS: readonly (readonly [string, string, string, number, ComparedMeasure['better']])[] = [
  ['solar', 'Sun through the windows', 'kWh/m²', 0, null],
  ['heating', 'Heating', 'kWh/m²', 0, 'less'],
  ['cooling', 'Cooling', 'kWh/m²', 0, 'less'],
  ['need', 'Heating and cooling', 'kWh/m²', 0, 'less'],
  ['peak', 'Greatest cooling', 'W/m²', 0, 'less'],
  ['warm', 'Over 26 °C when not cooled', 'h', 0, 'less'],
];

function roomMeasures(): ComparedMeasure[] {
  return ROOMS.map(([key, name, unit, digits, better]) => ({
    ...{ key: `rooms/${key}`, group: 'rooms', of: 'A year of typical rooms', name, unit, digits, better },
    source: null,
  }));
}

function studyMeasures({ id, name, kind, criterion }: Study): ComparedMeasure[] {
  const [measure] = STUDY_KINDS[kind].measures;
  const better = NEITHER.has(kind) ? null : 'more';
  const one = (
    key: string,
    what: string,
    unit: string,
    digits: number,
    way: ComparedMeasure['better'],
  ): ComparedMeasure => ({
    ...{
      key: `study/${id}/${key}`,
      group: 'study',
      of: name,
      name: what,
      unit,
      digits,
      better: way,
      source: id,
    },
  });
  const enough = `${Number(criterion.atLeast.toFixed(3))} ${measure.unit}`.trim();
  return [
    one('share', `Area with at least ${enough}`, '%', 0, 'more'),
    one('mean', `Mean ${measure.label.toLowerCase()}`, measure.unit, measure.digits, better),
    one('worst', `Least ${measure.label.toLowerCase()}`, measure.unit, measure.digits, better),
    one('failing', `Places under ${enough}`, '', 0, 'less'),
    one('takes', 'Places that lose too much', '', 0, 'less'),
  ];
}

/** What is offered before anything is chosen: massing, the share of each of the first studies, envelopes. */
export function firstMeasures(project: Measured): string[] {
  const all = comparedMeasures(project);
  const shares = all.filter(({ key }) => key.endsWith('/share')).slice(0, 3);
  const over = all.filter(({ group }) => group === 'envelope').slice(0, 1);
  return ['floor', 'height', ...[...shares, ...over].map(({ key }) => key)];
}

/** Figures of the masses that an option has; empty where it has none. */
export function massingValues(project: Project, optionId: string, meshes: MeshStore): MeasureValues {
  const { ground, north } = project.site;
  const bodies = requireOption(project, optionId).masses.filter(({ device }) => !device);
  if (bodies.length === 0) return {};
  const openings = openingsIn(project, optionId, meshes);
  const figures = bodies.map(massFigures);
  const levels = bodies.map((mass) => massLevels(mass, ground));
  const facades = facadeAreas(
    bodies.map((mass) => openings.fitted(mass)),
    north.trueNorthDeg,
  );
  const sum = (of: (one: (typeof figures)[number]) => number) =>
    figures.reduce((all, one) => all + of(one), 0);
  const facadeM2 = SECTORS.reduce((all, sector) => all + facades[sector].facadeM2, 0);
  const floor = sum(({ floorM2 }) => floorM2);
  const values: Record<string, number> = {
    floor,
    footprint: sum(({ footprintM2 }) => footprintM2),
    volume: sum(({ volumeM3 }) => volumeM3),
    height: Math.max(...levels.map(({ topM }) => topM)) - Math.min(...levels.map(({ floorM }) => floorM)),
    storeys: Math.max(...bodies.map(({ storeys }) => storeys.length)),
    ...(floor > 0 && { compactness: facadeM2 / floor }),
  };
  for (const sector of SECTORS) {
    values[`facade/${sector}`] = facades[sector].facadeM2;
    values[`glazed/${sector}`] = facades[sector].glazedM2;
  }
  return Object.fromEntries(Object.entries(values).map(([key, value]) => [key, { value }]));
}

/**
 * A year of one typical room for each way that rooms of an option face, under one set of assumptions: means by floor area,
 * the greatest cooling of any. Empty without a weather year or rooms with windows. Throws InputError `weather`.
 */
export function roomValues(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  assumed: RoomAssumptions,
): MeasureValues {
  if (!project.site.weather) return {};
  const own = roomsIn(project, optionId, meshes).filter((room) => room.optionId === optionId);
  const years = typicalRooms(own, project.site.north.trueNorthDeg).map(({ room }) =>
    roomYear(project, optionId, meshes, room, assumed),
  );
  const floorM2 = years.reduce((sum, { envelope }) => sum + envelope.floorM2, 0);
  if (floorM2 === 0) return {};
  const yearly = (of: (year: RoomYear) => readonly number[]) =>
    years.reduce((sum, year) => sum + of(year).reduce((all, kWh) => all + kWh, 0), 0) / floorM2;
  const [heating, cooling] = [yearly((year) => year.heating), yearly((year) => year.cooling)];
  const values: Record<string, number> = {
    ...{ solar: yearly(({ solar }) => solar), heating, cooling, need: heating + cooling },
    peak: Math.max(
      ...years.map(
        ({ coolingW, envelope }) => coolingW.reduce((a, b) => Math.max(a, b), 0) / envelope.floorM2,
      ),
    ),
    warm: years.reduce((sum, { tooWarmH, envelope }) => sum + tooWarmH * envelope.floorM2, 0) / floorM2,
  };
  return Object.fromEntries(Object.entries(values).map(([key, value]) => [`rooms/${key}`, { value }]));
}

/**
 * Figures of a result of a study: the share of the area with enough, its mean, the least, places whose mean is under the
 * threshold, and, where a result of Today is given, places that do not pass its criteria against it.
 */
export function studyValues(
  project: Project,
  study: Study,
  result: StudyResult,
  today: StudyResult | null,
): MeasureValues {
  const { summary, grid, targets, values } = result;
  const key = (of: string) => `study/${study.id}/${of}`;
  const main = mainValues(summary.kind, values);
  // By the threshold as it stands now: the result stays true when that is moved.
  const { atLeast, share: wanted } = study.criterion;
  const { share } = shareAtLeast(main, grid.areas, atLeast);
  const rows = summaryRows({ targets, grid, values: main }, atLeast);
  const measured = rows.filter(({ sensors }) => sensors > 0);
  const found: MeasureValues = {
    [key('share')]: { value: share * 100, passes: share >= wanted - 1e-9 },
    [key('mean')]: { value: summary.values.mean },
    [key('worst')]: { value: summary.values.min },
    [key('failing')]: { value: measured.filter(({ mean }) => mean < atLeast - 1e-6).length },
  };
  if (today && today !== result && today.summary.kind === summary.kind) {
    const { places } = compareResults(today, result, ruleFor(project, study));
    const losing = places.filter(({ passes }) => !passes).length;
    if (places.length > 0) found[key('takes')] = { value: losing, passes: losing === 0 };
    const owners = new Map<string, typeof places>();
    for (const place of places) {
      // The body that its rule found it on, or itself as it was drawn.
      const owner = bodyOfPart(place.id) ?? place.id;
      owners.set(owner, [...(owners.get(owner) ?? []), place]);
    }
    for (const [owner, own] of owners) {
      const area = own.reduce((sum, { areaM2 }) => sum + areaM2, 0);
      const lost = own.reduce((sum, { difference, areaM2 }) => sum - difference * areaM2, 0);
      found[key(`from/${owner}`)] = { value: lost / area, passes: own.every(({ passes }) => passes) };
    }
  }
  return found;
}

/** What of an option stands over an envelope, or where nothing may be built. Throws InputError `envelope`. */
export function envelopeValues(
  project: Project,
  optionId: string,
  envelope: Envelope,
  meshes: MeshStore,
): MeasureValues {
  const { overM3, outsideM3 } = envelopeBreaches(project, optionId, envelope, meshes);
  const value = overM3 + outsideM3;
  return { [`envelope/${envelope.id}/over`]: { value, passes: value === 0 } };
}
