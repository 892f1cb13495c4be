import {
  addDays,
  clockAt,
  formatArea,
  formatClock,
  formatLength,
  instantOf,
  type Project,
  roomsOf,
  type SetMoment,
  TODAY,
} from '@dial-shade/core';
import { ArrowDownToLine, Scissors, Square, SquareDashedBottom } from 'lucide-react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { shortDate } from '../almanac/wording';
import { ChoiceField, Section } from '../app/fields';
import { focusedView, showCamera } from '../board/pane-registry';
import { CUT_ABOVE_M, sectionCamera } from '../board/pane-cameras';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { setView, useMoment, useView } from '../state/view-store';
import type { DeepestRow, RoomFound } from '../workers/room-work';
import { RaysFields } from './rays-fields';
import { deepestOver, measureFan, measureRooms, useRooms } from './rooms-store';
import { useMomentSet } from './use-moment-set';
import { YearOfField } from './year-of-field';

/** Storeys with rooms in an option, as choices. */
function storeyChoices(project: Project, optionId: string): { value: string; name: string }[] {
  const masses = project.options
    .filter(({ id }) => id === optionId || id === TODAY)
    .flatMap((option) => option.masses);
  const buildings = project.neighbours.filter((neighbour) => neighbour.kind === 'building');
  return [...masses, ...buildings].flatMap((mass) =>
    mass.storeys.flatMap((_, storey) =>
      roomsOf(mass).some((room) => room.storey === storey)
        ? [{ value: `${mass.id}/${storey}`, name: `${mass.name}, storey ${storey + 1}` }]
        : [],
    ),
  );
}

/** Which rooms are measured; drawn anew only when that changes, as there may be thousands to choose from. */
const StoreyField = memo(function StoreyField({
  which,
  choices,
}: {
  which: string | null;
  choices: readonly { value: string; name: string }[];
}) {
  return (
    <ChoiceField
      label="Rooms of"
      value={which ?? 'none'}
      choices={[{ value: 'none', name: 'Not measured' }, { value: 'all', name: 'Everything' }, ...choices]}
      commit={(value) =>
        useRooms.setState({
          which: value === 'none' ? null : value,
          chosen: null,
          found: null,
          fan: [],
          yearOf: null,
          year: null,
        })
      }
    />
  );
});

/** Sunlit floor, walls and furniture of rooms at the moment at hand; how far in the sun reaches, and when the farthest. */
export function RoomsSection() {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const optionId = useView((view) => view.optionId);
  const atMs = useMoment();
  const { which: asked, found, refused, chosen } = useRooms();
  const { set, moments } = useMomentSet();
  const choices = useMemo(() => storeyChoices(project, optionId), [project, optionId]);
  // A storey of another option waits until that is looked at again.
  const isHere = asked === 'all' || choices.some(({ value }) => value === asked);
  const which = isHere ? asked : null;

  useEffect(() => {
    void measureRooms(which ? { optionId, atMs, which } : null);
  }, [project, meshes, optionId, atMs, which]);
  useEffect(() => () => void measureRooms(null), []);
  useEffect(() => {
    const listed = set && moments.length <= MAX_FAN ? moments : [];
    const isOneDay = new Set(listed.map((moment) => moment.date)).size < 2;
    const nameOf = (moment: SetMoment) =>
      `${isOneDay ? '' : `${shortDate(moment.date)} `}${formatClock(moment.minutes)}`;
    void measureFan(
      chosen && listed.length
        ? {
            optionId,
            key: chosen,
            moments: listed.map((moment) => ({
              atMs: moment.atMs,
              label: nameOf(moment),
            })),
          }
        : null,
    );
  }, [project, meshes, optionId, chosen, set, moments]);

  const room = found?.find(({ key }) => key === chosen);
  return (
    <Section title="Sun in rooms">
      <StoreyField which={which} choices={choices} />
      {refused && <p className="visually-quiet">{refused}</p>}
      {found && <RoomTable found={found} />}
      {room && <RoomDetails room={room} />}
      {which && <Deepest which={which} optionId={optionId} />}
    </Section>
  );
}

