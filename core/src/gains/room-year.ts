import type { MeshStore } from '../geometry';
import { methodOf } from '../method';
import type { Project } from '../project';
import type { Room } from '../shade';
import { partsError, POINT_PARTS } from '../study';
import { hoursAtSite, type WeatherYear } from '../weather';
import type { RoomAssumptions } from './assumptions';
import { hourlyRoom, type ZoneModel } from './hourly-room';
import { roomEnvelope, type RoomEnvelope, zoneOf } from './room-envelope';
import { windowGains } from './window-gains';

/** The method of rooms, and of gains hour by hour. */
export const ROOM_METHOD = methodOf(
  'points of the glass in a low-discrepancy order, with the area that something covers in the account, and the sky in 4,096 directions; before, a grid of 25 cm and one ray to the middle of each of 577 patches.',
  'light off the ground and off what stands about is traced, and sheets inside take their share of all that comes in; before, light off open ground passed everything, and sheets inside took nothing.',
  'glass inside the ground or a solid gets nothing of open ground, and what throws light back is looked for from sixteen parts of each of its squares; before, such glass got what it would in the open, and every place that a ray met was looked from.',
);

/** Above this the air of a room is said to be too warm, °C. */
export const TOO_WARM_C = 26;

/** A year of a room, hour by hour in local standard time, and what it comes to. */
export interface RoomYear {
  envelope: RoomEnvelope;
  zone: ZoneModel;
  /** Month, day and hour (from 0) at which each hour begins. */
  month: Uint8Array;
  day: Uint8Array;
  hour: Uint8Array;
  outdoorC: Float64Array;
  beamW: Float64Array;
  skyW: Float64Array;
  groundW: Float64Array;
  insideC: Float64Array;
  heatingW: Float64Array;
  coolingW: Float64Array;
  /** kWh by month. */
  heating: number[];
  cooling: number[];
  solar: number[];
  /** What the year's sums of these may be off by (±), kWh, from the points of the glass. */
  error: { heating: number; cooling: number; solar: number };
  /** Hours in which the air is over 26 °C when nothing is cooled. */
  tooWarmH: number;
  /** Hours in which blinds are down. */
  blindsDownH: number;
  notes: string[];
}

/**
 * Heating, cooling and temperatures of a room through a weather year, as it stands in an option: gains through its windows
 * hour by hour, then the simple hourly method of ISO 13790. For comparison under stated assumptions.
 * Throws InputError `weather` or `room`.
 */
export function roomYear(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  room: Room,
  assumed: RoomAssumptions,
  given: WeatherYear | null = null,
): RoomYear {
  const { hours, weather, standardTimeH, notes: about } = hoursAtSite(project, given);
  const envelope = roomEnvelope(project, optionId, meshes, room);
  const zone = zoneOf(envelope, assumed);
  const notes = [...about];
  const count = hours.length;
  const make = () => new Float64Array(count);
  const [beamW, skyW, groundW] = [make(), make(), make()];
  const [month, day, hour] = [new Uint8Array(count), new Uint8Array(count), new Uint8Array(count)];
  const at = new Map<number, number>();
  const partsW = Array.from({ length: POINT_PARTS }, make);
  let blindsDownH = 0;
  hours.forEach(({ startMs }, i) => {
    const local = new Date(startMs + standardTimeH * 3_600_000);
    month[i] = local.getUTCMonth() + 1;
    day[i] = local.getUTCDate();
    hour[i] = local.getUTCHours();
    at.set(month[i]! * 10_000 + day[i]! * 100 + hour[i]!, i);
  });
  if (envelope.glazed.length === 0) notes.push(`“${room.name}” has no window: no sun comes in.`);
  else {
    const gains = windowGains({
      project,
      optionId,
      meshes,
      places: envelope.glazed,
      optionOf: room.optionId,
      weather,
    });
    gains.stamps.forEach((stamp, k) => {
      const i = at.get(stamp);
      if (i === undefined) return;
      const whole = gains.beamW[k]! + gains.skyW[k]! + gains.groundW[k]!;
      const isDown = assumed.blindsPass < 1 && whole > assumed.blindsWm2 * envelope.windowsM2;
      const pass = isDown ? assumed.blindsPass : 1;
      if (isDown) blindsDownH++;
      beamW[i] = gains.beamW[k]! * pass;
      skyW[i] = gains.skyW[k]! * pass;
      groundW[i] = gains.groundW[k]! * pass;
      partsW.forEach((part, b) => (part[i] = gains.partsW[b]![k]! * pass));
    });
  }
  const outdoorC = outdoorOf(weather, hours, notes);
  const area = envelope.floorM2;
  const year = {
    outdoorC,
    solarW: beamW.map((beam, i) => beam + skyW[i]! + groundW[i]!),
    internalW: make().fill(assumed.internalWm2 * area),
  };
  const power = { heatW: assumed.heatWm2 * area, coolW: assumed.coolWm2 * area };
  const kept = hourlyRoom(zone, year, { heatC: assumed.heatC, coolC: assumed.coolC, ...power });
  // The same room by each eighth of the points alone: what these differ by is the error.
  const byPart = partsW.map((solarW) => {
    const part =
      envelope.glazed.length === 0
        ? kept
        : hourlyRoom(zone, { ...year, solarW }, { heatC: assumed.heatC, coolC: assumed.coolC, ...power });
    return { heating: kWhOf(part.heatingW), cooling: kWhOf(part.coolingW), solar: kWhOf(solarW) };
  });
  const errorOf = (what: keyof RoomYear['error']) =>
    partsError(byPart.map((part) => part[what] / POINT_PARTS));
  const uncooled = hourlyRoom(zone, year, { heatC: assumed.heatC, coolC: null, ...power });
  const byMonth = (values: Float64Array) => {
    const sums = new Array<number>(12).fill(0);
    values.forEach((watts, i) => (sums[month[i]! - 1]! += watts / 1000));
    return sums;
  };
  return {
    envelope,
    zone,
    month,
    day,
    hour,
    outdoorC,
    beamW,
    skyW,
    groundW,
    insideC: kept.airC,
    heatingW: kept.heatingW,
    coolingW: kept.coolingW,
    heating: byMonth(kept.heatingW),
    cooling: byMonth(kept.coolingW),
    solar: byMonth(year.solarW),
    error: { heating: errorOf('heating'), cooling: errorOf('cooling'), solar: errorOf('solar') },
    blindsDownH,
    tooWarmH: uncooled.airC.reduce((sum, air) => sum + Number(air > TOO_WARM_C), 0),
    notes,
  };
}

const kWhOf = (watts: Float64Array) => watts.reduce((sum, one) => sum + one, 0) / 1000;

/** Outside temperatures of the hours; where one is missing, that of the hour before. */
function outdoorOf(
  weather: WeatherYear,
  hours: readonly { record: number }[],
  notes: string[],
): Float64Array {
  const { dryBulb } = weather.values;
  let last = hours.map(({ record }) => dryBulb[record]!).find((value) => !Number.isNaN(value)) ?? NaN;
  let missing = 0;
  const found = Float64Array.from(hours, ({ record }) => {
    const value = dryBulb[record]!;
    if (Number.isNaN(value)) missing++;
    else last = value;
    return last;
  });
  if (missing > 0)
    notes.push(`In ${missing} hours the file has no temperature; that of the hour before is taken.`);
  return found;
}
