import { type DevicePlace, type DeviceStation, deviceStations } from '../devices';
import { RAD } from '../civil';
import { InputError } from '../errors';
import { dot, type Point3 } from '../geometry';
import type { Device, DeviceMake, HourSet } from '../project';
import { isOpen, maskWords } from '../trace';
import { cosinesBefore, refuseWithoutWeather, sunsInSet } from './glass-sky';
import { type GlassAsked, type GlassPrecision, GlassYear } from './glass-year';

/** A plane in which shade may be had, in the frame of a plate (see the project file), and how much of it is looked at. */
export interface WorthPlane {
  aboveM: number;
  offM: number;
  tiltDeg: number;
  /** Beyond both ends of what it hangs on, metres along the facade. */
  sideM: number;
  /** From the line outwards, metres. */
  outM: number;
  /** Side of a cell, metres. */
  cellM: number;
}

/** What each cell of a plane would keep off the glass if it blocked. */
export interface WorthMap {
  columns: number;
  rows: number;
  cellM: number;
  /** Where the first cell begins along the facade, from the middle of what it hangs on; across it begins at the line. */
  x0: number;
  /** kWh a year, row after row from the line outwards; hours of sun, meaned over the glass, without weather. */
  unwanted: Float64Array;
  wanted: Float64Array;
  /** All of both that reaches the glass without devices, wherever it comes through. */
  unwantedAll: number;
  wantedAll: number;
  unit: 'kWh' | 'h';
}

/** More points than for a reading, so that the map is even. */
const EVEN: GlassPrecision = {
  together: 1024,
  least: 128,
  most: 512,
  parts: 1024,
  rays: { together: 256, least: 32, most: 256 },
};
/** Cells that a map may have. */
const MAX_CELLS = 40_000;

/** The frame of a plate at a station: its line, and the two ways in its plane, in the frame of the face. */
function plateFrame({ box }: DeviceStation, { aboveM, offM, tiltDeg }: WorthPlane) {
  const [sin, cos] = [Math.sin(tiltDeg * RAD), Math.cos(tiltDeg * RAD)];
  return { middle: (box.u0 + box.u1) / 2, v: box.v1 + aboveM, w: offM, sin, cos };
}

/**
 * Where shade is worth having: each pair of a point of the glass and a sun that nothing else shades meets the plane at one
 * spot, and adds there its unwanted and its wanted sun (design: worth of shade). A plate made of a set of cells keeps out
 * the sum of what they have. Throws InputError `worth` and what `GlassYear` throws.
 * @param places windows of one facade; the plane stands at what a device along them would stand at
 */
export function shadeWorth(
  asked: GlassAsked,
  places: readonly DevicePlace[],
  along: Device['along'],
  plane: WorthPlane,
  { unwanted, wanted }: { unwanted: Pick<HourSet, 'source'>; wanted: Pick<HourSet, 'source'> | null },
): WorthMap {
  const stations = deviceStations({ along }, places);
  if (stations.length !== 1)
    throw new InputError(
      'worth',
      'A map of worth is of one window, or of windows that one device runs along; choose fewer.',
    );
  const [station] = stations as [DeviceStation];
  const { cellM, sideM, outM } = plane;
  const width = station.box.u1 - station.box.u0 + 2 * sideM;
  const [columns, rows] = [Math.ceil(width / cellM - 1e-9), Math.ceil(outM / cellM - 1e-9)];
  if (!(columns * rows <= MAX_CELLS))
    throw new InputError(
      'worth',
      `This map would have ${(columns * rows).toLocaleString('en')} cells; ${MAX_CELLS.toLocaleString('en')} fit. Make the cells larger.`,
    );
  const year = new GlassYear(asked, places, EVEN);
  const { sky, grid } = year;
  const { samples } = sky;
  const weights = [unwanted, wanted].map((set) => {
    if (set) refuseWithoutWeather(sky, set);
    const shares = set && sunsInSet(asked.project, sky, asked.weather ?? null, set);
    return shares ? sky.weight.map((one, d) => one * shares[d]!) : new Float64Array(samples.suns);
  }) as [Float64Array, Float64Array];
  const map: WorthMap = {
    columns,
    rows,
    cellM,
    x0: -(columns * cellM) / 2,
    unwanted: new Float64Array(columns * rows),
    wanted: new Float64Array(columns * rows),
    unwantedAll: 0,
    wantedAll: 0,
    unit: sky.hasWeather ? 'kWh' : 'h',
  };
  const { face } = station;
  const { middle, v: lineV, w: lineW, sin, cos } = plateFrame(station, plane);
  const words = maskWords(samples.count);
  for (const { sensors, normal } of year.groups) {
    const cosines = cosinesBefore(samples, normal);
    for (let d = 0; d < samples.suns; d++) {
      const cosine = cosines[d]!;
      if (cosine <= 0 || (weights[0][d] === 0 && weights[1][d] === 0)) continue;
      const sun = [0, 1, 2].map((k) => samples.vectors[d * 3 + k]!) as unknown as Point3;
      const [su, sv, sw] = [dot(sun, face.u), dot(sun, face.v), dot(sun, face.normal)];
      // How fast the ray comes up to the plane, square to it.
      const towards = sv * cos + sw * sin;
      const perM2 = sky.hasWeather ? cosine : 1 / year.areaM2;
      for (const s of sensors) {
        if (!isOpen(year.bare.open.mask, words, s, d)) continue;
        const through = shareOf(year.bare.open.shares?.[s], d);
        const amount = perM2 * grid.areas[s]! * through;
        const [un, want] = [weights[0][d]! * amount, weights[1][d]! * amount];
        map.unwantedAll += un;
        map.wantedAll += want;
        const off = [0, 1, 2].map((k) => grid.positions[s * 3 + k]! - face.origin[k]!) as unknown as Point3;
        const [pu, pv, pw] = [dot(off, face.u), dot(off, face.v), dot(off, face.normal)];
        const distance = (lineV - pv) * cos + (lineW - pw) * sin;
        const way = distance / towards;
        if (!(way > 0)) continue;
        const x = pu + way * su - middle;
        const y = -(pv + way * sv - lineV) * sin + (pw + way * sw - lineW) * cos;
        const [column, row] = [Math.floor((x - map.x0) / cellM), Math.floor(y / cellM)];
        if (column < 0 || column >= columns || row < 0 || row >= rows) continue;
        map.unwanted[row * columns + column]! += un;
        map.wanted[row * columns + column]! += want;
      }
    }
  }
  return map;
}

/** What gets through panes, fences and crowns on the way of an open ray. */
function shareOf(row: { direction: Uint32Array; share: Float32Array } | undefined, d: number): number {
  const at = row ? row.direction.indexOf(d) : -1;
  return at < 0 ? 1 : row!.share[at]!;
}

/** The sizes that the plane of a map gives a plate, but for its outlines. */
export function plateOn(
  { aboveM, offM, tiltDeg }: WorthPlane,
  thicknessM: number,
): Omit<Extract<DeviceMake, { kind: 'plate' }>, 'outlines'> {
  return { kind: 'plate', aboveM, offM, tiltDeg, thicknessM };
}
