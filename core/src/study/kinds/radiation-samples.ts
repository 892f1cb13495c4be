import { clockAt } from '../../civil';
import type { Project, Study } from '../../project';
import { REFLECTING } from '../../scene';
import { NEAREST, type SkyHours, skyHours, skyNeighbours, SkyRadiance, skySpiral } from '../../sky';
import { sunVector } from '../../sun';
import { hoursAtSite, shareInWindow, sunsOfHour, type WeatherHour, type WeatherYear } from '../../weather';
import { type Directions, windowsOf } from './kind';
import { middleOf, orderOfSuns } from './weather-samples';

/** Directions of the sky that a sensor is traced to; one that sees little of it is traced to more (see `finerSky`). */
export const SKY_PARTS = 4096;
/** Directions in which the luminance of every hour is worked out; it is smooth, and read between them. */
export const SKY_NODES = 2048;
export const MONTHS = 12;
export const HOURS = 24;

/** Suns of all hours of the year, then directions of the vault, with what they have in a window of time. */
export interface RadiationSamples extends Directions {
  suns: number;
  /** Directions of the sky, after the suns: a spiral of so many (see `skySpiral`). */
  parts: number;
  /**
   * Of each sun: Wh/m² on a plane that faces it, its month from 0, its hour of local standard time from 0. Suns go by
   * month, hour and day: what is side by side is open or blocked together, and is then summed a word of 32 at a time.
   */
  energy: Float64Array;
  month: Uint8Array;
  hour: Uint8Array;
  /** Of each part of the sky: Wh/m² on a plane that faces it; months × parts, and hours of the day × parts. */
  skyByMonth: Float64Array;
  skyByHour: Float64Array;
  /** The skies that these are sums of, hour by hour, and what goes with each. */
  skies: SkyHours;
  skyHours: CountedHours;
  /** Their sums by month, and by hour of the day, in the directions that they are worked out in: × nodes. */
  nodesByMonth: Float64Array;
  nodesByHour: Float64Array;
  /** What open ground throws back with nothing in its way, on a plane that faces it: Wh/m² by month, by hour. */
  reflectedByMonth: Float64Array;
  reflectedByHour: Float64Array;
  /** Whether that is what counts; else what is thrown back is traced (see `ReflectedLight`). */
  isOpenGround: boolean;
  /** Shares that surfaces throw back, in the order of `REFLECTING`. */
  reflectances: readonly number[];
  /** Days in the window. */
  days: number;
  /** The hours of the window one by one, for the strongest of them; null where it is not asked for. */
  hourly: HourlyRadiation | null;
  notes: string[];
}

/** Hours that are counted, as their skies are. */
export interface CountedHours {
  /** The middle one of their suns; −1 without any. */
  sun: Int32Array;
  month: Uint8Array;
  hour: Uint8Array;
  /** How much of it lies in the windows of time. */
  share: Float64Array;
  /** W/m² off open ground on a plane that faces it. */
  reflected: Float64Array;
}

/** The hours of a window of time, one by one. */
export interface HourlyRadiation {
  count: number;
  /** Month × 10,000 + day × 100 + hour of local standard time from 0, at which it begins. */
  stamp: Uint32Array;
  /** Suns that each is taken with, and which they are: those of hour k are `sunOf` from `sunEnds[k − 1]` to `sunEnds[k]`. */
  sunOf: Uint32Array;
  sunEnds: Uint32Array;
  /** W/m² on a plane that faces the sun, for each of its suns alike. */
  beam: Float64Array;
  /** Of each, its sky among `skies`. */
  skyAt: Uint32Array;
  /** W/m² off the ground on a plane that faces it. */
  reflected: Float64Array;
}

/** Whether directions are those of a weather year. */
export function isRadiation(directions: Directions): directions is RadiationSamples {
  return 'skyByMonth' in directions;
}

/** How light that is thrown back is taken, for reading. */
export function thrownBackNote(isOpenGround: boolean): string {
  return isOpenGround
    ? 'Open ground: albedo × global × (1 − n_z)/2 is thrown back with nothing in its way, and nothing by what stands about.'
    : 'What the ground and what stands about throw back is traced, once, to within about 5 % of itself.';
}

type StudiedTime = Pick<Study, 'window' | 'also' | 'sunsPerHour' | 'peakHour'>;

