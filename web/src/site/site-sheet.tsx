import {
  change,
  editNorth,
  editPlace,
  editProject,
  editSite,
  clockAt,
  type Ground,
  remove,
  seasons,
  sunDay,
  type Units,
} from '@dial-shade/core';
import { Eye, PencilRuler, Trash2, Upload } from 'lucide-react';
import { useMemo, useState } from 'react';
import tzLookup from 'tz-lookup';
import { ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { shortDate } from '../almanac/wording';
import { FirstSteps } from './first-steps';
import { ImportDialog } from './import-dialog';
import { NorthDial } from './north-dial';
import { WorldMap } from './world-map';

const ZONES = Intl.supportedValuesOf('timeZone');

/** Place, north, year, units, ground, boundary and neighbours. */
export function SiteSheet() {
  const project = useDocument();
  const { site } = project;
  const { place, north } = site;
  const selection = useView((view) => view.selection);
  const [importing, setImporting] = useState(false);

  const placeAt = (latitudeDeg: number, longitudeDeg: number) => {
    let zone = place.zone;
    try {
      zone = tzLookup(latitudeDeg, longitudeDeg);
    } catch {
      // Off the map of zones: the zone stays as it is.
    }
    return edit('move the place', editPlace({ latitudeDeg, longitudeDeg, zone }), { quiet: true });
  };

  return (
    <>
      <h1>Site</h1>
      <FirstSteps />
      <TextField
        label="Project"
        value={project.name}
        commit={(name) => edit('rename the project', editProject({ name }), { quiet: true })}
      />

      <Section title="Place">
        <WorldMap latitudeDeg={place.latitudeDeg} longitudeDeg={place.longitudeDeg} onPick={placeAt} />
        <TextField
          label="Name"
          value={place.name}
          placeholder="Town or address"
          commit={(name) =>
            edit('name the place', editPlace({ name, confirmed: place.confirmed }), { quiet: true })
          }
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
        <NoonFacts />
        <Confirm
          what="Place"
          confirmed={place.confirmed}
          onConfirm={() => edit('confirm the place', editPlace({ confirmed: true }))}
        />
      </Section>

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

      <Section title="Year and units">
        <NumberField
          label="Year"
          value={site.year}
          commit={(year) => {
            const refused = edit('set the year', editSite({ year }), { quiet: true });
            if (!refused)
              setView(({ date }) => ({
                date: `${year}-${date.slice(5) === '02-29' ? '02-28' : date.slice(5)}`,
              }));
            return refused;
          }}
        />
        <ChoiceField<Units>
          label="Units"
          value={project.units}
          choices={[
            { value: 'metric', name: 'Metres' },
            { value: 'imperial', name: 'Feet and inches' },
          ]}
          commit={(units) => edit('change the units', editProject({ units }))}
        />
      </Section>

      <GroundSection ground={site.ground} />

      <Section
        title="Site boundary"
        aside={
          <button
            className="btn-bare"
            title="Draw the boundary"
            aria-label="Draw the boundary"
            onClick={() => setView({ tool: { kind: 'draw', shape: 'polygon', purpose: 'boundary' } })}
          >
            <PencilRuler size={15} />
          </button>
        }
      >
        {site.boundary ? (
          <p className="m-0">
            {site.boundary.length} corners{' '}
            <button
              className="btn-bare"
              aria-label="Remove the boundary"
              onClick={() => edit('remove the boundary', editSite({ boundary: null }))}
            >
              <Trash2 size={14} />
            </button>
          </p>
        ) : (
          <p className="visually-quiet m-0">None drawn.</p>
        )}
      </Section>

      <Section
        title={`Neighbours (${project.neighbours.length})`}
        aside={
          <button className="btn btn-quiet btn-sm" onClick={() => setImporting(true)}>
            <Upload size={13} /> Bring in OBJ
          </button>
        }
      >
        {project.neighbours.length === 0 && (
          <p className="visually-quiet">Nothing stands around the site yet.</p>
        )}
        <ul className="things">
          {project.neighbours.map((neighbour) => (
            <li key={neighbour.id} className={selection?.id === neighbour.id ? 'chosen' : ''}>
              <button
                className="name"
                title={neighbour.name}
                onClick={() =>
                  setView({
                    selection: {
                      id: neighbour.id,
                      optionId: null,
                      layer: 'neighbours',
                      wallBearingDeg: null,
                    },
                  })
                }
              >
                {neighbour.name}
              </button>
              {neighbour.kind === 'mesh' && (
                <span className="figure">{neighbour.triangles.toLocaleString('en')} tri.</span>
              )}
              {selection?.id === neighbour.id && <Eye size={13} aria-label="Chosen" />}
              <button
                className="btn-bare"
                aria-label={`Remove ${neighbour.name}`}
                onClick={() => edit(`remove ${neighbour.name}`, remove('neighbours', neighbour.id))}
              >
                <Trash2 size={14} />
              </button>
            </li>
          ))}
        </ul>
        <ChosenNeighbour />
      </Section>
      <ImportDialog show={importing} onClose={() => setImporting(false)} />
    </>
  );
}

function ChosenNeighbour() {
  const { neighbours } = useDocument();
  const selection = useView((view) => view.selection);
  const neighbour = neighbours.find((n) => n.id === selection?.id && selection.layer === 'neighbours');
  if (!neighbour) return null;
  return (
    <>
      <TextField
        label="Name"
        value={neighbour.name}
        commit={(name) =>
          edit('rename a neighbour', change('neighbours', neighbour.id, { name }), { quiet: true })
        }
      />
      {neighbour.kind === 'mesh' && (
        <>
          {(['right', 'up', 'raised'] as const).map((label, axis) => (
            <LengthField
              key={label}
              label={`Moved ${label}`}
              value={neighbour.move[axis]!}
              commit={(value) => {
                const move: [number, number, number] = [...neighbour.move];
                move[axis] = value;
                return edit(`move ${neighbour.name}`, change('neighbours', neighbour.id, { move }), {
                  quiet: true,
                });
              }}
            />
          ))}
          <NumberField
            label="Turned"
            unit="° acw"
            value={neighbour.turnDeg}
            commit={(turnDeg) =>
              edit(`turn ${neighbour.name}`, change('neighbours', neighbour.id, { turnDeg }), { quiet: true })
            }
          />
        </>
      )}
    </>
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

function GroundSection({ ground }: { ground: Ground }) {
  const set = (next: Ground) => edit('change the ground', editSite({ ground: next }), { quiet: true });
  return (
    <Section title="Ground">
      <ChoiceField
        label="Ground"
        value={ground.kind}
        choices={[
          { value: 'level', name: 'Level' },
          { value: 'plane', name: 'Sloping plane' },
        ]}
        commit={(kind) =>
          set(
            kind === 'level'
              ? { kind, levelM: ground.levelM }
              : { kind, levelM: ground.levelM, slopeDeg: 2, fallsTowardsDeg: 180 },
          )
        }
      />
      <LengthField
        label="Level at origin"
        value={ground.levelM}
        commit={(levelM) => set({ ...ground, levelM })}
      />
      {ground.kind === 'plane' && (
        <>
          <NumberField
            label="Slope"
            unit="°"
            value={ground.slopeDeg}
            commit={(slopeDeg) => set({ ...ground, slopeDeg })}
          />
          <NumberField
            label="Falls towards"
            unit="°"
            value={ground.fallsTowardsDeg}
            commit={(fallsTowardsDeg) => set({ ...ground, fallsTowardsDeg })}
          />
        </>
      )}
    </Section>
  );
}
