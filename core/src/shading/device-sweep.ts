import { canMove, type DevicePlace, deviceStations, glazedPlaces, placesBeside } from '../devices';
import { changeScheme } from '../document';
import { InputError } from '../errors';
import { type Device, type DeviceMake, type HourSet, makeProblem, type Project } from '../project';
import { deviceSolid } from '../scene';
import type { OpenDirections } from '../study';
import { cosinesBefore, refuseWithoutWeather, sunsInSet, withSuns } from './glass-sky';
import { GlassSums, type SumSet } from './glass-sums';
import { type GlassAsked, GlassYear, IN_SWEEP } from './glass-year';

/** A number of a device that is tried between two values, both among them. */
export interface SweepRange {
  /** By its key in the project file. */
  number: string;
  from: number;
  to: number;
  steps: number;
}

/** A device of one kind with the numbers that are free. */
export interface SweepKind {
  make: DeviceMake;
  ranges: readonly SweepRange[];
}

/** Candidates that one sweep may have. */
export const MAX_CANDIDATES = 20_000;

/** All devices of a sweep; those that cannot be built are left out and counted. Throws InputError `sweep`. */
export function sweepMakes(kinds: readonly SweepKind[]): { makes: DeviceMake[]; leftOut: number } {
  const count = kinds.reduce((sum, { ranges }) => sum + ranges.reduce((all, { steps }) => all * steps, 1), 0);
  if (count > MAX_CANDIDATES)
    throw new InputError(
      'sweep',
      `This sweep would try ${count.toLocaleString('en')} devices; ${MAX_CANDIDATES.toLocaleString('en')} are tried at most. ` +
        `${stepsThatFit(kinds)} values of each number fit.`,
    );
  const makes: DeviceMake[] = [];
  let leftOut = 0;
  for (const { make, ranges } of kinds)
    for (const one of combined(make, ranges))
      if (makeProblem(one)) leftOut++;
      else makes.push(one);
  if (makes.length === 0)
    throw new InputError('sweep', 'None of these devices can be built; choose other ranges.');
  return { makes, leftOut };
}

function stepsThatFit(kinds: readonly SweepKind[]): number {
  const most = Math.max(...kinds.map(({ ranges }) => ranges.length));
  return Math.floor((MAX_CANDIDATES / kinds.length) ** (1 / Math.max(1, most)));
}

function combined(make: DeviceMake, ranges: readonly SweepRange[]): DeviceMake[] {
  const [range, ...rest] = ranges;
  if (!range) return [make];
  const { number, from, to, steps } = range;
  if (typeof (make as Record<string, unknown>)[number] !== 'number')
    throw new InputError('number', `A device of the kind “${make.kind}” has no number “${number}”.`);
  return Array.from({ length: steps }, (_, i) => {
    const value = steps === 1 ? from : from + ((to - from) * i) / (steps - 1);
    return combined({ ...make, [number]: Number(value.toFixed(6)) } as DeviceMake, rest);
  }).flat();
}

/** What a candidate of a sweep does; shares of what there is with nothing before the glass, 0 to 1. */
export interface Candidate {
  make: DeviceMake;
  /** Of the unwanted sun, what is kept out. */
  keptOut: number;
  /** Of the wanted sun, what comes in; null where no hours are wanted. */
  letIn: number | null;
  /** Of the light of the overcast sky on the glass, what comes in. */
  sky: number;
  /** What each of the three may be off by (±), a share too. */
  error: { keptOut: number; letIn: number; sky: number };
}

/** What a sweep is held against. */
export interface SweepAgainst {
  unwanted: Pick<HourSet, 'source'>;
  wanted: Pick<HourSet, 'source'> | null;
}

/** The project without one device of a scheme, everything else as it is. */
export function withoutDevice(project: Project, optionId: string, deviceId: string): Project {
  const scheme = project.options.find(({ id }) => id === optionId)?.scheme;
  if (!scheme) return project;
  return changeScheme(optionId, scheme, (one) => ({
    ...one,
    devices: one.devices.filter(({ id }) => id !== deviceId),
  }))(project);
}

/**
 * One device tried in many sizes at one window, among everything else that stands: only the device itself is traced for
 * each. Throws InputError `weather` where hours go by a temperature that is not known, `hours` where no sun of the unwanted hours comes before the glass.
 */
export class DeviceSweep {
  readonly year: GlassYear;
  private readonly sums: GlassSums;
  private readonly whole: Float64Array;
  private readonly beside: DevicePlace[];
  private readonly hasWanted: boolean;
  private bare: Omit<Candidate, 'make'> | null = null;

