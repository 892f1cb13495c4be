import {
  climateAt,
  InputError,
  madeUpComment,
  makeUpYear,
  requirePlace,
  weatherSummary,
  type WeatherSummary,
  writeEpw,
} from '@dial-shade/core';
import { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import { number, placeOptions } from './typed-options';
import { hoursAtStation, readWeatherFile, SUN_YEAR } from './weather-file';

/** Numbers rounded for printing; what is missing as null. */
function forPrint<T>(value: T): T {
  return JSON.parse(
    JSON.stringify(value, (_, v: unknown) => (typeof v === 'number' ? Number(v.toFixed(6)) : v)),
  ) as T;
}

/** `weather`: what a weather file holds, and whether it is sound. */
export function weatherCommand(): Command {
  return new Command('weather')
    .description('sums and checks of a weather file (EPW, or a table with named columns)')
    .argument('<file>', 'weather file')
    .option('--year <year>', 'year whose suns are taken', number('The year'), SUN_YEAR)
    .option('--json', 'print JSON')
    .action(async (path: string, options: { year: number; json?: boolean }) => {
      const weather = await readWeatherFile(path);
      const hours = weather.place
        ? hoursAtStation(weather, options.year)
        : { hours: [], split: 0, lostBeam: 0, notes: [] };
      const summary = weatherSummary(weather, hours);
      const notes = [...weather.notes, ...hours.notes];
      if (options.json) {
        console.log(JSON.stringify(forPrint({ place: weather.place, ...summary, notes }), null, 1));
        return;
      }
      print(weather.place?.name ?? 'a place that the file does not name', summary, notes);
    });
}

function print(
  name: string,
  { hours, sums, dryBulb, months }: WeatherSummary,
  notes: readonly string[],
): void {
  const kWh = (value: number) => value.toFixed(0).padStart(7);
  const deg = (value: number) => (Number.isNaN(value) ? '–' : value.toFixed(1)).padStart(7);
  console.log(`${name}: ${hours} hours`);
  console.log('month  global   beam diffuse kWh/m²    min   mean    max °C');
  for (const m of months)
    console.log(
      `${String(m.month).padStart(5)} ${kWh(m.global)}${kWh(m.beam)} ${kWh(m.diffuse)}       ${deg(m.minC)}${deg(m.meanC)}${deg(m.maxC)}`,
    );
  console.log(
    ` year ${kWh(sums.global)}${kWh(sums.beam)} ${kWh(sums.diffuse)}       ${deg(dryBulb.min)}${deg(dryBulb.mean)}${deg(dryBulb.max)}`,
  );
  for (const note of notes) console.log(note);
}

interface MakeOptions {
  lat: number;
  lon: number;
  elevation: number;
  standardTime: number;
  name: string;
  seed: number;
  year: number;
  out: string;
}

/** `make-weather`: a made-up weather year, for trying things out where there is no file. */
export function makeWeatherCommand(): Command {
  return placeOptions(new Command('make-weather').description('a made-up, seeded weather year as EPW'))
    .requiredOption(
      '--standard-time <hours>',
      'hours of local standard time ahead of UTC',
      number('The standard time'),
    )
    .option('--name <name>', 'name of the place', 'Nowhere')
    .option('--seed <number>', 'another seed makes another year', number('The seed'), 1)
    .option('--year <year>', 'year whose suns are taken', number('The year'), SUN_YEAR)
    .requiredOption('--out <file>', 'file to write')
    .action(async (options: MakeOptions) => {
      const place = {
        name: options.name,
        latitudeDeg: options.lat,
        longitudeDeg: options.lon,
        standardTimeH: options.standardTime,
        elevationM: options.elevation,
      };
      requirePlace(place);
      if (!(place.standardTimeH >= -14 && place.standardTimeH <= 14))
        throw new InputError('weather', 'The standard time goes from −14 to 14 hours ahead of UTC.');
      const year = makeUpYear(place, climateAt(place.latitudeDeg), options.seed, options.year);
      await writeFile(options.out, writeEpw(year, 'made up', madeUpComment(options.seed), options.year));
      console.log(`${options.out}: a made-up year of 8,760 hours.`);
    });
}
