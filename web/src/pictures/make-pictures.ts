import { InputError, type Project } from '@dial-shade/core';
import { proxy } from 'comlink';
import { Zip, ZipPassThrough } from 'fflate';
import { saveFile } from '../app/save-file';
import { api, PICTURES_A_PAGE } from '../state/api';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, useProject } from '../state/project-store';
import {
  type FilmCourse,
  type FilmKind,
  filmMoments,
  type FilmView,
  mostFrames,
  wrongFilmSize,
} from './film-plan';
import {
  distinct,
  filmName,
  pictureName,
  type PictureStyle,
  type PictureView,
  slug,
  wrongSize,
} from './picture';
import { pictureMaker } from './picture-maker';
import { type SetPicture, sheetOf, type SheetAlong } from './picture-set';
import { type Job, type MadeSet, usePictures } from './pictures-store';

const SPEED_KEY = 'dial-shade:picture-seconds';

/** Seconds that a picture has lately taken for each million pixels, or null. */
export function pictureSpeed(): number | null {
  const kept = Number(localStorage.getItem(SPEED_KEY));
  return kept > 0 && Number.isFinite(kept) ? kept : null;
}

function noteSpeed(seconds: number, { width, height }: PictureStyle): void {
  const now = seconds / ((width * height) / 1e6);
  const before = pictureSpeed();
  localStorage.setItem(SPEED_KEY, String(before === null ? now : before * 0.7 + now * 0.3));
}

/** Stops what is being made; what is made already stays. */
export function stopMaking(): void {
  usePictures.setState({ isStopped: true });
  void pictureMaker.bare().stop();
}

const projectId = () => useProject.getState().id!;
const maker = (project: Project) => pictureMaker.with(project, useMeshes.getState().meshes);

export async function loadGallery(): Promise<void> {
  const id = projectId();
  try {
    const gallery = await api.pictures(id);
    if (projectId() === id) usePictures.setState({ gallery, hasMore: gallery.length === PICTURES_A_PAGE });
  } catch (error) {
    notify((error as Error).message, true);
  }
}

export async function loadMore(): Promise<void> {
  const { gallery } = usePictures.getState();
  try {
    const more = await api.pictures(projectId(), gallery.length);
    usePictures.setState({ gallery: [...gallery, ...more], hasMore: more.length === PICTURES_A_PAGE });
  } catch (error) {
    notify((error as Error).message, true);
  }
}

export async function removePicture(id: string): Promise<void> {
  try {
    await api.removePicture(id);
    usePictures.setState(({ gallery }) => ({ gallery: gallery.filter((one) => one.id !== id) }));
  } catch (error) {
    notify((error as Error).message, true);
  }
}

async function keep(view: PictureView, name: string, picture: Blob, thumb: Blob): Promise<void> {
  const { optionId, viewpoint, date, minutes } = view;
  const id = projectId();
  const kept = await api.keepPicture(id, { name, optionId, viewpoint, date, minutes }, picture, thumb);
  if (projectId() === id) usePictures.setState(({ gallery }) => ({ gallery: [kept, ...gallery] }));
}

/** Works on a job; whatever goes wrong is said, and what is made already stays. */
async function work(what: Job['what'], total: number, make: () => Promise<string>): Promise<void> {
  if (usePictures.getState().job) return;
  usePictures.setState({
    isStopped: false,
    job: { what, done: 0, total, began: performance.now(), secondsEach: null },
    outcome: null,
  });
  try {
    usePictures.setState({ outcome: await make() });
  } catch (error) {
    const { message } = error as Error;
    usePictures.setState({
      outcome:
        error instanceof InputError || message.endsWith('.') ? message : `It could not be made: ${message}.`,
    });
  } finally {
    usePictures.setState({ job: null });
  }
}

const step = (done: number) =>
  usePictures.setState(({ job }) => ({
    job: job && { ...job, done, secondsEach: (performance.now() - job.began) / 1000 / done },
  }));

/** Makes a picture of views that lie beside one another, and keeps it, or saves it as a file. */
export async function makePicture(
  views: readonly PictureView[],
  style: PictureStyle,
  to: 'gallery' | 'file',
): Promise<void> {
  const wrong = wrongSize(style.width, style.height);
  if (wrong) {
    usePictures.setState({ outcome: wrong });
    return;
  }
  await work('pictures', 1, async () => {
    const project = currentProject();
    const began = performance.now();
    const { picture, thumb } = await maker(project).picture(views, style);
    noteSpeed((performance.now() - began) / 1000, style);
    const view = views.length === 1 ? views[0]! : { ...views[0]!, viewpoint: 'board' };
    const name = pictureName(project, view);
    if (to === 'file') {
      saveFile(picture, `${name}.png`, 'image/png');
      return `${name}.png was saved.`;
    }
    await keep(view, name, picture, thumb);
    return `${name} is in the gallery.`;
  });
}

