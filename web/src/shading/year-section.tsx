import { type GlassReading, MONTH_NAMES, type Option, type SetReading } from '@dial-shade/core';
import { max as maxOf, scaleBand, scaleLinear } from 'd3';
import { useEffect } from 'react';
import { Link, useLocation } from 'react-router';
import { ChoiceField, Section } from '../app/fields';
import { PlusMinus } from '../app/plus-minus';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { OwnerBars } from '../studies/owner-bars';
import { lightParts } from '../studies/use-probe-year';
import { HEAT } from '../theme/palette';
import type { GlassYearFound } from '../workers/glass-year-work';
import { measureDevices, useGlass } from './glass-store';
import { useAside } from '../workers/use-aside';

/** What the devices that stand do through the year: at a window, in its room, along its wall, or in all of the option. */
export function YearSection({ option }: { option: Option }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const { chosen, of, devices, shows, year } = useGlass();
  const { hourSets } = project;
  useEffect(() => {
    if (chosen !== null) void measureDevices({ optionId: option.id, opening: chosen, of });
    // oxlint-disable-next-line react/exhaustive-deps
  }, [option.id, chosen, of, meshes, hourSets, ...lightParts(project)]);
  if (chosen === null) return null;
  return (
    <Section title="Through the year" name="shading-year">
      <ChoiceField
        label="Of"
        value={of}
        choices={[
          { value: 'window', name: 'the window above' },
          { value: 'room', name: 'all windows of its room' },
          { value: 'facade', name: 'all windows of its wall' },
          { value: 'option', name: `all of ${option.letter} ${option.name}` },
        ]}
        commit={(next) => useGlass.setState({ of: next })}
      />
      {!devices ? (
        <p className="visually-quiet m-0">Going through the year …</p>
      ) : 'refused' in devices ? (
        <p className="wrong">{devices.refused}</p>
      ) : (
        <Found found={devices} />
      )}
      <InTheRoom option={option} />
      <ChoiceField
        label="On the almanac"
        value={shows}
        choices={[
          { value: 'sun', name: 'the sun' },
          { value: 'shade', name: 'glass in shade' },
          { value: 'shaders', name: 'in whose shade it lies' },
        ]}
        commit={(next) => useGlass.setState({ shows: next })}
      />
      {shows === 'shaders' && year && (
        <div data-testid="window-year">
          <p className="visually-quiet mb-1">
            {year.year.sunHours.toFixed(0)} h of sun a year on its glass; otherwise in the shade of
          </p>
          <OwnerBars obstructions={year.obstructions} />
        </div>
      )}
    </Section>
  );
}

/** The light and the view in the middle of the room of the window. */
function InTheRoom({ option }: { option: Option }) {
  const chosen = useGlass((state) => state.chosen);
  // After what is live: it lays everything that stands in order anew.
  const light = useAside(
    chosen === null ? null : (worker) => worker.lightOfRoom(option.id, chosen),
    [option.id, chosen],
    250,
  );
  if (!light) return null;
  const { room, skyPercent, viewLeft } = light;
  return (
    <p
      className="mb-1"
      data-testid="room-light"
      title="Sky component on the working plane, 0.85 m over the floor, under the CIE overcast sky through the panes; the view from 1.2 m, by solid angle of the glass."
    >
      In the middle of {room} a sky component of <strong>{skyPercent.shaded.toFixed(2)} %</strong>;{' '}
      {skyPercent.bare.toFixed(2)} % without devices.
      {viewLeft !== null && (
        <>
          {' '}
          <strong>{(100 * viewLeft).toFixed(0)} %</strong> of its view out is left.
        </>
      )}
    </p>
  );
}

function Found({ found }: { found: GlassYearFound }) {
  const { reading, hasWeather, windows } = found;
  const { search } = useLocation();
  const { hourSets } = useDocument();
  const { skyPercent, months, sets } = reading;
  const told = sets.filter(({ use }) => use !== 'other');
  return (
    <div data-testid="devices-year">
      {told.length === 0 && (
        <p className="visually-quiet mb-1">
          Which sun is not wanted, and which is?{' '}
          <Link to={{ pathname: '../climate', search }} relative="path">
            Name such hours
          </Link>{' '}
          on the Climate stage.
        </p>
      )}
      {told.map((set) => (
        <SetFigure
          key={set.id}
          set={set}
          unit={hasWeather ? 'kWh' : 'h'}
          isUnknown={!hasWeather && hourSets.find(({ id }) => id === set.id)?.source.by === 'temperature'}
        />
      ))}
      <p
        className="mb-1"
        title="Light of the CIE overcast sky on the glass, of that on open level ground; an open wall has 39.6 %."
      >
        <strong>{skyPercent.shaded.toFixed(1)} %</strong>
        <PlusMinus error={skyPercent.error} /> sky light on the glass; {skyPercent.bare.toFixed(1)} % without
        devices.
      </p>
      {months && <MonthBars months={months} />}
      <p className="visually-quiet mb-1">
        {windows > 1 ? `${windows} windows, ` : ''}
        {reading.glassM2.toFixed(1)} m² of glass, {reading.points.toLocaleString('en')} points, a sun an hour
        {hasWeather ? '' : '; no weather year: sun counts by the hour'}. {found.notes.join(' ')}
      </p>
    </div>
  );
}

