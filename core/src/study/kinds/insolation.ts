import { hourSky, skyVault } from '../../sky';
import { sunVector } from '../../sun';
import { cosineTo, type Directions, openShare, studyKind } from './kind';
import { hoursAtSite, middleOf, shareInWindow } from './weather-samples';
import { dayNumber } from '../../scene';
import { clockAt } from '../../civil';

/** Share of the global radiation that the ground throws back. */
const ALBEDO = 0.2;
/** Patches a side of each of the 145. */
const SUBDIVISION = 2;

/** Suns of the hours with beam, then the patches of the vault. */
interface RadiationSamples extends Directions {
  suns: number;
  /** Wh/m² on a plane that faces the direction. */
  energy: Float64Array;
  /** Global on the open level over the window, Wh/m². */
  global: number;
  notes: string[];
}

const figure = (key: string, label: string, definition: string) => ({
  key,
  label,
  unit: 'kWh/m²',
  heading: `${key} (kWh/m2)`,
  digits: 1,
  definition,
});

/** Solar radiation on the outside of a surface over a window of time. */
export const insolation = studyKind<RadiationSamples>({
  kind: 'insolation',
  name: 'Insolation',
  purpose: 'How much solar radiation falls on each point in a window of time, by the weather of a year.',
  hasWindow: true,
  needsWeather: true,
  ramp: 'heat',
  most: null,
  atLeast: 500,
  measures: [
    figure(
      'insolation',
      'Insolation',
      'Beam, sky and ground-reflected radiation on the outside of the surface, over the hours of the window, by the weather year.',
    ),
    figure(
      'beam',
      'Beam',
      'Beam normal radiation of each hour × cos θ, where the ray to the sun of the hour is open.',
    ),
    figure(
      'sky',
      'Sky',
      'Radiation of the open patches of the sky × cos θ: 577 patches, hour by hour by Perez, Seals & Michalsky 1993, scaled to the hour’s diffuse horizontal.',
    ),
    figure(
      'ground',
      'Ground',
      'Albedo 0.2 × global horizontal × (1 − n_z)/2: what level ground throws back, with nothing in its way.',
    ),
  ],
  directions(project, study, weather) {
    const { site } = project;
    const { hours, notes } = hoursAtSite(project, study, weather);
    const shareOf = shareInWindow(study.window, project);
    const vault = skyVault(SUBDIVISION, site.north.trueNorthDeg);
    const sky = new Float64Array(vault.count);
    const one = new Float64Array(vault.count);
    const [vectors, energy, date]: [number[], number[], number[]] = [[], [], []];
    let global = 0;
    for (const hour of hours) {
      const share = shareOf(hour);
      if (share <= 0) continue;
      global += hour.globalHorizontal * share;
      hourSky(vault, hour, one);
      for (let p = 0; p < vault.count; p++) sky[p]! += one[p]! * share;
      if (!hour.sun || hour.beamNormal <= 0) continue;
      vectors.push(...sunVector(hour.sun.altitudeDeg, hour.sun.azimuthDeg, site.north.trueNorthDeg));
      energy.push(hour.beamNormal * share);
      date.push(dayNumber(clockAt(hour.sun.atMs, site.place.zone).date));
    }
    const suns = energy.length;
    return {
      count: suns + vault.count,
      vectors: Float64Array.from([...vectors, ...vault.vectors]),
      date: Uint16Array.from([...date, ...new Array<number>(vault.count).fill(middleOf(study.window))]),
      suns,
      energy: Float64Array.from([...energy, ...sky]),
      global,
      notes,
    };
  },
  notes: ({ notes }) => notes,
  weigh(open, { count, suns, vectors, energy, global }, { normals }) {
    const make = () => new Float32Array(open.sensors);
    const [whole, beam, sky, ground] = [make(), make(), make(), make()];
    for (let s = 0; s < open.sensors; s++) {
      const sums = [0, 0];
      for (let d = 0; d < count; d++) {
        const share = openShare(open, count, s, d);
        if (share > 0)
          sums[d < suns ? 0 : 1]! += share * energy[d]! * cosineTo(normals, open.from + s, vectors, d);
      }
      const up = normals[(open.from + s) * 3 + 2]!;
      const reflected = (ALBEDO * global * (1 - up)) / 2;
      beam[s] = sums[0]! / 1000;
      sky[s] = sums[1]! / 1000;
      ground[s] = reflected / 1000;
      whole[s] = (sums[0]! + sums[1]! + reflected) / 1000;
    }
    return { insolation: whole, beam, sky, ground };
  },
});
