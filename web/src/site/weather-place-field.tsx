import { editPlace, InputError, readWeatherPlace } from '@dial-shade/core';
import { useState } from 'react';
import tzLookup from 'tz-lookup';
import { FileField } from '../app/fields';
import { edit } from '../state/project-store';

/** Takes the place out of the first line of a weather file. */
export function WeatherPlaceField() {
  const [wrong, setWrong] = useState<string | null>(null);
  const read = async (file: File) => {
    try {
      const { name, latitudeDeg, longitudeDeg, elevationM } = readWeatherPlace(
        new Uint8Array(await file.slice(0, 4096).arrayBuffer()),
      );
      const zone = tzLookup(latitudeDeg, longitudeDeg);
      setWrong(
        edit(
          'take the place of a weather file',
          editPlace({ name, latitudeDeg, longitudeDeg, elevationM, zone }),
          { quiet: true },
        ),
      );
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      setWrong(`“${file.name}”: ${error.message}`);
    }
  };
  return <FileField label="From a weather file" wrong={wrong} read={(file) => void read(file)} />;
}