/** The hours and suns of a time, before directions of the sky are chosen; and what was made of them, by how many these are. */
interface KnownTime {
  given: object | null;
  key: string;
  base: SunsAndNodes;
  byParts: Map<number, RadiationSamples>;
}

/** Samples without directions of the sky: `count`, `vectors`, `date` and `moments` are of the suns alone. */
type SunsAndNodes = Omit<RadiationSamples, 'parts' | 'skyByMonth' | 'skyByHour'>;

/** What was asked for last, the newest last: rooms and options of one project ask for the same, coarse and fine in turn. */
const latest: KnownTime[] = [];
const MAX_LATEST = 4;

/**
 * Beam, sky and reflected radiation of a weather year over the windows of a study. Throws InputError `weather`.
 * @param parts directions of the sky
 */
export function radiationSamples(
  project: Project,
  study: StudiedTime,
  weather: WeatherYear | null,
  parts = SKY_PARTS,
): RadiationSamples {
  const { place, north, year, albedo, thrownBack, reflectances, weather: own } = project.site;
  const { window, also = [], sunsPerHour = 1, peakHour = false } = study;
  const given = weather ?? own;
  const site = [place, north.trueNorthDeg, year, albedo, thrownBack, reflectances];
  const key = JSON.stringify([site, window, also, sunsPerHour, peakHour]);
  let known = latest.find((one) => one.given === given && one.key === key);
  if (!known) {
    known = { given, key, base: gathered(project, study, weather), byParts: new Map() };
    latest.push(known);
    if (latest.length > MAX_LATEST) latest.shift();
  }
  let samples = known.byParts.get(parts);
  if (!samples) known.byParts.set(parts, (samples = withSky(known.base, middleOf(window), parts)));
  return samples;
}

/** The same with directions of the sky behind the suns. @param date on which crowns stand in them */
function withSky(base: SunsAndNodes, date: number, parts: number): RadiationSamples {
  const { suns, moments, nodesByMonth, nodesByHour } = base;
  const longer = <T extends Float64Array | Float32Array | Uint16Array>(of: T, into: T): T => {
    into.set(of);
    return into;
  };
  const count = suns + parts;
  const vectors = longer(base.vectors, new Float64Array(count * 3));
  vectors.set(skySpiral(parts).vectors, suns * 3);
  return {
    ...base,
    count,
    vectors,
    date: longer(base.date, new Uint16Array(count).fill(date)),
    moments: moments && {
      minutes: longer(moments.minutes, new Float32Array(count).fill(NaN)),
      beamWm2: longer(moments.beamWm2, new Float32Array(count).fill(NaN)),
    },
    parts,
    skyByMonth: readSky(nodesByMonth, parts),
    skyByHour: readSky(nodesByHour, parts),
  };
}

