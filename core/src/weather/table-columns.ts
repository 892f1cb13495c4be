import { WEATHER_FIELDS, type WeatherField } from './weather-year';

/** What a column of a table says of an hour. */
export type ColumnKind =
  | 'stamp'
  | 'date'
  | 'time'
  | 'year'
  | 'month'
  | 'day'
  | 'hour'
  | 'minute'
  | WeatherField;

const names = (text: string) => text.trim().split(/\s+/);

/** Names that a column may have, in lower case without blanks, signs and its unit. */
const NAMES: Readonly<Record<ColumnKind, readonly string[]>> = {
  stamp: names(
    'datetime timestamp stamp dateandtime datumzeit datumuhrzeit zeitstempel isotime localtime utc',
  ),
  date: names('date datum fecha data dato'),
  time: names('time zeit uhrzeit clock'),
  year: names('year jahr annee année ano anno yyyy yr'),
  month: names('month monat mois mes mese mo mm maand'),
  day: names('day tag jour dia día giorno dd dayofmonth dag'),
  hour: names('hour stunde heure hora ora hh hr std hod uur'),
  minute: names('minute min minutes'),
  dryBulb: names(`
    drybulb drybulbtemperature drybulbtemp temperature airtemperature temp airtemp tair ta tdb t t2m temp2m temperatur
    lufttemperatur temperatura outdoortemperature outsidetemperature température temperaturedelair
  `),
  dewPoint: names('dewpoint dewpointtemperature dewpointtemp tdew tdp td dewpt taupunkt taupunkttemperatur'),
  humidity: names(`
    humidity relativehumidity rh relhumidity relhum hum luftfeuchte luftfeuchtigkeit relativefeuchte
    relativeluftfeuchte feuchte humedadrelativa humidite humiditerelative humidité humiditérelative
  `),
  pressure: names(
    'pressure airpressure atmosphericpressure stationpressure surfacepressure sp pr press luftdruck presion',
  ),
  global: names(`
    global globalhorizontal globalhorizontalradiation globalhorizontalirradiance globalhorizontalirradiation
    globalradiation globalirradiance globalirradiation globalsolarradiation ghi gh ghor globhor globalstrahlung
    rayonnementglobal radiacionglobal solarradiation shortwaveradiation
  `),
  beam: names(`
    beam beamnormal directnormal beamnormalradiation directnormalradiation directnormalirradiance beamnormalirradiance
    directnormalirradiation dni bni gbn direktnormalstrahlung
  `),
  diffuse: names(`
    diffuse diffusehorizontal diffusehorizontalradiation diffusehorizontalirradiance diffusehorizontalirradiation
    diffuseradiation diffuseirradiance dhi dif gdh diffhor diffusstrahlung diffusestrahlung rayonnementdiffus
  `),
  windDirection: names('winddirection winddir wd wd10m windrichtung direccionviento'),
  windSpeed: names('windspeed wind ws ws10m windspd windvelocity windgeschwindigkeit velocidadviento'),
  cloud: names(
    'cloud skycover totalskycover cloudcover cloudiness totalcloudcover clouds bedeckung bewölkung bedeckungsgrad',
  ),
};

type Turn = (value: number) => number;
const by =
  (factor: number, offset = 0): Turn =>
  (value) =>
    value * factor + offset;

const RADIATION: Readonly<Record<string, Turn>> = {
  ...{ 'w/m2': by(1), 'wh/m2': by(1), 'kw/m2': by(1000), 'kwh/m2': by(1000) },
  ...{ 'j/m2': by(1 / 3600), 'kj/m2': by(1 / 3.6), 'mj/m2': by(1e6 / 3600), 'j/cm2': by(1e4 / 3600) },
};
const TEMPERATURE: Readonly<Record<string, Turn>> = {
  ...{ '°c': by(1), c: by(1), degc: by(1), celsius: by(1) },
  ...{
    '°f': by(5 / 9, -160 / 9),
    f: by(5 / 9, -160 / 9),
    degf: by(5 / 9, -160 / 9),
    fahrenheit: by(5 / 9, -160 / 9),
  },
  ...{ k: by(1, -273.15), kelvin: by(1, -273.15) },
};
const SHARE: Readonly<Record<string, Turn>> = {
  '%': by(1),
  percent: by(1),
  pct: by(1),
  '0-1': by(100),
  '-': by(100),
};
const DIRECTION: Readonly<Record<string, Turn>> = { '°': by(1), deg: by(1), degrees: by(1) };

