import { distanceKm, editSite, FAR_KM, type StoredWeather } from '@dial-shade/core';
import { CloudSun, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { FileField, NumberField, Section } from '../app/fields';
import { IconButton } from '../app/objects';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, edit, useDocument } from '../state/project-store';
import { computeWith } from '../workers/compute';
import { useClimate } from './use-climate';

const worker = () => computeWith(currentProject(), useMeshes.getState().meshes);
const put = (weather: StoredWeather | null, name: string) =>
  edit(name, editSite({ weather }), { quiet: true });

/** Brings a weather year in, from a file or made up, and says what it is. */
export function WeatherSection() {
  const { weather, place } = useDocument().site;
  const [wrong, setWrong] = useState<string | null>(null);
  /** Read, but from far away: asked first. */
  const [far, setFar] = useState<{ weather: StoredWeather; km: number } | null>(null);
  const [seed, setSeed] = useState(1);
  const read = async (file: File) => {
    setFar(null);
    const found = await worker().readWeather(new Uint8Array(await file.arrayBuffer()), file.name);
    if ('refused' in found) {
      setWrong(`“${file.name}”: ${found.refused}`);
      return;
    }
    const km = found.place ? distanceKm(found.place, place) : 0;
    setWrong(null);
    if (km > FAR_KM) setFar({ weather: found, km });
    else setWrong(put(found, `bring in the weather of ${file.name}`));
  };
  const makeUp = async () => {
    setFar(null);
    setWrong(put(await worker().makeUpWeather(seed), 'make up a weather year'));
  };
  return (
    <Section
      title="Weather year"
      aside={
        weather && (
          <IconButton
            icon={Trash2}
            label="Remove the weather year"
            onClick={() => put(null, 'remove the weather year')}
          />
        )
      }
    >
      {weather ? (
        <Facts weather={weather} />
      ) : (
        <p>
          Insolation, probable sunlight and solar gain go by a weather year: 8,760 hours of radiation,
          temperature and wind.
        </p>
      )}
      <FileField
        label={weather ? 'Another file' : 'From a file'}
        title="EPW, or a table with named columns"
        accept=".epw,.csv,.txt,.tsv"
        wrong={wrong}
        read={(file) => void read(file)}
      />
      {far && (
        <div className="stale" role="alertdialog" aria-label="Weather from far away">
          <strong>{Math.round(far.km).toLocaleString('en')} km from the site</strong>
          <p className="mb-1">
            “{far.weather.place?.name || far.weather.source}” was taken there: it may be of another climate.
          </p>
          <div className="d-flex gap-1">
            <button
              className="btn btn-quiet btn-sm"
              onClick={() => {
                setWrong(put(far.weather, `bring in the weather of ${far.weather.source}`));
                setFar(null);
              }}
            >
              Use it all the same
            </button>
            <button className="btn btn-quiet btn-sm" onClick={() => setFar(null)}>
              Leave it
            </button>
          </div>
        </div>
      )}
      {!weather && (
        <>
          <NumberField
            label="Seed"
            digits={0}
            value={seed}
            commit={(value) => {
              if (!Number.isInteger(value) || value < 0 || value > 999_999)
                return 'The seed is a whole number from 0 to 999,999.';
              setSeed(value);
              return null;
            }}
          />
          <button className="btn btn-sunlit" onClick={() => void makeUp()}>
            <CloudSun size={14} /> Make a year up for this place
          </button>
          <p className="visually-quiet mt-1">Plausible for the latitude, measured nowhere; it says so.</p>
        </>
      )}
    </Section>
  );
}

/** Where the weather was taken, its sums, and what is to be known of it. */
function Facts({ weather }: { weather: StoredWeather }) {
  const facts = useClimate((worker) => worker.climateFacts());
  const { place } = weather;
  const sums = facts?.summary.sums;
  const kWh = (value: number) => `${Math.round(value).toLocaleString('en')} kWh/m²`;
  return (
    <div data-testid="weather-facts">
      <p className="mb-1">
        <strong>{place?.name || 'A place that the file does not name'}</strong>{' '}
        <span className="visually-quiet">{weather.source}</span>
      </p>
      {facts && sums && (
        <dl className="facts">
          <dt>From the site</dt>
          <dd>
            {facts.distanceKm === null
              ? 'not said'
              : `${facts.distanceKm.toFixed(facts.distanceKm < 10 ? 1 : 0)} km`}
          </dd>
          <dt>Global, level</dt>
          <dd>{kWh(sums.global)}</dd>
          <dt>Beam, facing the sun</dt>
          <dd>{kWh(sums.beam)}</dd>
          <dt>Diffuse, level</dt>
          <dd>{kWh(sums.diffuse)}</dd>
          <dt>Temperature</dt>
          <dd>
            {[facts.summary.dryBulb.min, facts.summary.dryBulb.mean, facts.summary.dryBulb.max]
              .map((value) => value.toFixed(1).replace('-', '−'))
              .join(' · ')}{' '}
            °C
          </dd>
        </dl>
      )}
      {facts?.notes.map((note) => (
        <p key={note} className="visually-quiet mb-1">
          {note}
        </p>
      ))}
    </div>
  );
}
