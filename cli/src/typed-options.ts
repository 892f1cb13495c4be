import { type EarthPlace, InputError, requirePlace } from '@dial-shade/core';
import type { Command } from 'commander';

/** A number typed as an option. Throws InputError `number`. */
export function number(label: string) {
  return (text: string): number => {
    const value = Number(text);
    if (text.trim() === '' || !Number.isFinite(value))
      throw new InputError('number', `${label} “${text}” is not a number.`);
    return value;
  };
}

/** Adds --lat, --lon and --elevation. */
export function placeOptions(command: Command): Command {
  return command
    .requiredOption('--lat <degrees>', 'latitude, north positive', number('Latitude'))
    .requiredOption('--lon <degrees>', 'longitude, east positive', number('Longitude'))
    .option('--elevation <metres>', 'height above sea level', number('Elevation'), 0);
}

/** The place that these options give. Throws InputError `place`. */
export function placeOf(options: { lat: number; lon: number; elevation: number }): EarthPlace {
  const place = { latitudeDeg: options.lat, longitudeDeg: options.lon, elevationM: options.elevation };
  requirePlace(place);
  return place;
}

/** An instant written in ISO 8601 with its offset from UTC, in epoch ms. Throws InputError `instant`. */
export function instant(text: string): number {
  const shaped = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})$/.test(text);
  const at = shaped ? Date.parse(text) : NaN;
  if (Number.isNaN(at))
    throw new InputError(
      'instant',
      `“${text}” is not an instant; write it as 2026-03-21T12:00:00Z or with an offset, 2026-03-21T13:00:00+01:00.`,
    );
  return at;
}
