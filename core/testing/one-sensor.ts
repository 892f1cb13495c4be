import { RAD } from '../src/civil';
import { add } from '../src/document';
import { emptyProject, type Mass, type Project, type Study, type Target } from '../src/project';
import { planStudy, runStudy } from '../src/study';
import { climateAt, makeUpYear, sunOfHours } from '../src/weather';

const NONE = new Map();
export const PLACE = {
  name: 'Nowhere',
  latitudeDeg: 51.48,
  longitudeDeg: -0.1,
  standardTimeH: 0,
  elevationM: 20,
};
export const WEATHER = makeUpYear(PLACE, climateAt(51.48), 5, 2026);
export const HOURS = sunOfHours(WEATHER, PLACE, 0, 2026).hours;
const MAY = { from: '2026-05-01', to: '2026-05-31', startMinutes: 0, endMinutes: 1440 };
export const ofMay = HOURS.filter(({ record }) => WEATHER.month[record] === 5);

export type Vector = readonly [number, number, number];

/** A small target that faces upwards or an azimuth, and its normal. */
export function plane(at: Vector, azimuthDeg: number | null): { target: Target; normal: Vector } {
  const a = (azimuthDeg ?? 0) * RAD;
  const level = azimuthDeg === null;
  const normal: Vector = level ? [0, 0, 1] : [Math.sin(a), Math.cos(a), 0];
  const u: [number, number, number] = level ? [1, 0, 0] : [-Math.cos(a), Math.sin(a), 0];
  const v: [number, number, number] = level ? [0, 1, 0] : [0, 0, 1];
  const offsetM = 0.001;
  const side = 0.2;
  const origin = [0, 1, 2].map((k) => at[k]! - (side / 2) * (u[k]! + v[k]!) - offsetM * normal[k]!) as [
    number,
    number,
    number,
  ];
  const outline: [number, number][] = [
    [0, 0],
    [side, 0],
    [side, side],
    [0, side],
  ];
  return {
    normal,
    target: {
      id: 't',
      name: 'T',
      kind: 'plane',
      origin,
      u,
      v,
      outline,
      holes: [],
      spacingM: side,
      offsetM,
      of: null,
    },
  };
}

/** What a study of insolation over May finds at a point among masses. */
export function found(
  target: Target,
  masses: Mass[],
  change: (site: Project['site']) => Project['site'] = (site) => site,
): { sky: number; insolation: number; beam: number; ground: number; facing: number } {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Etc/UTC' };
  made.site = change(made.site);
  made.options[1]!.masses.push(...masses);
  const study: Study = {
    id: 's',
    name: 'S',
    kind: 'insolation',
    targets: ['t'],
    window: MAY,
    stepMinutes: 10,
    criterion: { atLeast: 1, share: 0.5, source: '' },
    scale: null,
  };
  const project: Project = add('studies', study)(add('targets', target)(made));
  const plan = planStudy(project, 'a', study, NONE, WEATHER);
  const values = runStudy(project, plan, NONE);
  return Object.fromEntries(Object.entries(values).map(([key, all]) => [key, all[0]!])) as ReturnType<
    typeof found
  >;
}

export const rect = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
