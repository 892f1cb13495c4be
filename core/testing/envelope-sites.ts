import fc from 'fast-check';
import { signedArea } from '../src/geometry';
import { type Envelope, emptyProject, type Project, type WindowOfTime } from '../src/project';

export type Pair = [number, number];
export const box = (x0: number, y0: number, x1: number, y1: number): Pair[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
export const DAY = (date: string, from = 10, until = 14): WindowOfTime => ({
  from: date,
  to: date,
  startMinutes: Math.round(from * 60),
  endMinutes: Math.round(until * 60),
});

export function site(latitudeDeg = 47): Project {
  const project = emptyProject('P', 2026);
  project.site.place = { ...project.site.place, latitudeDeg, longitudeDeg: 0, zone: 'Etc/UTC' };
  project.site.boundary = box(0, 0, 20, 15);
  return project;
}

export const envelope = (more: Partial<Envelope> = {}): Envelope => ({
  ...{ id: 'e', name: 'E', keep: [], build: null, setbacksM: [], noBuild: [], limit: null, slope: null },
  ...{ lost: 'keep', storeyM: 3, spacingM: 1 },
  ...more,
});

/** A project with level areas that keep their sun, and the envelope that they make. */
export function keeping(
  areas: { outline: Pair[]; levelM?: number; windows: WindowOfTime[] }[],
  of: Project = site(),
  more: Partial<Envelope> = {},
): { project: Project; asked: Envelope } {
  const project: Project = {
    ...of,
    areas: areas.map(({ outline, levelM }, i) => ({
      id: `a${i}`,
      name: `Area ${i}`,
      use: 'garden' as const,
      outline,
      on: levelM === undefined ? { kind: 'ground' } : { kind: 'level', levelM },
    })),
  };
  const keep = areas.map(({ windows }, i) => ({
    on: 'area' as const,
    id: `a${i}`,
    option: null,
    basis: 'clock' as const,
    windows,
  }));
  return { project, asked: envelope({ keep, ...more }) };
}

const corner = fc.tuple(
  fc.double({ min: -25, max: 45, noNaN: true }),
  fc.double({ min: 16, max: 50, noNaN: true }),
);
export const outlines = fc
  .tuple(corner, corner, corner)
  .map((ring) => (signedArea(ring) < 0 ? [...ring].reverse() : ring) as Pair[])
  .filter((ring) => signedArea(ring) > 8);
export const windows = fc
  .tuple(
    fc.constantFrom('2026-03-21', '2026-06-21', '2026-10-05', '2026-12-21'),
    fc.integer({ min: 7, max: 13 }),
    fc.integer({ min: 1, max: 5 }),
  )
  .map(([date, from, long]) => DAY(date, from, from + long));
