import { addDays, daylightMinutes, daysBetween, InputError, type Site } from '@dial-shade/core';
import type { PictureView } from './picture';

export type FilmKind = 'gif' | 'webm' | 'mp4';

/** What a film runs along. */
export type FilmCourse =
  | { kind: 'day'; date: string; everyMinutes: number }
  | { kind: 'season'; from: string; to: string; minutes: number; everyDays: number };

export interface FilmMoment {
  date: string;
  minutes: number;
}

export const MAX_FRAMES = 2000;
/** A view of a film: at the moment of each frame, or pinned to its own. */
export type FilmView = PictureView & { isPinned: boolean };

/** A view in a frame. What was measured at the moment at hand (shade, rooms, rays) is not true of another, and left out. */
export function viewAt(view: FilmView, moment: FilmMoment): PictureView {
  return view.isPinned ? view : { ...view, ...moment, shade: null, rooms: null, rays: null };
}

/** Pixels of all frames together. */
const MAX_PIXELS: Record<FilmKind, number> = { gif: 1.2e9, webm: 8e9, mp4: 8e9 };
export const MAX_FILM_SIDE = 3840;
/** Frames per second that every kind of film keeps to the hundredth of a second. */
export const FRAME_RATES = [1, 2, 4, 5, 10, 20, 25, 50] as const;

const frames = (n: number) => Math.floor(n).toLocaleString('en');

/** Frames that a film of a size may have. */
export function mostFrames(kind: FilmKind, width: number, height: number): number {
  return Math.max(1, Math.min(MAX_FRAMES, Math.floor(MAX_PIXELS[kind] / (width * height))));
}

/**
 * The moments of a film, one a frame: of a day from sunrise to sunset, or at one time of the clock through a season. Throws
 * InputError `film` where there are none, or more than `most`.
 */
export function filmMoments(course: FilmCourse, site: Site, most = MAX_FRAMES): FilmMoment[] {
  return course.kind === 'day' ? dayMoments(course, site, most) : seasonMoments(course, most);
}

function tooMany(count: number, most: number, step: string): InputError {
  return new InputError(
    'film',
    `This film would have ${frames(count)} frames; at this size the most is ${frames(most)}: take a step of ${step} or more.`,
  );
}

function dayMoments(
  { date, everyMinutes }: Extract<FilmCourse, { kind: 'day' }>,
  site: Site,
  most: number,
): FilmMoment[] {
  const light = daylightMinutes(date, site);
  if (!light) throw new InputError('film', `The sun does not rise on ${date}.`);
  if (!(everyMinutes > 0)) throw new InputError('film', 'The step of a film is more than 0 minutes.');
  const [from, to] = [Math.max(0, light[0]), Math.min(1439, light[1])];
  const count = Math.floor((to - from) / everyMinutes + 1e-9) + 1;
  if (count > most)
    throw tooMany(count, most, `${Math.ceil(((to - from) / Math.max(1, most - 1)) * 100) / 100} min`);
  return Array.from({ length: count }, (_, i) => ({ date, minutes: from + i * everyMinutes }));
}

function seasonMoments(
  { from, to, minutes, everyDays }: Extract<FilmCourse, { kind: 'season' }>,
  most: number,
): FilmMoment[] {
  if (!Number.isInteger(everyDays) || everyDays < 1)
    throw new InputError('film', 'The step of a season is a whole number of days, 1 or more.');
  const days = daysBetween(from, to);
  if (days < 0) throw new InputError('film', 'The season ends before it begins.');
  const count = Math.floor(days / everyDays) + 1;
  if (count > most) throw tooMany(count, most, `${Math.ceil(days / Math.max(1, most - 1))} days`);
  return Array.from({ length: count }, (_, i) => ({ date: addDays(from, i * everyDays), minutes }));
}

/** A sentence where a film cannot have this size. */
export function wrongFilmSize(kind: FilmKind, width: number, height: number): string | null {
  if (Math.max(width, height) > MAX_FILM_SIDE) return `A side of a film has at most ${MAX_FILM_SIDE} pixels.`;
  if (kind !== 'gif' && (width % 2 || height % 2))
    return 'Width and height of a WebM or MP4 film are even numbers.';
  return null;
}
