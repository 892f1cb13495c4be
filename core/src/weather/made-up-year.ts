import { RAD } from '../civil';
import type { WeatherPlace } from '../site';
import { SunTrack } from '../sun';
import { diffuseShare, extraterrestrial } from './radiation';
import { blankWeather, MONTH_DAYS, type WeatherYear } from './weather-year';

/** What a made-up year is like. */
export interface Climate {
  /** Mean temperature of the year, °C, and by how much summer and winter lie above and below it. */
  meanC: number;
  seasonC: number;
  /** By how much a clear day rises above its mean and falls below it, °C. */
  dayC: number;
  /** Days after the solstice that the season lags. */
  lagDays: number;
  /** Mean sky cover, 0 to 1, in the middle of summer and of winter. */
  summerCloud: number;
  winterCloud: number;
  /** Mean wind, m/s, and where it mostly comes from, degrees from true north. */
  windMs: number;
  windFromDeg: number;
  /** Mean relative humidity, %. */
  humidity: number;
}

/** A stream of numbers, 0 ≤ r < 1 (mulberry32). */
function stream(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A walk that forgets: mean 0, standard deviation 1, with so much of it left a step later. */
class Walk {
  private value = 0;
  constructor(
    private readonly rand: () => number,
    private readonly left: number,
  ) {}

  next(): number {
    // The sum of six even numbers is nearly normal: mean 3, variance 1/2.
    let sum = -3;
    for (let i = 0; i < 6; i++) sum += this.rand();
    this.value = this.left * this.value + Math.sqrt(1 - this.left ** 2) * sum * Math.SQRT2;
    return this.value;
  }
}

const between = (low: number, value: number, high: number) => Math.min(high, Math.max(low, value));
const rounded = (value: number, digits: number) => Number(value.toFixed(digits)) + 0;

/**
 * A made-up weather year of 8,760 hours: plausible, seeded, of nowhere. Radiation of a clear sky by Haurwitz 1945, lessened
 * by cloud by Kasten & Czeplak 1980, split by Erbs et al. 1982, so that global = beam × sin h + diffuse in every hour.
 * @param year whose suns are taken
 */
export function makeUpYear(place: WeatherPlace, climate: Climate, seed: number, year: number): WeatherYear {
  const rand = stream(seed);
  const [ofDay, ofHour, warmth, wind, turn, damp, air] = [0.6, 0.85, 0.97, 0.9, 0.95, 0.95, 0.99].map(
    (left) => new Walk(rand, left),
  ) as [Walk, Walk, Walk, Walk, Walk, Walk, Walk];
  const weather = blankWeather(8760, { ...place, name: cutName(place.name) });
  const { values } = weather;
  const track = new SunTrack(place);
  const south = place.latitudeDeg < 0 ? 1 : 0;
  let i = 0;
  let dayCount = 0;
  for (let month = 1; month <= 12; month++)
    for (let day = 1; day <= MONTH_DAYS[month - 1]!; day++, dayCount++) {
      const season = Math.cos(((dayCount - 171 - climate.lagDays + south * 182.5) / 365) * 2 * Math.PI);
      const mean = climate.winterCloud + ((climate.summerCloud - climate.winterCloud) * (1 + season)) / 2;
      const dayCloud = mean + 0.35 * ofDay.next();
      for (let hour = 1; hour <= 24; hour++, i++) {
        const startMs = Date.UTC(year, month - 1, day, hour - 1) - place.standardTimeH * 3_600_000;
        const cloud = between(0, dayCloud + 0.15 * ofHour.next(), 1);
        const { global, beam, diffuse } = hourRadiation(track, startMs, cloud);
        const warm = Math.cos(((hour - 0.5 - 15) / 24) * 2 * Math.PI);
        const dryBulb =
          climate.meanC +
          climate.seasonC * season +
          climate.dayC * (1 - 0.6 * cloud) * warm +
          2 * warmth.next();
        const humidity = between(
          15,
          climate.humidity - 12 * warm + 15 * (cloud - 0.5) + 8 * damp.next(),
          100,
        );
        const speed = climate.windMs * Math.max(0, 1 + 0.2 * warm + 0.5 * wind.next());
        weather.month[i] = month;
        weather.day[i] = day;
        weather.hour[i] = hour;
        values.dryBulb[i] = rounded(dryBulb, 1);
        values.humidity[i] = Math.round(humidity);
        values.dewPoint[i] = rounded(dewPoint(dryBulb, humidity), 1);
        values.pressure[i] = Math.round(101_325 * Math.exp(-place.elevationM / 8434) + 700 * air.next());
        values.global[i] = global;
        values.beam[i] = beam;
        values.diffuse[i] = diffuse;
        values.windDirection[i] = Math.round((((climate.windFromDeg + 60 * turn.next()) % 360) + 360) % 360);
        values.windSpeed[i] = rounded(speed, 1);
        values.cloud[i] = Math.round(cloud * 10);
      }
    }
  return weather;
}

const cutName = (name: string) => `${name.replace(/,/g, ' ')} (made up)`;

/** Radiation of an hour, Wh/m², the mean of six moments; beam and diffuse to whole numbers, and the global that they make. */
function hourRadiation(track: SunTrack, startMs: number, cloud: number) {
  let [g, horizontal, sines, up] = [0, 0, 0, 0];
  for (let part = 0; part < 6; part++) {
    const { altitudeDeg, distanceAu } = track.at(startMs + (part + 0.5) * 600_000);
    if (altitudeDeg <= 0.5) continue;
    const sine = Math.sin(altitudeDeg * RAD);
    g += (1098 * sine * Math.exp(-0.057 / sine) * (1 - 0.75 * cloud ** 3.4)) / 6;
    horizontal += (extraterrestrial(distanceAu) * sine) / 6;
    sines += sine;
    up++;
  }
  if (up === 0) return { global: 0, beam: 0, diffuse: 0 };
  const sine = sines / up;
  const share = diffuseShare(g / horizontal);
  const diffuse = Math.round(g * share);
  const beam = Math.round(Math.min(1050, (g * (1 - share)) / sine));
  return { global: Math.round(beam * sine + diffuse), beam, diffuse };
}

/** Dew point, °C, by Magnus with the coefficients of Alduchov & Eskridge 1996. */
function dewPoint(dryBulbC: number, humidity: number): number {
  const g = Math.log(humidity / 100) + (17.625 * dryBulbC) / (243.04 + dryBulbC);
  return (243.04 * g) / (17.625 - g);
}

/** A climate that could be at a latitude, where nothing else is said. */
export function climateAt(latitudeDeg: number): Climate {
  const far = Math.abs(latitudeDeg);
  return {
    meanC: rounded(27 - 0.4 * Math.max(0, far - 12), 1),
    seasonC: rounded(Math.min(16, 0.14 * far + 0.5), 1),
    dayC: 5,
    lagDays: 28,
    summerCloud: between(0.2, 0.25 + (far - 25) / 90, 0.65),
    winterCloud: between(0.25, 0.4 + (far - 25) / 90, 0.75),
    windMs: 3.5,
    windFromDeg: 240,
    humidity: 70,
  };
}
