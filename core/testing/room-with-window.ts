import { instantOf } from '../src/civil';
import { defaultMass, emptyProject, type Mass, type Project } from '../src/project';
import type { RaysAsked } from '../src/study/rays-asked';
import type { RoomRays } from '../src/study/room-rays';
import { shadowAngles, sunPosition } from '../src/sun';

export const NONE = new Map();
export const SILL = 0.8;
export const HEAD = 2.4;
export const WIDTH = 2;
export const HEIGHT = 3;

/** A room 8 m wide, 10 m deep and 3 m high with a window to the south; without glass unless said. */
export function house(more: Partial<Mass> = {}, glazing: string | null = null): Project {
  const project = emptyProject('P', 2026);
  const outline: [number, number][] = [
    [0, 0],
    [8, 0],
    [8, 10],
    [0, 10],
  ];
  project.options[1]!.masses = [
    {
      ...defaultMass('m', 'House', outline, 1, HEIGHT),
      openings: [
        {
          id: 'w',
          name: '',
          kind: glazing ? 'window' : 'void',
          host: { on: 'wall', ring: 0, edge: 0, storey: 0 },
          outline: { kind: 'rectangle', u: 3, v: SILL, widthM: WIDTH, heightM: HEAD - SILL },
          glazing: glazing ?? 'double',
          revealM: 0,
          openable: false,
          grid: null,
        },
      ],
      ...more,
    },
  ];
  return project;
}

export const ASKED: RaysAsked = {
  room: 'm/0/0',
  opening: null,
  spacingM: 0.1,
  bounces: 0,
  surfaces: { reflectance: 0.5, mirror: 1 },
  strip: null,
  wall: null,
};
export const NOON = (project: Project, date = '2026-03-21', minutes = 735) =>
  instantOf(date, minutes, project.site.place.zone);

export function sunAt(project: Project, atMs: number) {
  const sun = sunPosition(atMs, project.site.place);
  const { hsaDeg, vsaDeg } = shadowAngles(sun.altitudeDeg, sun.azimuthDeg, 180);
  return { hsaDeg, vsaDeg: vsaDeg!, altitudeDeg: sun.altitudeDeg };
}

export const total = ({ counts, leaves, unfollowed }: RoomRays) =>
  counts.reduce((sum, { stays }) => sum + stays.reduce((all, one) => all + one, 0), 0) +
  leaves.reduce((sum, one) => sum + one, 0) +
  unfollowed;
export const lands = ({ counts }: RoomRays, surface: string, bounce: number) =>
  counts.find((count) => count.surface === surface)!.lands[bounce]!;