function gathered(project: Project, study: StudiedTime, weather: WeatherYear | null): SunsAndNodes {
  const { site } = project;
  const { hours, standardTimeH, notes, weather: year } = hoursAtSite(project, weather);
  const { shareOf, days } = shareInWindow(windowsOf(study), site);
  const counted: Counted[] = [];
  const sunsOf = sunsOfHour(site.place, study.sunsPerHour ?? 1);
  const [vectors, energy, date, months, hoursOf, minutes, beams]: number[][] = [[], [], [], [], [], [], []];
  const hourly = study.peakHour ? new HourList() : null;
  for (const hour of hours) {
    const share = shareOf(hour);
    const local = new Date(hour.startMs + standardTimeH * 3_600_000);
    const [month, h] = [local.getUTCMonth(), local.getUTCHours()];
    // Every sun of the year is a direction, whatever the window and the weather: so they are traced once for all.
    const first = energy!.length;
    const suns = sunsOf(hour);
    for (const { atMs, altitudeDeg, azimuthDeg } of suns) {
      vectors!.push(...sunVector(altitudeDeg, azimuthDeg, site.north.trueNorthDeg));
      energy!.push((hour.beamNormal * share) / suns.length);
      date!.push(year.month[hour.record]! * 100 + year.day[hour.record]!);
      months!.push(month);
      hoursOf!.push(h);
      minutes!.push(clockAt(atMs, site.place.zone).minutes);
      beams!.push(hour.beamNormal);
    }
    if (share <= 0) continue;
    const reflected = site.albedo * hour.globalHorizontal;
    hourly?.push(
      (month + 1) * 10_000 + local.getUTCDate() * 100 + h,
      first,
      suns.length,
      hour.beamNormal,
      counted.length,
      hour.diffuseHorizontal,
      reflected,
    );
    const sun = suns.length > 0 ? first + (suns.length >> 1) : -1;
    counted.push({ hour, month, h, share, sun, reflected });
  }
  const suns = energy!.length;
  const order = orderOfSuns(months!, hoursOf!);
  const all = new Float64Array(suns * 3);
  order.forEach((from, d) => {
    for (let k = 0; k < 3; k++) all[d * 3 + k] = vectors![from * 3 + k]!;
  });
  const ofSuns = (values: number[]) => Float32Array.from(order, (from) => values[from]!);
  const skies = skyHours(
    counted.map(({ hour }) => hour),
    site.north.trueNorthDeg,
  );
  const placeOf = new Int32Array(suns);
  order.forEach((from, d) => (placeOf[from] = d));
  const hoursCounted: CountedHours = {
    sun: Int32Array.from(counted, ({ sun }) => (sun < 0 ? -1 : placeOf[sun]!)),
    month: Uint8Array.from(counted, ({ month }) => month),
    hour: Uint8Array.from(counted, ({ h }) => h),
    share: Float64Array.from(counted, ({ share }) => share),
    reflected: Float64Array.from(counted, ({ reflected }) => reflected),
  };
  return {
    count: suns,
    vectors: all,
    date: Uint16Array.from(order, (from) => date![from]!),
    moments: { minutes: ofSuns(minutes!), beamWm2: ofSuns(beams!) },
    suns,
    energy: Float64Array.from(order, (from) => energy![from]!),
    month: Uint8Array.from(order, (from) => months![from]!),
    hour: Uint8Array.from(order, (from) => hoursOf![from]!),
    ...ofSkies(skies, hoursCounted),
    isOpenGround: site.thrownBack === 'open',
    reflectances: REFLECTING.map((what) => (what === 'ground' ? site.albedo : site.reflectances[what])),
    days,
    hourly: hourly && hourly.packed(order),
    notes,
  };
}

interface Counted {
  hour: WeatherHour;
  month: number;
  h: number;
  share: number;
  sun: number;
  reflected: number;
}

/** What samples have of some hours and their skies. */
export function ofSkies(skies: SkyHours, skyHours: CountedHours) {
  const nodes = skySums(skies, skyHours);
  const [reflectedByMonth, reflectedByHour] = [new Float64Array(MONTHS), new Float64Array(HOURS)];
  skyHours.reflected.forEach((reflected, k) => {
    reflectedByMonth[skyHours.month[k]!]! += reflected * skyHours.share[k]!;
    reflectedByHour[skyHours.hour[k]!]! += reflected * skyHours.share[k]!;
  });
  return {
    skies,
    skyHours,
    nodesByMonth: nodes.byMonth,
    nodesByHour: nodes.byHour,
    reflectedByMonth,
    reflectedByHour,
  };
}

/** What the nodes have over some hours: Wh/m² on a plane that faces each, months × and hours of the day × nodes. */
function skySums(skies: SkyHours, { month, hour, share }: CountedHours) {
  const [byMonth, byHour] = [new Float64Array(SKY_NODES * MONTHS), new Float64Array(SKY_NODES * HOURS)];
  const one = new Float64Array(SKY_NODES);
  const radiance = new SkyRadiance(skySpiral(SKY_NODES));
  for (let k = 0; k < skies.count; k++) {
    if (!(skies.diffuse[k]! > 0)) continue;
    radiance.of(skies, k, one);
    const [m0, h0] = [month[k]! * SKY_NODES, hour[k]! * SKY_NODES];
    for (let d = 0; d < SKY_NODES; d++) {
      const part = one[d]! * share[k]!;
      byMonth[m0 + d]! += part;
      byHour[h0 + d]! += part;
    }
  }
  return { byMonth, byHour };
}

/** Rows of values at the nodes, what each has as radiance × solid angle, read in another number of directions. */
export function readSky(rows: Float64Array, parts: number): Float64Array {
  const [nodes, spiral] = [skySpiral(SKY_NODES), skySpiral(parts)];
  const { of, weight } = skyNeighbours(nodes, spiral);
  const count = rows.length / SKY_NODES;
  const read = new Float64Array(count * parts);
  for (let row = 0; row < count; row++)
    for (let d = 0; d < parts; d++) {
      let radiance = 0;
      for (let i = d * NEAREST; i < (d + 1) * NEAREST; i++)
        radiance += (weight[i]! * rows[row * SKY_NODES + of[i]!]!) / nodes.solidAngle[of[i]!]!;
      read[row * parts + d] = radiance * spiral.solidAngle[d]!;
    }
  return read;
}

