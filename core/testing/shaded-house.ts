import { addMass } from '../src/document';
import { type DeviceMake, emptyProject, type Project } from '../src/project';
import { shadowAngles, sunPosition } from '../src/sun';
import { block, opening, rect } from './blocks';

// A wall that faces south, drawing north true north; a window 2 m wide, 1 m high, its pane in the plane of the wall.
export const NONE = new Map();
export const WINDOW = { u: 4, v: 1, width: 2, height: 1 };

export function house(make: DeviceMake | null, revealM = 0): Project {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, latitudeDeg: 47, longitudeDeg: 8, zone: 'Etc/GMT-1' };
  const { u, v, width, height } = WINDOW;
  const mass = {
    ...block('m', 0, 0, 10, 8),
    openings: [opening('o', rect(u, v, width, height), { revealM })],
  };
  const project = addMass('a', mass)(made);
  const option = project.options.find(({ id }) => id === 'a')!;
  if (make)
    option.schemes = [
      {
        id: 's',
        name: 'Scheme',
        devices: [
          {
            id: 'd',
            name: 'Device',
            scope: { owners: null, sectors: null, storeys: null },
            openings: null,
            make,
          },
        ],
      },
    ];
  option.scheme = make && 's';
  return project;
}

/** A moment of a day by the hour of standard time. */
export const at = (hour: number, date = '2026-06-10') =>
  Date.parse(`${date}T00:00:00+01:00`) + hour * 3_600_000;

/** The sun and its shadow angles before the wall. */
export function anglesAt(ms: number, project: Project) {
  const { altitudeDeg, azimuthDeg } = sunPosition(ms, project.site.place);
  return { altitudeDeg, azimuthDeg, ...shadowAngles(altitudeDeg, azimuthDeg, 180) };
}

/** An overhang without ends, a slab of 60 cm. */
export const OVERHANG = {
  kind: 'overhang',
  depthM: 0.6,
  aboveM: 0.1,
  sideM: 30,
  thicknessM: 0.05,
  tiltDeg: 0,
} as const;