/** How units that a heading may state are turned into those of the year, and how a unit is written without blanks and powers. */
const UNITS: Readonly<Record<WeatherField, Readonly<Record<string, Turn>>>> = {
  dryBulb: TEMPERATURE,
  dewPoint: TEMPERATURE,
  humidity: SHARE,
  pressure: {
    ...{ pa: by(1), hpa: by(100), kpa: by(1000), mbar: by(100), mb: by(100), bar: by(1e5) },
    ...{ mmhg: by(133.322), inhg: by(3386.39) },
  },
  global: RADIATION,
  beam: RADIATION,
  diffuse: RADIATION,
  windDirection: DIRECTION,
  windSpeed: {
    ...{
      'm/s': by(1),
      'km/h': by(1 / 3.6),
      kmh: by(1 / 3.6),
      kph: by(1 / 3.6),
      mph: by(0.44704),
      'mi/h': by(0.44704),
    },
    ...{
      kn: by(1852 / 3600),
      kt: by(1852 / 3600),
      kts: by(1852 / 3600),
      knots: by(1852 / 3600),
      'ft/s': by(0.3048),
    },
  },
  cloud: {
    ...{
      tenths: by(1),
      '1/10': by(1),
      '0-10': by(1),
      oktas: by(10 / 8),
      okta: by(10 / 8),
      '1/8': by(10 / 8),
      '0-8': by(10 / 8),
    },
    ...{ '%': by(0.1), percent: by(0.1), '0-1': by(10) },
  },
};

const plainUnit = (text: string) =>
  text
    .toLowerCase()
    .replace(/²|\^2|\*\*2/g, '2')
    .replace(/º/g, '°')
    .replace(/\s+/g, '')
    .replace(/^(.+?)(?:per|\/)(?:sqm|m2|m²)$/, '$1/m2')
    .replace(/^(.+?)\.?m-2$/, '$1/m2')
    .replace(/^ms-1$|^m\.s-1$/, 'm/s')
    .replace(/^(m|km|mi)_?per_?(s|h)$/, '$1/$2');

const plainName = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

/** A column by its heading. */
export interface Column {
  heading: string;
  /** Null of a heading that is not understood. */
  kind: ColumnKind | null;
  /** As it is written; null where none is stated. */
  unit: string | null;
  /** Turns a value of the column into the unit of the year; null of a unit that is not known. */
  turn: Turn | null;
}

const FIELDS = new Set<string>(WEATHER_FIELDS.map(({ field }) => field));
export const isField = (kind: ColumnKind | null): kind is WeatherField => kind !== null && FIELDS.has(kind);

const kindOf = (name: string) =>
  (Object.keys(NAMES) as ColumnKind[]).find((kind) => NAMES[kind].includes(plainName(name))) ?? null;

/**
 * What a heading says: its name, and the unit that it states in brackets, behind a comma, or at its end
 * (`Global [kWh/m²]`, `Temperature, °F`, `ghi_kwh_m2`, `temp_f`).
 */
export function columnOf(heading: string): Column {
  const text = heading.trim();
  const bracketed = /^(.*?)[([{]([^)\]}]*)[)\]}]\s*$/.exec(text);
  const tries: [string, string | null][] = [];
  if (bracketed) tries.push([bracketed[1]!, bracketed[2]!]);
  const comma = /^(.*?)[,;/:]\s+?(\S.*)$/.exec(text);
  if (comma) tries.push([comma[1]!, comma[2]!]);
  tries.push([text, null]);
  // The last words of a name with signs between them.
  const parts = text.split(/[_\s]+/);
  for (const count of [1, 2])
    if (parts.length > count) tries.push([parts.slice(0, -count).join(''), parts.slice(-count).join('/')]);
  for (const [name, unit] of tries) {
    // What stands in brackets within a name is no part of it: G(h).
    const kind = kindOf(name) ?? kindOf(name.replace(/[([{][^)\]}]*[)\]}]/g, ''));
    if (kind === null) continue;
    const stated = unit?.trim() ? unit.trim() : null;
    if (!isField(kind)) return { heading: text, kind, unit: null, turn: by(1) };
    const turn = stated === null ? by(1) : (UNITS[kind][plainUnit(stated)] ?? null);
    return { heading: text, kind, unit: stated, turn };
  }
  return { heading: text, kind: null, unit: null, turn: null };
}

/** Units that a field may be stated in. */
export const unitsOf = (field: WeatherField): string[] => Object.keys(UNITS[field]);
