import {
  dayNumber,
  InputError,
  isDate,
  shareWithin,
  skyRadiation,
  skyVault,
  type Subdivision,
} from '@dial-shade/core';
import { Command } from 'commander';
import { number } from './typed-options';
import { hoursAtStation, readWeatherFile, SUN_YEAR } from './weather-file';

interface Options {
  weather: string;
  from: string;
  to: string;
  start: string;
  end: string;
  subdivision: number;
  year: number;
  json?: boolean;
}

/** A year with a 29 February: days are told in it. */
const LEAP_YEAR = 2028;

/** Month × 100 + day of a date written MM-DD. Throws InputError `date`. */
function dayOf(text: string): number {
  if (!isDate(`${LEAP_YEAR}-${text}`))
    throw new InputError('date', `“${text}” is not a day of the year; write it as MM-DD, 03-21.`);
  return dayNumber(text);
}

/** Minutes since midnight of a time written HH:MM. Throws InputError `clock`. */
function minutesOf(text: string): number {
  const [, hours, minutes] = (/^(\d{2}):(\d{2})$/.exec(text) ?? []).map(Number) as [number, number?, number?];
  if (hours === undefined || minutes === undefined || minutes > 59 || hours * 60 + minutes > 1440)
    throw new InputError(
      'clock',
      `“${text}” is not a time of day; write it as HH:MM, 09:30; the day ends at 24:00.`,
    );
  return hours * 60 + minutes;
}

/** `sky`: radiation of the sky vault over a window of time, patch by patch. */
export function skyCommand(): Command {
  return new Command('sky')
    .description('beam and sky radiation of the patches of the sky over a window of time')
    .requiredOption('--weather <file>', 'weather file (EPW)')
    .option('--from <MM-DD>', 'first day', '01-01')
    .option('--to <MM-DD>', 'last day', '12-31')
    .option('--start <HH:MM>', 'local standard time', '00:00')
    .option('--end <HH:MM>', 'local standard time', '24:00')
    .option('--subdivision <n>', 'patches a side of each of the 145: 1, 2 or 4', number('The subdivision'), 1)
    .option('--year <year>', 'year whose suns are taken', number('The year'), SUN_YEAR)
    .option('--json', 'print JSON')
    .action(async (options: Options) => {
      const weather = await readWeatherFile(options.weather);
      const { hours, notes } = hoursAtStation(weather, options.year);
      const window = {
        fromDay: dayOf(options.from),
        toDay: dayOf(options.to),
        startMinutes: minutesOf(options.start),
        endMinutes: minutesOf(options.end),
      };
      if (window.endMinutes <= window.startMinutes)
        throw new InputError('clock', `The hours end (${options.end}) before they start (${options.start}).`);
      const vault = skyVault(options.subdivision as Subdivision);
      const sum = skyRadiation(vault, hours, shareWithin(window, weather.place!.standardTimeH));
      const kWh = (value: number) => Number((value / 1000).toFixed(6));
      const patches = Array.from({ length: vault.count }, (_, p) => ({
        altitudeDeg: Number(vault.altitudeDeg[p]!.toFixed(6)),
        azimuthDeg: Number(vault.azimuthDeg[p]!.toFixed(6)),
        solidAngle: Number(vault.solidAngle[p]!.toFixed(9)),
        beam: kWh(sum.beam[p]!),
        sky: kWh(sum.sky[p]!),
      }));
      const totals = {
        hours: Number(sum.hours.toFixed(6)),
        beamNormal: kWh(sum.beamNormal),
        beamHorizontal: kWh(sum.beamHorizontal),
        diffuseHorizontal: kWh(sum.diffuseHorizontal),
        globalHorizontal: kWh(sum.beamHorizontal + sum.diffuseHorizontal),
      };
      if (options.json) {
        const { from, to, start, end, subdivision, year } = options;
        const head = {
          place: weather.place,
          year,
          window: { from, to, start, end },
          subdivision,
          unit: 'kWh/m2',
        };
        console.log(JSON.stringify({ ...head, totals, patches, notes }, null, 1));
        return;
      }
      console.log('altitude  azimuth  solid angle sr  beam kWh/m²   sky kWh/m²');
      for (const p of patches)
        console.log(
          `${p.altitudeDeg.toFixed(1).padStart(8)} ${p.azimuthDeg.toFixed(1).padStart(8)} ${p.solidAngle.toFixed(6).padStart(15)} ${p.beam.toFixed(3).padStart(12)} ${p.sky.toFixed(3).padStart(12)}`,
        );
      console.log(
        `${totals.hours} hours: beam normal ${totals.beamNormal.toFixed(1)}, on the level beam ${totals.beamHorizontal.toFixed(1)} + sky ${totals.diffuseHorizontal.toFixed(1)} = ${totals.globalHorizontal.toFixed(1)} kWh/m²`,
      );
      for (const note of notes) console.log(note);
    });
}
