import {
  carpetOf,
  degreeHours,
  distanceKm,
  hoursAtSite,
  hoursInSet,
  madeUpWeather,
  type Project,
  shareWithin,
  skyRadiation,
  skyVault,
  standardTimeH,
  type StandardWindow,
  type StoredWeather,
  type Subdivision,
  type WeatherField,
  weatherSummary,
  type WeatherSummary,
  type WindRose,
  windRose,
} from '@dial-shade/core';

/** What a project's weather comes to. */
export interface ClimateFacts {
  summary: WeatherSummary;
  /** From the site; null where the file does not say where it was taken. */
  distanceKm: number | null;
  notes: string[];
}

export interface CarpetFound {
  days: number;
  values: Float32Array;
  min: number;
  max: number;
}

/** The hours of a set, laid out by days and clock, and what falls in them. */
export interface HourSetFound {
  id: string;
  hours: number;
  beamKWh: number;
  /** days × 24: whether the hour belongs to it. */
  isIn: Uint8Array;
}

/** Radiation of the sky patch by patch, kWh/m². */
export interface DomeFound {
  subdivision: Subdivision;
  altitudeDeg: Float64Array;
  azimuthDeg: Float64Array;
  beam: Float64Array;
  sky: Float64Array;
  totals: { hours: number; beamNormal: number; beamHorizontal: number; diffuseHorizontal: number };
}

export function climateFacts(project: Project): ClimateFacts {
  const hours = hoursAtSite(project);
  const { place } = hours.weather;
  return {
    summary: weatherSummary(hours.weather, hours),
    distanceKm: place && distanceKm(place, project.site.place),
    notes: hours.notes,
  };
}

export function climateCarpet(project: Project, of: WeatherField): CarpetFound {
  const { hours, weather } = hoursAtSite(project);
  const { days, values } = carpetOf(project.site, hours, ({ record }) => weather.values[of][record]!);
  let [min, max] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < min) min = value;
    if (value > max) max = value;
  }
  return { days, values, min, max };
}

export function hourSetsFound(project: Project): HourSetFound[] {
  const { hours, weather } = hoursAtSite(project);
  const { hourOf } = carpetOf(project.site, hours, () => 0);
  return project.hourSets.map((set) => {
    const shares = hoursInSet(project.site, weather, hours, set);
    let [sum, beam] = [0, 0];
    shares.forEach((share, h) => {
      sum += share;
      beam += share * hours[h]!.beamNormal;
    });
    const isIn = Uint8Array.from(hourOf, (h) => Number(h >= 0 && shares[h]! >= 0.5));
    return { id: set.id, hours: sum, beamKWh: beam / 1000, isIn };
  });
}

/** K·h above and below temperatures. */
export function degreeHoursFound(project: Project, aboveC: number, belowC: number) {
  const { weather } = hoursAtSite(project);
  return { above: degreeHours(weather, aboveC, true), below: degreeHours(weather, belowC, false) };
}

export function skyDome(project: Project, window: StandardWindow, subdivision: Subdivision): DomeFound {
  const { hours, standardTimeH } = hoursAtSite(project);
  const vault = skyVault(subdivision);
  const sum = skyRadiation(vault, hours, shareWithin(window, standardTimeH));
  const kWh = (values: Float64Array) => values.map((value) => value / 1000);
  return {
    subdivision,
    altitudeDeg: vault.altitudeDeg,
    azimuthDeg: vault.azimuthDeg,
    beam: kWh(sum.beam),
    sky: kWh(sum.sky),
    totals: {
      hours: sum.hours,
      beamNormal: sum.beamNormal / 1000,
      beamHorizontal: sum.beamHorizontal / 1000,
      diffuseHorizontal: sum.diffuseHorizontal / 1000,
    },
  };
}

/** Months that a season of the wind rose has, and hours of the day from and up to which it counts. */
export function windRoseFound(
  project: Project,
  months: readonly number[],
  fromHour: number,
  toHour: number,
): WindRose {
  const { weather } = hoursAtSite(project);
  return windRose(weather, (month, hour) => months.includes(month) && hour >= fromHour && hour < toHour);
}

/** A made-up weather year for the place of a project. */
export function weatherFor({ site }: Project, seed: number): StoredWeather {
  const { name, latitudeDeg, longitudeDeg, elevationM, zone } = site.place;
  const place = { name: name || 'Nowhere', latitudeDeg, longitudeDeg, elevationM };
  return madeUpWeather({ ...place, standardTimeH: standardTimeH(zone, site.year) }, seed, site.year);
}
