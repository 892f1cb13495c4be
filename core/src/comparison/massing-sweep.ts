import { RAD } from '../civil';
import { editProblems } from '../document';
import { InputError } from '../errors';
import { footprintProblem, moveShape, pushWall, setBack, shiftBy, storeyPlate, turnAbout } from '../form';
import { centroid, type MeshStore } from '../geometry';
import { type Mass, type Project, requireOption, type Study } from '../project';
import { planStudy, runStudy, studyResult, type StudyResult } from '../study';
import type { MaskStore } from '../trace';
import { type MeasureValues, massingValues, studyValues } from './measures';

/** A number of an option's massing that is tried. */
export type MassingNumber =
  /** How many storeys a mass has. */
  | { of: 'storeys'; mass: string }
  /** Degrees that it is turned anticlockwise about its middle. */
  | { of: 'turn'; mass: string }
  /** Metres that one of its walls is pushed outwards. */
  | { of: 'push'; mass: string; edge: number }
  /** Metres that all its walls stand back further from a storey up. */
  | { of: 'setback'; mass: string; fromStorey: number }
  /** Metres that it is moved along a bearing, clockwise from drawing north. */
  | { of: 'along'; mass: string; bearingDeg: number };

/** A number that is tried between two values, both among them. */
export interface MassingRange {
  number: MassingNumber;
  from: number;
  to: number;
  steps: number;
}

/** Candidates that one sweep may have, and numbers that may be free. */
export const MAX_MASSINGS = 2000;
const MAX_NUMBERS = 3;

/** All combinations of values, one a range. Throws InputError `sweep`. */
export function massingGrid(ranges: readonly MassingRange[]): number[][] {
  if (ranges.length === 0 || ranges.length > MAX_NUMBERS)
    throw new InputError('sweep', `A massing sweep has one to ${MAX_NUMBERS} numbers.`);
  const count = ranges.reduce((all, { steps }) => all * steps, 1);
  if (count > MAX_MASSINGS)
    throw new InputError(
      'sweep',
      `This sweep would try ${count.toLocaleString('en')} massings; ${MAX_MASSINGS.toLocaleString('en')} are tried at most. ` +
        `${Math.floor(MAX_MASSINGS ** (1 / ranges.length))} values of each number fit.`,
    );
  return ranges.reduce<number[][]>(
    (rows, { number, from, to, steps }) =>
      rows.flatMap((row) =>
        Array.from({ length: steps }, (_, i) => {
          const value = steps === 1 ? from : from + ((to - from) * i) / (steps - 1);
          return [...row, number.of === 'storeys' ? Math.round(value) : Number(value.toFixed(4))];
        }),
      ),
    [[]],
  );
}

/** The masses of an option with some numbers set. Throws InputError where no sound mass comes of it. */
export function massingOf(
  project: Project,
  optionId: string,
  numbers: readonly MassingNumber[],
  values: readonly number[],
): Mass[] {
  const { masses } = requireOption(project, optionId);
  const changed = numbers.reduce((all, number, i) => {
    if (!all.some(({ id }) => id === number.mass))
      throw new InputError('sweep', 'A mass of this sweep is gone; choose another.');
    return all.map((mass) => (mass.id === number.mass ? changedMass(mass, number, values[i]!) : mass));
  }, masses);
  for (const mass of changed)
    if (footprintProblem(mass.footprint) || mass.storeys.some((_, k) => !storeyPlate(mass, k)))
      throw new InputError('sweep', `Nothing sound is left of “${mass.name}”.`);
  return changed;
}

/** A mass with so many storeys: more are like its last, and what stood in those that go goes with them. */
export function withStoreyCount(mass: Mass, count: number): Mass {
  const last = mass.storeys.at(-1)!;
  return {
    ...mass,
    storeys: Array.from({ length: count }, (_, k) => mass.storeys[k] ?? last),
    openings: mass.openings.filter(({ host }) => host.on !== 'wall' || host.storey < count),
    partitions: mass.partitions.filter(({ storey }) => storey < count),
    rooms: mass.rooms.filter(({ storey }) => storey < count),
    furniture: mass.furniture.filter(({ storey }) => storey < count),
  };
}

function changedMass(mass: Mass, number: MassingNumber, value: number): Mass {
  switch (number.of) {
    case 'storeys': {
      if (value < 1) throw new InputError('sweep', 'A mass has at least one storey.');
      return withStoreyCount(mass, value);
    }
    case 'turn':
      return moveShape(mass, turnAbout(centroid(mass.footprint.outer), value));
    case 'push':
      return value === 0 ? mass : pushWall(mass, 0, number.edge, value);
    case 'setback': {
      const upper = mass.storeys.map((_, k) => k).filter((k) => k >= number.fromStorey);
      return mass.footprint.outer.reduce((one, _, edge) => setBack(one, edge, upper, value), mass);
    }
    case 'along': {
      const bearing = number.bearingDeg * RAD;
      return moveShape(mass, shiftBy(Math.sin(bearing) * value, Math.cos(bearing) * value));
    }
  }
}

/** A massing that was tried. */
export interface MassingCandidate {
  values: number[];
  /** Null where no sound massing came of it, or the project would not be sound with it. */
  figures: MeasureValues | null;
}

/** Grids of studies are so much wider while massings are tried. */
const COARSER = 2;

/** Tries massings of an option: its figures, and those of some studies at a coarse grid. */
export class MassingSweep {
  private readonly today: (StudyResult | null)[];
  private readonly studies: Study[];
  private readonly project: Project;

  /** @param masks what stands round about is traced once for all candidates */
  constructor(
    of: Project,
    private readonly optionId: string,
    private readonly meshes: MeshStore,
    studies: readonly string[],
    private readonly masks: MaskStore,
    todayId: string | null,
  ) {
    this.project = {
      ...of,
      targets: of.targets.map((target) => ({ ...target, spacingM: target.spacingM * COARSER })),
    };
    this.studies = this.project.studies.filter(({ id }) => studies.includes(id));
    this.today = this.studies.map((study) =>
      todayId === null ? null : this.resultOf(this.project, study, todayId),
    );
  }

  read(numbers: readonly MassingNumber[], values: readonly number[]): MassingCandidate {
    let masses: Mass[];
    try {
      masses = massingOf(this.project, this.optionId, numbers, values);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return { values: [...values], figures: null };
    }
    const tried = withMasses(this.project, this.optionId, masses);
    if (editProblems(this.project, tried).length > 0) return { values: [...values], figures: null };
    const figures = massingValues(tried, this.optionId, this.meshes);
    this.studies.forEach((study, i) => {
      const result = this.resultOf(tried, study, this.optionId);
      if (result) Object.assign(figures, studyValues(tried, study, result, this.today[i]!));
    });
    return { values: [...values], figures };
  }

  private resultOf(project: Project, study: Study, optionId: string): StudyResult | null {
    try {
      const plan = planStudy(project, optionId, study, this.meshes);
      return studyResult(plan, runStudy(project, plan, this.meshes, { masks: this.masks }));
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return null;
    }
  }
}

/** The project with other masses in an option. */
export function withMasses(project: Project, optionId: string, masses: readonly Mass[]): Project {
  return {
    ...project,
    options: project.options.map((one) => (one.id === optionId ? { ...one, masses: [...masses] } : one)),
  };
}