  constructor(
    asked: GlassAsked,
    place: DevicePlace,
    private readonly device: Device,
    { unwanted, wanted }: SweepAgainst,
  ) {
    const { optionId, meshes, weather = null } = asked;
    const project = withoutDevice(asked.project, optionId, device.id);
    const sets = wanted ? [unwanted, wanted] : [unwanted];
    // Only suns that stand before the glass in hours that are asked about: so the more points are paid for.
    this.year = new GlassYear({ ...asked, project }, [place], IN_SWEEP, (sky) => {
      for (const one of sets) refuseWithoutWeather(sky, one);
      const shares = sets.map((one) => sunsInSet(project, sky, weather, one));
      const cosines = cosinesBefore(sky.samples, place.face.normal);
      return withSuns(sky, (d) => cosines[d]! > 0 && shares.some((share) => share[d]! > 0));
    });
    const { sky } = this.year;
    const set = (of: Pick<HourSet, 'source'>): SumSet => {
      const shares = sunsInSet(project, sky, weather, of);
      return {
        of: 'suns',
        reaches: sky.hasWeather ? 'glass' : 'time',
        weight: sky.weight.map((one, d) => one * shares[d]!),
      };
    };
    this.hasWanted = wanted !== null;
    this.sums = new GlassSums(this.year, [
      set(unwanted),
      ...(wanted ? [set(wanted)] : []),
      { of: 'sky', reaches: 'glass', weight: sky.overcast },
    ]);
    this.whole = this.sums.whole;
    if (!(this.whole[0]! > 0))
      throw new InputError('hours', 'In none of the unwanted hours does the sun stand before this window.');
    const { trueNorthDeg } = project.site.north;
    this.beside = placesBeside(device, place, glazedPlaces(asked.project, optionId, meshes), trueNorthDeg);
  }

  /** kWh of unwanted and of wanted sun with nothing before the glass; hours, meaned over it, without weather. */
  get unwantedWhole(): number {
    return this.whole[0]!;
  }
  get wantedWhole(): number | null {
    return this.hasWanted ? this.whole[1]! : null;
  }

  /** What a device of these sizes does. */
  read(make: DeviceMake): Omit<Candidate, 'make'> {
    const device = { ...this.device, make };
    const { open } = canMove(make)
      ? this.year.past([], [{ make, stations: deviceStations(device, this.beside) }])
      : this.year.past([deviceSolid(device, this.beside)]);
    return this.told(open);
  }

  /** How it is without the device. */
  get without(): Omit<Candidate, 'make'> {
    return (this.bare ??= this.told(this.year.bare.open));
  }

  private told(open: OpenDirections): Omit<Candidate, 'make'> {
    const sums = this.sums.of(open);
    const share = (k: number) => (this.whole[k]! > 0 ? sums.value[k]! / this.whole[k]! : 0);
    const error = (k: number) => (this.whole[k]! > 0 ? sums.error(k) / this.whole[k]! : 0);
    const sky = this.hasWanted ? 2 : 1;
    return {
      keptOut: 1 - share(0),
      letIn: this.hasWanted ? share(1) : null,
      sky: share(sky),
      error: { keptOut: error(0), letIn: this.hasWanted ? error(1) : 0, sky: error(sky) },
    };
  }
}

/**
 * Which candidates no other beats: one beats another that keeps out more, or lets in more, by more than either may be off
 * by, and is not behind in the other. Two that are nearer to one another than that are equal, and none is chosen of them.
 * @param by what is to be let in
 */
export function frontOf(candidates: readonly Omit<Candidate, 'make'>[], by: 'wanted' | 'sky'): boolean[] {
  const letIn = (c: Omit<Candidate, 'make'>) => (by === 'sky' ? c.sky : (c.letIn ?? 0));
  const inError = (c: Omit<Candidate, 'make'>) => (by === 'sky' ? c.error.sky : c.error.letIn);
  // It is enough to look at those that none beats when errors are left out: of any other, one of them is ahead.
  const strict = strictFront(candidates.map((c) => [c.keptOut, letIn(c)]));
  return candidates.map((c) =>
    strict.every((k) => {
      const other = candidates[k]!;
      const [keptMore, letMore] = [other.keptOut - c.keptOut, letIn(other) - letIn(c)];
      const isSure =
        keptMore > Math.max(c.error.keptOut, other.error.keptOut) ||
        letMore > Math.max(inError(c), inError(other));
      return keptMore < 0 || letMore < 0 || !isSure;
    }),
  );
}

/** Numbers of those that none other equals or beats in both; of equal ones the first. */
function strictFront(all: readonly (readonly [number, number])[]): number[] {
  const order = all.map((_, i) => i);
  order.sort((a, b) => all[b]![0] - all[a]![0] || all[b]![1] - all[a]![1]);
  let best = -Infinity;
  return order.filter((i) => {
    const isBetter = all[i]![1] > best;
    if (isBetter) best = all[i]![1];
    return isBetter;
  });
}
