import {
  type Camera,
  type Drawing,
  formatClock,
  instantOf,
  type Option,
  type Project,
  type RayStretch,
  type Strip,
  sunPosition,
  type StudyResult,
} from '@dial-shade/core';
import { longDate, zoneInWords } from '../almanac/wording';
import type { RoomsShown } from '../board/room-objects';
import type { ShadeRegions } from '../board/shade-objects';
import type { ResultStyle } from '../board/result-cells';

/** A view of a picture: what a pane of the board shows, at one moment. */
export interface PictureView {
  optionId: string;
  date: string;
  minutes: number;
  camera: Camera;
  drawing: Drawing;
  /** Name of the viewpoint, or of the kind of view. */
  viewpoint: string;
  /** Keys of owners that are not drawn. */
  hidden: readonly string[];
  result: { result: StudyResult; look: ResultStyle } | null;
  shade: ShadeRegions | null;
  rooms: RoomsShown | null;
  rays: { stretches: readonly RayStretch[]; strip: Pick<Strip, 'from' | 'to'> | null } | null;
  /** What stands at its upper left corner, as over a plan of a sheet. */
  title: string | null;
  /** Where it lies in the picture, as shares of it. */
  box: { x: number; y: number; width: number; height: number };
}

/** How a picture is made, whatever it shows. */
export interface PictureStyle {
  /** Pixels, with the strip. */
  width: number;
  height: number;
  paper: 'white' | 'paper';
  /** Whether a strip below says what is shown. */
  strip: boolean;
}

export const WHOLE = { x: 0, y: 0, width: 1, height: 1 } as const;

/** Pixels that a side of a picture may have. */
export const MIN_SIDE = 64;
export const MAX_SIDE = 8192;

/** A sentence where a size cannot be had. */
export function wrongSize(width: number, height: number): string | null {
  const isFine = (n: number) => Number.isInteger(n) && n >= MIN_SIDE && n <= MAX_SIDE;
  return isFine(width) && isFine(height)
    ? null
    : `A side of a picture has ${MIN_SIDE} to ${MAX_SIDE} pixels, a whole number.`;
}

/** A part of a file name: letters and figures of any script, the rest as single hyphens. */
export function slug(text: string): string {
  return (
    text
      .toLowerCase()
      .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
      .replaceAll(/^-+|-+$/g, '')
      .slice(0, 60) || 'x'
  );
}

export const optionOf = (project: Project, optionId: string): Option =>
  project.options.find(({ id }) => id === optionId) ?? project.options[0]!;

type Named = Pick<PictureView, 'optionId' | 'viewpoint' | 'date' | 'minutes'>;

const clockPart = (minutes: number) => formatClock(minutes).replace(':', '');

function shownPart(project: Project, { optionId, viewpoint }: Named): string {
  const { letter, name } = optionOf(project, optionId);
  return `${slug(project.name)}_${letter}-${slug(name)}_${slug(viewpoint)}`;
}

/** What a picture is called, without its ending: project, option, viewpoint, date, time. */
export function pictureName(project: Project, shown: Named): string {
  return `${shownPart(project, shown)}_${shown.date}_${clockPart(shown.minutes)}`;
}

/** What a film is called, without its ending: of a day its date, of a season its year and time of day. */
export function filmName(project: Project, first: Named, course: 'day' | 'season'): string {
  const when = course === 'day' ? first.date : `${first.date.slice(0, 4)}_${clockPart(first.minutes)}`;
  return `${shownPart(project, first)}_${when}_${course}`;
}

/** The names, each once: a second of the same name is numbered. */
export function distinct(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name}-${n}`;
    taken.add(free);
    return free;
  });
}

const degrees = (value: number) => `${value.toFixed(1).replace('-', '−')}°`;

/** What the strip says, in three columns of two lines. */
export function stripTexts(project: Project, views: readonly PictureView[]): [string, string][] {
  const { name, site } = project;
  const { latitudeDeg, longitudeDeg, zone } = site.place;
  const first = views[0]!;
  const { letter, name: option } = optionOf(project, first.optionId);
  const isAll = <K extends 'optionId' | 'date' | 'minutes'>(key: K) =>
    views.every((view) => view[key] === first[key]);
  const atMs = instantOf(first.date, first.minutes, zone);
  const sun = sunPosition(atMs, site.place);
  const north = `${Math.abs(latitudeDeg).toFixed(4)}° ${latitudeDeg < 0 ? 'S' : 'N'}`;
  const east = `${Math.abs(longitudeDeg).toFixed(4)}° ${longitudeDeg < 0 ? 'W' : 'E'}`;
  const when: [string, string] =
    isAll('date') && isAll('minutes')
      ? [
          `${longDate(first.date)}, ${formatClock(first.minutes)} (${zoneInWords(atMs, zone)})`,
          sun.altitudeDeg > 0
            ? `sun ${degrees(sun.altitudeDeg)} high, azimuth ${degrees(sun.azimuthDeg)} from true north`
            : 'the sun is below the horizon',
        ]
      : ['several moments', zone];
  return [
    [name, `${north}, ${east}`],
    [
      isAll('optionId') ? `${letter} ${option}` : 'several options',
      views.length > 1 ? `${views.length} views` : first.viewpoint,
    ],
    when,
  ];
}

/** A round length of about a share of what is seen, metres. */
export function scaleBarLength(metresAcross: number): number {
  const wanted = metresAcross * 0.12;
  const power = 10 ** Math.floor(Math.log10(wanted));
  return [5, 2, 1].map((m) => m * power).find((m) => m <= wanted) ?? power;
}
