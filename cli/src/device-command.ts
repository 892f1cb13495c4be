import {
  assembleScene,
  cutOffOf,
  type Device,
  deviceProblems,
  type DevicePlace,
  faceAzimuthDeg,
  glassInSun,
  glazedPlaces,
  InputError,
  type MeshStore,
  momentName,
  openingTargetId,
  placesOfDevice,
  type Project,
  READING_METHOD,
  shadowAngles,
  standingScheme,
  sunPosition,
  TODAY,
  withoutDevices,
  type WeatherYear,
  type WindowGain,
  windowYears,
} from '@dial-shade/core';
import { Command } from 'commander';
import { askedMoments, type MomentOptions, withMoments } from './asked-moments';
import { keyOf, wantedPlaces, withScheme } from './device-options';
import { optionId, readProject } from './project-file';
import { readWeatherFile } from './weather-file';

interface Options extends MomentOptions {
  option?: string;
  scheme?: string;
  opening: string;
  weather?: string;
  json?: boolean;
}

/** `device`: what the shading devices of an option do at its openings. */
export function deviceCommand(): Command {
  return withMoments(
    new Command('device')
      .description(
        'the glass in sun at moments with and without devices, cut-off angles, and solar gains by weather',
      )
      .argument('<project>', 'project file'),
  )
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option(
      '--scheme <scheme>',
      'name or id of the scheme; “none” for no devices; the one that stands when left out',
    )
    .requiredOption('--opening <opening>', 'id or name of a glazed opening, OWNER/OPENING, or “all”')
    .option('--weather <file>', 'EPW or CSV: solar gains of its year too')
    .option('--json', 'print JSON')
    .action(async (path: string, options: Options) => {
      const read = await readProject(path);
      const { meshes } = read;
      const id = optionId(read.project, options.option ?? TODAY);
      const project = withScheme(read.project, id, options.scheme);
      const hasMoments = options.set !== undefined || options.at !== undefined;
      if (!hasMoments && !options.weather)
        throw new InputError(
          'at',
          'Ask for moments (--set NAME or --at 2026-03-21T09:30) or for a year (--weather FILE).',
        );
      const moments = hasMoments ? askedMoments(project, options) : [];
      const weather = options.weather ? await readWeatherFile(options.weather) : null;
      const openings = rowsOf(project, id, meshes, options.opening, moments, weather);
      const problems = deviceProblems(project, id, meshes);
      const scheme = standingScheme(project, id)?.name ?? null;
      if (options.json)
        console.log(
          JSON.stringify({ option: id, scheme, method: READING_METHOD.number, openings, problems }, null, 1),
        );
      else for (const sentence of [...problems, ...openings.flatMap(inWords)]) console.log(sentence);
    });
}

/** What the devices of an option do at the openings that are asked about. */
function rowsOf(
  project: Project,
  id: string,
  meshes: MeshStore,
  asked: string,
  moments: readonly number[],
  weather: WeatherYear | null,
) {
  const { place: where, north } = project.site;
  const bodies = glazedPlaces(project, id, meshes);
  const places = wantedPlaces(
    bodies.flatMap((body) => body.places),
    asked,
  );
  const hung = (standingScheme(project, id)?.devices ?? []).map((device) => ({
    device,
    at: new Set(placesOfDevice(device, bodies, north.trueNorthDeg).map(keyOf)),
  }));
  const wanted = new Set(places.map(keyOf));
  const scene = assembleScene(project, id, meshes);
  const found = moments.map((atMs) =>
    glassInSun(project, id, meshes, atMs, { wanted: (place) => wanted.has(keyOf(place)), scene }),
  );
  const gains = weather && {
    with: windowYears(project, id, meshes, places, weather),
    without: windowYears(withoutDevices(project, id), id, meshes, places, weather),
  };
  return places.map((place, i) => {
    const azimuthDeg = faceAzimuthDeg(place.face.normal, north.trueNorthDeg);
    const target = openingTargetId(place);
    return {
      opening: keyOf(place),
      name: place.opening.name,
      body: place.owner.name,
      storey: place.face.host.on === 'wall' ? place.face.host.storey : null,
      azimuth_deg: azimuthDeg,
      width_m: place.box.u1 - place.box.u0,
      height_m: place.box.v1 - place.box.v0,
      devices: hung.filter(({ at }) => at.has(keyOf(place))).map(({ device }) => cutOffRow(device, place)),
      moments: moments.map((atMs, m) => momentRow(atMs, found[m]![i]!, azimuthDeg, where)),
      ...(gains && {
        gains: { with: gainRow(gains.with.get(target)!), without: gainRow(gains.without.get(target)!) },
      }),
    };
  });
}

const gainRow = ({ kWh: sum, error, months, monthErrors }: WindowGain) => ({
  kWh: sum,
  error_kWh: error,
  months,
  month_errors: monthErrors,
});

const kWh = (gain: ReturnType<typeof gainRow>) => `${gain.kWh.toFixed(0)} ± ${gain.error_kWh.toFixed(1)} kWh`;

/** A row in words, a line a fact. */
function inWords({
  body,
  name,
  opening,
  devices,
  moments,
  gains,
}: ReturnType<typeof rowsOf>[number]): string[] {
  const percent = (share: number) => `${(share * 100).toFixed(1)} %`;
  const hung = devices.length ? `: ${devices.map((device) => device.name).join(', ')}` : '';
  return [
    `${body}, ${name} (${opening})${hung}`,
    ...moments.map(
      (m) =>
        `  ${m.moment}: ${percent(m.in_sun)} of the glass in sun, ${percent(m.in_sun_without)} without devices`,
    ),
    ...(gains ? [`  solar gain ${kWh(gains.with)} a year, ${kWh(gains.without)} without devices`] : []),
  ];
}

function cutOffRow(device: Device, { box }: DevicePlace) {
  const { vsaDeg, hsaRightDeg, hsaLeftDeg } = cutOffOf(device.make, box);
  return {
    name: device.name,
    kind: device.make.kind,
    cut_off_vsa_deg: vsaDeg,
    cut_off_hsa_right_deg: hsaRightDeg,
    cut_off_hsa_left_deg: hsaLeftDeg,
  };
}

function momentRow(
  atMs: number,
  { areaM2, sunlitM2, bareM2 }: { areaM2: number; sunlitM2: number; bareM2: number },
  azimuthDeg: number | null,
  where: Project['site']['place'],
) {
  const sun = sunPosition(atMs, where);
  const angles = azimuthDeg === null ? null : shadowAngles(sun.altitudeDeg, sun.azimuthDeg, azimuthDeg);
  const share = (m2: number) => (areaM2 > 0 ? Math.round((m2 / areaM2) * 1e6) / 1e6 : 0);
  return {
    moment: momentName(atMs, where.zone),
    altitude_deg: sun.altitudeDeg,
    hsa_deg: angles?.hsaDeg ?? null,
    vsa_deg: angles?.vsaDeg ?? null,
    in_sun: share(sunlitM2),
    in_sun_without: share(bareM2),
  };
}