/** Unwanted sun kept out, or wanted sun let in: of what would reach the glass with nothing before it. */
function SetFigure({
  set,
  unit,
  isUnknown,
}: {
  set: SetReading;
  unit: string;
  /** It goes by the temperature, and there is no weather. */
  isUnknown: boolean;
}) {
  const { name, use, whole, bare, shaded, error } = set;
  if (isUnknown)
    return (
      <p className="visually-quiet mb-1">
        “{name}” goes by the temperature outside; bring in a weather year on the Climate stage.
      </p>
    );
  if (!(whole > 0))
    return <p className="visually-quiet mb-1">“{name}”: no sun stands before this glass in these hours.</p>;
  const isKept = use === 'unwanted';
  const share = (value: number) => (100 * value) / whole;
  const read = (value: number) => (value < 10 ? value.toFixed(1) : Math.round(value).toLocaleString('en'));
  const percent = isKept ? 100 - share(shaded) : share(shaded);
  const without = isKept ? 100 - share(bare) : share(bare);
  return (
    <div
      className="set-figure"
      title={`Of ${read(whole)} ${unit} with nothing before the glass, ${read(bare)} reach it without devices and ${read(shaded)} with them.`}
    >
      <p className="m-0">
        <strong>{percent.toFixed(0)} %</strong>
        <PlusMinus error={share(error)} /> {isKept ? 'of unwanted sun kept out' : 'of wanted sun let in'}
        <span className="visually-quiet">
          {' '}
          · “{name}” · {read(isKept ? whole - shaded : shaded)} of {read(whole)} {unit}; {without.toFixed(0)}{' '}
          % without devices
        </span>
      </p>
      <div className={`share-bar ${use}`} aria-hidden>
        <i style={{ width: `${Math.max(0, Math.min(100, percent))}%` }} />
        <b style={{ left: `${Math.max(0, Math.min(100, without))}%` }} />
      </div>
    </div>
  );
}

const W = 260;
const H = 92;
const LEFT = 34;
const BOTTOM = 16;
const TOP = 12;

/** What comes in through the glass by month: beam, sky and what is thrown back; as an outline without devices. */
function MonthBars({ months: { inside } }: { months: NonNullable<GlassReading['months']> }) {
  const parts = MONTH_NAMES.map((name, m) => ({
    name,
    beam: inside.shaded.beam[m]!,
    sky: inside.shaded.sky[m]!,
    ground: inside.shaded.ground[m]!,
    bare: inside.bare.beam[m]! + inside.bare.sky[m]! + inside.bare.ground[m]!,
  }));
  const x = scaleBand(MONTH_NAMES, [LEFT, W - 4]).padding(0.18);
  const y = scaleLinear([0, maxOf(parts, ({ bare }) => bare) || 1], [H - BOTTOM, TOP]).nice(3);
  const sum = ({ beam, sky, ground }: (typeof inside)['bare']) =>
    [...beam, ...sky, ...ground].reduce((all, one) => all + one, 0);
  return (
    <figure className="m-0" data-testid="month-bars">
      <svg
        className="climate-chart"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label="Sun through the glass by month"
      >
        {y.ticks(3).map((value) => (
          <g key={value}>
            <line x1={LEFT} x2={W - 4} y1={y(value)} y2={y(value)} stroke="var(--rule)" strokeWidth={0.5} />
            <text x={LEFT - 3} y={y(value) + 2.6} textAnchor="end" fontSize={7.5} fill="var(--ink-soft)">
              {value.toLocaleString('en')}
            </text>
          </g>
        ))}
        <text x={LEFT - 3} y={7} textAnchor="end" fontSize={7} fill="var(--ink-soft)">
          kWh
        </text>
        {parts.map(({ name, beam, sky, ground, bare }) => {
          const [left, width] = [x(name)!, x.bandwidth()];
          const stack = [
            { value: beam, fill: HEAT.beam, what: 'beam' },
            { value: sky, fill: HEAT.sky, what: 'sky' },
            { value: ground, fill: '#b9ad8f', what: 'thrown back' },
          ];
          let from = 0;
          return (
            <g key={name}>
              <title>{`${name}: beam ${beam.toFixed(0)}, sky ${sky.toFixed(0)}, thrown back ${ground.toFixed(0)} kWh; ${bare.toFixed(0)} kWh without devices`}</title>
              {stack.map(({ value, fill, what }) => {
                const bottom = from;
                from += value;
                return (
                  <rect
                    key={what}
                    x={left}
                    width={width}
                    y={y(from)}
                    height={Math.max(0, y(bottom) - y(from))}
                    fill={fill}
                  />
                );
              })}
              <rect
                x={left}
                width={width}
                y={y(bare)}
                height={y(0) - y(bare)}
                fill="transparent"
                stroke="var(--ink-soft)"
                strokeWidth={0.7}
                strokeDasharray="2 1.5"
              />
              <text x={left + width / 2} y={H - 5} textAnchor="middle" fontSize={7.5} fill="var(--ink-soft)">
                {name[0]}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="visually-quiet">
        Through the glass {Math.round(sum(inside.shaded)).toLocaleString('en')}
        <PlusMinus error={inside.shaded.yearError} /> kWh a year (
        <i className="patch" style={{ background: HEAT.beam }} /> beam{' '}
        <i className="patch" style={{ background: HEAT.sky }} /> sky{' '}
        <i className="patch" style={{ background: '#b9ad8f' }} /> thrown back), dashed without devices{' '}
        {Math.round(sum(inside.bare)).toLocaleString('en')}.
      </figcaption>
    </figure>
  );
}