/** Makes the pictures of a set one after another; those made stay when it is stopped. */
export async function makeSet(
  set: readonly SetPicture[],
  style: PictureStyle,
  isKept: boolean,
): Promise<void> {
  const wrong = wrongSize(style.width, style.height);
  if (wrong) {
    usePictures.setState({ outcome: wrong });
    return;
  }
  const made: MadeSet = { pictures: [], style };
  usePictures.setState({ made: null });
  await work('pictures', set.length, async () => {
    const project = currentProject();
    const names = distinct(set.map(({ view }) => pictureName(project, view)));
    try {
      for (const [i, one] of set.entries()) {
        const began = performance.now();
        const { picture, thumb } = await maker(project).picture([one.view], style);
        noteSpeed((performance.now() - began) / 1000, style);
        made.pictures.push({ ...one, name: names[i]!, picture });
        if (isKept) await keep(one.view, names[i]!, picture, thumb);
        step(i + 1);
        if (usePictures.getState().isStopped) break;
      }
    } finally {
      if (made.pictures.length) usePictures.setState({ made });
    }
    const { length } = made.pictures;
    return length < set.length
      ? `Stopped: ${length} of ${set.length} pictures are made.`
      : `${length} pictures are made.`;
  });
}

/** Bytes that a zip may have without extensions of its format. */
const MAX_ZIP_BYTES = 4e9;

/** The pictures of a set as one zip, put together one picture at a time. */
export async function saveZip({ pictures }: MadeSet): Promise<void> {
  if (pictures.reduce((sum, { picture }) => sum + picture.size, 0) > MAX_ZIP_BYTES) {
    notify('These pictures are more than 4 GB, too much for one zip; make the set in parts.', true);
    return;
  }
  const parts: Blob[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    parts.push(new Blob([chunk as Uint8Array<ArrayBuffer>]));
  });
  for (const { name, picture } of pictures) {
    const file = new ZipPassThrough(`${name}.png`);
    zip.add(file);
    file.push(new Uint8Array(await picture.arrayBuffer()), true);
  }
  zip.end();
  saveFile(new Blob(parts), `${slug(currentProject().name)}_pictures.zip`, 'application/zip');
}

/** The pictures of a set as one sheet: one of its dimensions along, the others down. */
export async function saveSheet(made: MadeSet, along: SheetAlong): Promise<void> {
  try {
    const project = currentProject();
    const sheet = await maker(project).sheet(
      sheetOf(project, made.pictures, along, made.style),
      made.style.paper,
    );
    saveFile(sheet, `${slug(project.name)}_contact-sheet.png`, 'image/png');
  } catch (error) {
    notify(`The contact sheet could not be made: ${(error as Error).message}`, true);
  }
}

/** Makes a film and saves it as a file. */
export async function makeFilm(
  views: readonly FilmView[],
  style: PictureStyle,
  kind: FilmKind,
  framesPerSecond: number,
  course: FilmCourse,
): Promise<void> {
  const { width, height } = style;
  const wrong = wrongSize(width, height) ?? wrongFilmSize(kind, width, height);
  const project = currentProject();
  let moments: ReturnType<typeof filmMoments>;
  try {
    if (wrong) throw new InputError('film', wrong);
    moments = filmMoments(course, project.site, mostFrames(kind, width, height));
  } catch (error) {
    usePictures.setState({ outcome: (error as Error).message });
    return;
  }
  await work('film', moments.length, async () => {
    const asked = { views, moments, style, kind, framesPerSecond };
    const film = await maker(project).film(asked, proxy(step));
    if (!film) return 'Stopped; no film was saved.';
    const first = { ...views[0]!, ...(views.length > 1 && { viewpoint: 'board' }), ...moments[0]! };
    const name = `${filmName(project, first, course.kind)}.${kind}`;
    saveFile(film, name, film.type);
    const seconds = Number((moments.length / framesPerSecond).toFixed(2));
    return `${name} was saved: ${moments.length} frames, ${seconds} s, ${(film.size / 1e6).toFixed(2)} MB.`;
  });
}