/** Gathers what a W/m² of each direction brings to the nodes that it is read between: the sums over hours stay the same. */
export function onNodes(towards: Float64Array): Float64Array {
  const [nodes, spiral] = [skySpiral(SKY_NODES), skySpiral(towards.length)];
  const { of, weight } = skyNeighbours(nodes, spiral);
  const gathered = new Float64Array(SKY_NODES);
  for (let i = 0; i < of.length; i++) {
    const d = Math.floor(i / NEAREST);
    gathered[of[i]!]! += (towards[d]! * spiral.solidAngle[d]! * weight[i]!) / nodes.solidAngle[of[i]!]!;
  }
  return gathered;
}

/** More directions of the sky, with what each has of the hours of some samples. */
export interface FinerSky extends Directions {
  /** Wh/m² on a plane that faces each: months × directions. */
  byMonth: Float64Array;
}

const finer = new WeakMap<RadiationSamples, Map<number, FinerSky>>();

/** The sky of samples in another number of directions, read between its own; made once. */
export function finerSky(samples: RadiationSamples, count: number): FinerSky {
  const known = finer.get(samples) ?? new Map<number, FinerSky>();
  finer.set(samples, known);
  let sky = known.get(count);
  if (!sky) {
    const { suns, date, nodesByMonth } = samples;
    const dates = new Uint16Array(count).fill(date[suns]!);
    sky = { count, vectors: skySpiral(count).vectors, date: dates, byMonth: readSky(nodesByMonth, count) };
    known.set(count, sky);
  }
  return sky;
}

/** Hours as they are gathered. */
class HourList {
  private readonly list: {
    stamp: number;
    first: number;
    suns: number;
    beam: number;
    skyAt: number;
    reflected: number;
  }[] = [];

  /** Keeps an hour that has any radiation. @param first of its suns, as they are gathered; @param skyAt its sky among all */
  push(
    stamp: number,
    first: number,
    suns: number,
    beam: number,
    skyAt: number,
    diffuse: number,
    reflected: number,
  ): void {
    if (beam > 0 || reflected > 0 || diffuse > 0)
      this.list.push({ stamp, first, suns, beam, skyAt, reflected });
  }

  /** @param order for each direction, the sun as it was gathered */
  packed(order: Uint32Array): HourlyRadiation {
    const placeOf = new Uint32Array(order.length);
    order.forEach((sun, d) => (placeOf[sun] = d));
    const { list } = this;
    let end = 0;
    return {
      count: list.length,
      stamp: Uint32Array.from(list, ({ stamp }) => stamp),
      sunOf: Uint32Array.from(
        list.flatMap(({ first, suns }) => Array.from({ length: suns }, (_, i) => placeOf[first + i]!)),
      ),
      sunEnds: Uint32Array.from(list, ({ suns }) => (end += suns)),
      beam: Float64Array.from(list, ({ beam, suns }) => beam / Math.max(1, suns)),
      skyAt: Uint32Array.from(list, ({ skyAt }) => skyAt),
      reflected: Float64Array.from(list, ({ reflected }) => reflected),
    };
  }
}

const wholeSky = new WeakMap<RadiationSamples, Float64Array>();

/** Of each part of the sky: Wh/m² on a plane that faces it, over all months. */
export function skyOfYear(samples: RadiationSamples): Float64Array {
  let sky = wholeSky.get(samples);
  if (!sky) {
    const { parts, skyByMonth } = samples;
    sky = new Float64Array(parts);
    for (let i = 0; i < skyByMonth.length; i++) sky[i % parts]! += skyByMonth[i]!;
    wholeSky.set(samples, sky);
  }
  return sky;
}

/** Of each month: the first of its suns, and the one after its last. */
export function sunRanges({ suns, month }: RadiationSamples): { from: number; to: number }[] {
  const ranges = Array.from({ length: MONTHS }, () => ({ from: suns, to: 0 }));
  for (let d = 0; d < suns; d++) {
    const range = ranges[month[d]!]!;
    range.from = Math.min(range.from, d);
    range.to = d + 1;
  }
  return ranges;
}
