import { clockAt, formatClock, requireDate, requireZone, sunDay } from '@dial-shade/core';
import { Command } from 'commander';
import { placeOf, placeOptions } from './typed-options';

interface Options {
  lat: number;
  lon: number;
  elevation: number;
  zone: string;
  date: string;
  json?: boolean;
}

/** `day`: sunrise, transit and sunset on a date. */
export function dayCommand(): Command {
  return placeOptions(new Command('day').description('sunrise, transit and sunset on a date'))
    .requiredOption('--zone <zone>', 'IANA time zone of the site')
    .requiredOption('--date <date>', 'YYYY-MM-DD on site')
    .option('--json', 'print JSON')
    .action((options: Options) => {
      const place = placeOf(options);
      requireZone(options.zone);
      requireDate(options.date);
      const day = sunDay(options.date, place, options.zone);
      const utc = (ms: number | null) => (ms === null ? null : new Date(ms).toISOString());
      if (options.json) {
        const { sunriseMs, transitMs, sunsetMs, ...rest } = day;
        console.log(
          JSON.stringify(
            {
              date: options.date,
              sunrise: utc(sunriseMs),
              transit: utc(transitMs),
              sunset: utc(sunsetMs),
              ...rest,
            },
            null,
            1,
          ),
        );
        return;
      }
      const clock = (ms: number | null) =>
        ms === null ? '–' : formatClock(clockAt(ms, options.zone).minutes);
      const polar =
        day.polar === 'day'
          ? ' (the sun does not set)'
          : day.polar === 'night'
            ? ' (the sun does not rise)'
            : '';
      console.log(
        `${options.date}  sunrise ${clock(day.sunriseMs)}  transit ${clock(day.transitMs)}  sunset ${clock(day.sunsetMs)}  ` +
          `day length ${day.dayLengthHours.toFixed(2)} h${polar}`,
      );
    });
}
