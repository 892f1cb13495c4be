import fontUrl from '@fontsource-variable/public-sans/files/public-sans-latin-wght-normal.woff2?url';
import { type Changes, type MeshStore, type Project, withChanges } from '@dial-shade/core';
import { expose } from 'comlink';
import { underlayImage } from '../board/underlay-images';
import { paintSheet, type SheetAsked } from './contact-sheet';
import { type FilmKind, type FilmMoment, type FilmView, viewAt } from './film-plan';
import { canWrite, type FilmWriter, openFilm } from './film-writer';
import { type Painted, Painter } from './painter';
import type { PictureStyle, PictureView } from './picture';

export interface FilmAsked {
  views: readonly FilmView[];
  moments: readonly FilmMoment[];
  style: PictureStyle;
  kind: FilmKind;
  framesPerSecond: number;
}

let project: Project | null = null;
let meshes: MeshStore = new Map();
let painter: Painter | null = null;
let isStopped = false;

/** The typeface of the page, for canvases of this thread; without it the next best is taken. */
const font = (async () => {
  try {
    const face = new FontFace('Public Sans Variable', `url(${fontUrl})`, { weight: '100 900' });
    (self as unknown as { fonts: FontFaceSet }).fonts.add(await face.load());
  } catch {
    // The generic family of the list stands in.
  }
})();

/** The document at hand with what it names, the pictures on the ground among it. Throws where one of them cannot be had. */
async function things(): Promise<Painted> {
  const shown = project!.underlays.filter((underlay) => underlay.shown);
  const images = await Promise.all(
    shown.map(async ({ picture }) => [picture, await underlayImage(picture)] as const),
  );
  return { project: project!, meshes, images: new Map(images) };
}

/** A small copy for lists, longest side in pixels. */
const THUMB_PX = 320;

async function thumbOf(canvas: OffscreenCanvas): Promise<Blob> {
  const share = THUMB_PX / Math.max(canvas.width, canvas.height);
  const small = new OffscreenCanvas(
    Math.max(1, Math.round(canvas.width * share)),
    Math.max(1, Math.round(canvas.height * share)),
  );
  const context = small.getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(canvas, 0, 0, small.width, small.height);
  return small.convertToBlob({ type: 'image/jpeg', quality: 0.82 });
}

const worker = {
  /** Takes a document, or what changed in the one at hand. */
  hold(changes: Changes): void {
    project = withChanges(project, changes);
  },

  holdMeshes(all: MeshStore): void {
    meshes = all;
  },

  /** A picture as PNG, and a small copy as JPEG. */
  async picture(views: readonly PictureView[], style: PictureStyle): Promise<{ picture: Blob; thumb: Blob }> {
    await font;
    painter ??= new Painter();
    const canvas = new OffscreenCanvas(style.width, style.height);
    painter.paint(canvas, await things(), views, style);
    const [picture, thumb] = await Promise.all([
      canvas.convertToBlob({ type: 'image/png' }),
      thumbOf(canvas),
    ]);
    return { picture, thumb };
  },

  sheet: async (asked: SheetAsked, paper: PictureStyle['paper']): Promise<Blob> => {
    await font;
    return paintSheet(asked, paper);
  },

  canWrite,

  /** A film, frame by frame; null when it was stopped. */
  async film(
    { views, moments, style, kind, framesPerSecond }: FilmAsked,
    progress: (frames: number) => void,
  ): Promise<Blob | null> {
    await font;
    painter ??= new Painter();
    isStopped = false;
    const drawn = await things();
    const canvas = new OffscreenCanvas(style.width, style.height);
    canvas.getContext('2d', { willReadFrequently: kind === 'gif' });
    let film: FilmWriter | null = null;
    try {
      film = await openFilm(canvas, kind, framesPerSecond);
      for (const [i, moment] of moments.entries()) {
        const now = views.map((view) => viewAt(view, moment));
        painter.paint(canvas, drawn, now, style);
        await film.add();
        progress(i + 1);
        // Lets a wish to stop come in.
        await new Promise((resolve) => setTimeout(resolve, 0));
        if (isStopped) {
          await film.drop();
          return null;
        }
      }
      return await film.finish();
    } catch (error) {
      await film?.drop().catch(() => {});
      throw error;
    }
  },

  stop(): void {
    isStopped = true;
  },
};

export type PictureWorker = typeof worker;

expose(worker);
