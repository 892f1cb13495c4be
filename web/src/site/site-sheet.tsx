import {
  clockAt,
  editNorth,
  editPlace,
  editProject,
  editSite,
  parseCoordinates,
  type Place,
  seasons,
  type Site,
  sunDay,
  type Units,
} from '@dial-shade/core';
import { useMemo, useState } from 'react';
import tzLookup from 'tz-lookup';
import { ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { currentProject, edit, useDocument } from '../state/project-store';
import { useLayout } from '../state/layout-store';
import { setView } from '../state/view-store';
import { shortDate } from '../almanac/wording';
import { AreasSection } from './areas-section';
import { AroundSection } from './around-section';
import { BoundarySection, GroundSection } from './ground-section';
import { FirstSteps } from './first-steps';
import { ImportDialog } from './import-dialog';
import { NorthDial } from './north-dial';
import { ThrownBackSection } from './thrown-back-section';
import { UnderlaysSection } from './underlays-section';
import { WeatherPlaceField } from './weather-place-field';
import { WorldMap } from './world-map';

const ZONES = Intl.supportedValuesOf('timeZone');

/** Place, north, year, units, ground, boundary and neighbours. */
export function SiteSheet() {
  const project = useDocument();
  const [importing, setImporting] = useState(false);
  return (
    <>
      <h1>Site</h1>
      <FirstSteps />
      <TextField
        label="Project"
        value={project.name}
        commit={(name) => edit('rename the project', editProject({ name }), { quiet: true })}
      />
      <PlaceSection place={project.site.place} />
      <NorthSection north={project.site.north} />
      <YearSection year={project.site.year} units={project.units} />
      <GroundSection ground={project.site.ground} />
      <ThrownBackSection site={project.site} />
      <BoundarySection />
      <UnderlaysSection />
      <AroundSection onBringIn={() => setImporting(true)} />
      <AreasSection />
      <ImportDialog show={importing} onClose={() => setImporting(false)} />
    </>
  );
}

/** Moves the place; its time zone goes along, where the map of zones knows one. */
function placeAt(latitudeDeg: number, longitudeDeg: number): string | null {
  let { zone } = currentProject().site.place;
  try {
    zone = tzLookup(latitudeDeg, longitudeDeg);
  } catch {
    // Off the map of zones: the zone stays as it is.
  }
  return edit('move the place', editPlace({ latitudeDeg, longitudeDeg, zone }), { quiet: true });
}

function PlaceSection({ place }: { place: Place }) {
  return (
    <Section title="Place">
      <WorldMap latitudeDeg={place.latitudeDeg} longitudeDeg={place.longitudeDeg} onPick={placeAt} />
      <Confirm
        what="Place"
        confirmed={place.confirmed}
        onConfirm={() => edit('confirm the place', editPlace({ confirmed: true }))}
      />
      <TextField
        label="Name"
        value={place.name}
        placeholder="Town or address"
        commit={(name) =>
          edit('name the place', editPlace({ name, confirmed: place.confirmed }), { quiet: true })
        }
      />
      <TextField
        label="Paste coordinates"
        value=""
        placeholder="55°52'12&quot;N 4°19'12&quot;W"
        commit={placeAtText}
      />
      <NumberField
        label="Latitude"
        unit="° N"
        digits={5}
        value={place.latitudeDeg}
        commit={(value) => placeAt(value, place.longitudeDeg)}
      />
      <NumberField
        label="Longitude"
        unit="° E"
        digits={5}
        value={place.longitudeDeg}
        commit={(value) => placeAt(place.latitudeDeg, value)}
      />
      <LengthField
        label="Elevation"
        value={place.elevationM}
        commit={(elevationM) => edit('set the elevation', editPlace({ elevationM }), { quiet: true })}
      />
      <TextField
        label="Time zone"
        list="zones"
        value={place.zone}
        commit={(zone) => edit('set the time zone', editPlace({ zone: zone.trim() }), { quiet: true })}
      />
      <datalist id="zones">
        {ZONES.map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
      <WeatherPlaceField />
      <NoonFacts />
    </Section>
  );
}

function placeAtText(text: string): string | null {
  try {
    const { latitudeDeg, longitudeDeg } = parseCoordinates(text);
    return placeAt(latitudeDeg, longitudeDeg);
  } catch (error) {
    return (error as Error).message;
  }
}

function NorthSection({ north }: { north: Site['north'] }) {
  return (
    <Section title="True north">
      <NorthDial trueNorthDeg={north.trueNorthDeg} />
      <NumberField
        label="True north"
        unit="° cw"
        value={north.trueNorthDeg}
        commit={(trueNorthDeg) => edit('turn true north', editNorth({ trueNorthDeg }), { quiet: true })}
      />
      <Confirm
        what="North"
        confirmed={north.confirmed}
        onConfirm={() => edit('confirm north', editNorth({ confirmed: true }))}
      />
    </Section>
  );
}

function YearSection({ year, units }: { year: number; units: Units }) {
  const csvForm = useLayout((layout) => layout.csvForm);
  return (
    <Section title="Year and units">
      <NumberField
        label="Year"
        value={year}
        commit={(next) => {
          const refused = edit('set the year', editSite({ year: next }), { quiet: true });
          if (!refused)
            setView(({ date }) => ({
              date: `${next}-${date.slice(5) === '02-29' ? '02-28' : date.slice(5)}`,
            }));
          return refused;
        }}
      />
      <ChoiceField<Units>
        label="Units"
        value={units}
        choices={[
          { value: 'metric', name: 'Metres' },
          { value: 'imperial', name: 'Feet and inches' },
        ]}
        commit={(units) => edit('change the units', editProject({ units }))}
      />
      <ChoiceField
        label="Saved tables"
        value={csvForm}
        choices={[
          { value: 'comma', name: 'CSV by commas' },
          { value: 'semicolon', name: 'CSV by semicolons' },
        ]}
        commit={(csvForm) => useLayout.setState({ csvForm })}
      />
    </Section>
  );
}

function Confirm({
  what,
  confirmed,
  onConfirm,
}: {
  what: string;
  confirmed: boolean;
  onConfirm: () => void;
}) {
  return (
    <div className="confirm">
      <span className={`tag ${confirmed ? 'done' : 'open'}`}>
        {what} {confirmed ? 'confirmed' : 'unconfirmed'}
      </span>
      {!confirmed && (
        <button className="btn btn-sunlit btn-sm" onClick={onConfirm}>
          Confirm {what.toLowerCase()}
        </button>
      )}
    </div>
  );
}

/** What the place means for the sun: noon altitude and day length at the solstices. */
function NoonFacts() {
  const { site } = useDocument();
  const facts = useMemo(() => {
    const marks = seasons(site.year);
    return (['june-solstice', 'december-solstice'] as const).map((mark) => {
      const { date } = clockAt(marks[mark], site.place.zone);
      return { date, day: sunDay(date, site.place, site.place.zone) };
    });
  }, [site.year, site.place]);
  return (
    <dl className="facts mt-2">
      {facts.map(({ date, day }) => (
        <FactRow
          key={date}
          term={`Noon, ${shortDate(date)}`}
          value={`${day.transitAltitudeDeg.toFixed(1).replace('-', '−')}° high, ${day.dayLengthHours.toFixed(1)} h day`}
        />
      ))}
    </dl>
  );
}

function FactRow({ term, value }: { term: string; value: string }) {
  return (
    <>
      <dt>{term}</dt>
      <dd>{value}</dd>
    </>
  );
}
