import { sunPosition } from '@dial-shade/core';
import { Command } from 'commander';
import { instant, placeOf, placeOptions } from './typed-options';

interface Options {
  lat: number;
  lon: number;
  elevation: number;
  at: string[];
  json?: boolean;
}

/** `sun`: where the sun stands at given instants. */
export function sunCommand(): Command {
  return placeOptions(new Command('sun').description('position of the sun at one or more instants'))
    .requiredOption(
      '--at <instant>',
      'ISO 8601 with offset; may be repeated',
      (text: string, all: string[] = []) => [...all, text],
    )
    .option('--json', 'print JSON')
    .action((options: Options) => {
      const place = placeOf(options);
      const rows = options.at.map((at) => ({ at, ...sunPosition(instant(at), place) }));
      if (options.json) console.log(JSON.stringify(rows, null, 1));
      else
        for (const row of rows)
          console.log(
            `${row.at}  altitude ${row.altitudeDeg.toFixed(3)}°  azimuth ${row.azimuthDeg.toFixed(3)}°  apparent altitude ${row.apparentAltitudeDeg.toFixed(3)}°`,
          );
    });
}
