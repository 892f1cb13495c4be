import { editPlace, InputError, readWeatherPlace } from '@dial-shade/core';
import { useId, useState } from 'react';
import tzLookup from 'tz-lookup';
import { edit } from '../state/project-store';

/** Takes the place out of the first line of a weather file. */
export function WeatherPlaceField() {
  const id = useId();
  const [wrong, setWrong] = useState<string | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
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
  return (
    <div className="field">
      <label htmlFor={id}>From a weather file</label>
      <input
        id={id}
        type="file"
        className="form-control"
        onChange={(event) => {
          void read(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {wrong && (
        <span className="wrong" role="alert">
          {wrong}
        </span>
      )}
    </div>
  );
}