/** Moments of a set of which rays are drawn. */
const MAX_FAN = 60;
/** Rooms that the sheet lists. */
const LISTED = 60;

const percentOf = (sunlit: number, area: number) =>
  area > 0 ? String(Math.round((100 * sunlit) / area)) : '–';

function RoomTable({ found }: { found: readonly RoomFound[] }) {
  const { units } = useDocument();
  const chosen = useRooms((state) => state.chosen);
  if (found.length === 0)
    return (
      <p className="visually-quiet">
        No room here gets sun now: the sun is down, or nothing of this has openings.
      </p>
    );
  return (
    <>
      <table className="figures compact rooms" data-testid="room-table">
        <thead>
          <tr>
            <th>Room</th>
            <th title="Sunlit floor">Floor</th>
            <th title="Share of the floor">%</th>
            <th title="Sunlit walls">Walls</th>
            <th title="How far in the sun reaches on the floor, square from the facade">Depth</th>
          </tr>
        </thead>
        <tbody>
          {found.slice(0, LISTED).map(({ key, room, massName, storey, floor, walls, depth }) => (
            <tr key={key} className={key === chosen ? 'chosen' : ''}>
              <td>
                <button
                  className="btn-bare name"
                  aria-pressed={key === chosen}
                  title={`${massName}, storey ${storey}`}
                  onClick={() =>
                    useRooms.setState({
                      chosen: key === chosen ? null : key,
                      fan: [],
                      yearOf: null,
                      year: null,
                    })
                  }
                >
                  {room}
                </button>
              </td>
              <td>{formatArea(floor.sunlitM2, units)}</td>
              <td>{percentOf(floor.sunlitM2, floor.areaM2)}</td>
              <td>{formatArea(walls.sunlitM2, units)}</td>
              <td>
                {depth ? formatLength(depth.depthM, units, 2) : '–'}
                {depth?.reachesWall && <span title="Up to the wall, and up it">↥</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {found.length > LISTED && (
        <p className="visually-quiet m-0">and {found.length - LISTED} more (dial rooms lists all)</p>
      )}
    </>
  );
}

/** A room by its surfaces, with the ways to look into it. */
function RoomDetails({ room }: { room: RoomFound }) {
  const { units, site } = useDocument();
  const { surfaces, depth, floorM } = room;
  const section = () => {
    const view = focusedView();
    if (!depth || !view) return;
    const b = ((depth.facadeAzimuthDeg + site.north.trueNorthDeg) * Math.PI) / 180;
    const [nx, ny] = [Math.sin(b), Math.cos(b)];
    const [x, y] = depth.at;
    const out = depth.depthM + 4;
    const camera = sectionCamera([x + nx * out, y + ny * out], [x - nx * 3, y - ny * 3], view.focusBox);
    showCamera({
      ...camera,
      alongM: (depth.depthM + 7) / 2,
      levelM: floorM + 1.8,
      heightM: Math.max(6.5, (depth.depthM + 7) * 0.55),
    });
  };
  const plan = () => {
    const view = focusedView();
    if (!view) return;
    const points = room.lit.flatMap(({ outer }) => outer);
    const [x, y] = depth?.at ?? points[0] ?? view.focusBox.centre;
    showCamera({ kind: 'level', floorM, aboveM: CUT_ABOVE_M, centre: [x, y], heightM: 24, northUp: false });
  };
  return (
    <div className="mt-2" data-testid="room-details">
      <h3 className="h6 mb-1">{room.room}</h3>
      <table className="figures compact rooms">
        <tbody>
          {surfaces
            .filter(({ areaM2 }) => areaM2 > 0)
            .map(({ name, areaM2, litM2 }, i) => (
              <tr key={i}>
                <td>{name}</td>
                <td>
                  {formatArea(litM2, units)} of {formatArea(areaM2, units)}
                </td>
                <td>{percentOf(litM2, areaM2)} %</td>
              </tr>
            ))}
        </tbody>
      </table>
      <div className="d-flex gap-1 flex-wrap mt-1">
        <button
          className="btn btn-quiet btn-sm"
          disabled={!depth}
          title={
            depth
              ? 'Cuts square to the facade, where the sun reaches farthest'
              : 'No sun lies on this floor now'
          }
          onClick={section}
        >
          <Scissors size={13} /> Section
        </button>
        <button className="btn btn-quiet btn-sm" onClick={plan}>
          <SquareDashedBottom size={13} /> Plan
        </button>
      </div>
      <YearOfField room={room} />
      <RaysFields roomKey={room.key} openings={room.openings} />
    </div>
  );
}

/** The farthest that the sun reaches in, over the day at hand, the chosen set, or the year. */
function Deepest({ which, optionId }: { which: string; optionId: string }) {
  const { site } = useDocument();
  const date = useView((view) => view.date);
  const { set, moments } = useMomentSet();
  const [over, setOver] = useState<'day' | 'set' | 'year'>('day');
  const [done, setDone] = useState<number | null>(null);
  const [rows, setRows] = useState<DeepestRow[] | null>(null);
  const run = useRef(0);
  useEffect(
    () => () => {
      run.current++;
    },
    [],
  );

  const asked = useMemo(() => {
    if (over === 'set') return moments.map(({ atMs }) => atMs);
    const { zone } = site.place;
    const days =
      over === 'day' ? [date] : Array.from({ length: 53 }, (_, i) => addDays(`${site.year}-01-01`, i * 7));
    const step = over === 'day' ? 10 : 60;
    return days.flatMap((day) =>
      Array.from({ length: 1440 / step }, (_, i) => instantOf(day, i * step, zone)),
    );
  }, [over, moments, date, site]);
  const begin = async () => {
    const mine = ++run.current;
    setRows(null);
    setDone(0);
    const found = await deepestOver(
      optionId,
      which,
      asked,
      () => run.current === mine,
      (n) => run.current === mine && setDone(n),
    );
    if (run.current !== mine) return;
    setDone(null);
    setRows(found);
  };
  return (
    <div className="mt-2">
      <ChoiceField
        label="Deepest over"
        value={over}
        choices={[
          { value: 'day', name: `${shortDate(date)}, every 10 min` },
          ...(set ? [{ value: 'set' as const, name: set.name }] : []),
          { value: 'year', name: 'The year: a day a week, each hour' },
        ]}
        commit={(next) => {
          setOver(next);
          setRows(null);
        }}
      />
      {done === null ? (
        <button className="btn btn-quiet btn-sm" disabled={asked.length === 0} onClick={() => void begin()}>
          <ArrowDownToLine size={13} /> Find the deepest
        </button>
      ) : (
        <div className="d-flex gap-2 align-items-center">
          <progress max={asked.length} value={done} aria-label="Progress" />
          <button
            className="btn btn-quiet btn-sm"
            onClick={() => {
              run.current++;
              setDone(null);
            }}
          >
            <Square size={12} /> Stop
          </button>
        </div>
      )}
      {rows && <DeepestTable rows={rows} />}
    </div>
  );
}

/** Where the sun reaches deepest, room by room, and when. */
function DeepestTable({ rows }: { rows: readonly DeepestRow[] }) {
  const { units, site } = useDocument();
  return (
    <table className="figures compact" data-testid="deepest-table">
      <tbody>
        {rows.slice(0, LISTED).map(({ key, room, massName, storey, atMs, depth }) => {
          const clock = atMs === null ? null : clockAt(atMs, site.place.zone);
          return (
            <tr key={key} title={`${massName}, storey ${storey}`}>
              <td>{room}</td>
              <td>{depth ? formatLength(depth.depthM, units, 2) : '–'}</td>
              <td>
                {clock && (
                  <button
                    className="btn-bare"
                    title="Go there"
                    onClick={() => setView({ date: clock.date, minutes: clock.minutes, play: null })}
                  >
                    {shortDate(clock.date)}, {formatClock(clock.minutes)}
                  </button>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
