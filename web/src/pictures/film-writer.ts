import { GIFEncoder, applyPalette, quantize } from 'gifenc';
import {
  BufferTarget,
  CanvasSource,
  getFirstEncodableVideoCodec,
  Mp4OutputFormat,
  Output,
  QUALITY_HIGH,
  WebMOutputFormat,
} from 'mediabunny';
import type { FilmKind } from './film-plan';

/** Takes the frames of a film one by one, as they stand on its canvas. */
export interface FilmWriter {
  add(): Promise<void>;
  finish(): Promise<Blob>;
  /** Lets go of what was written. */
  drop(): Promise<void>;
}

/** Codecs by kind, the first that the browser encodes. */
const CODECS = { webm: ['vp9', 'vp8', 'av1'], mp4: ['avc', 'av1', 'vp9'] } as const;
const TYPES: Record<FilmKind, string> = { gif: 'image/gif', webm: 'video/webm', mp4: 'video/mp4' };

/** Gives the codec for a kind of film, or null where this browser has none. */
async function codecFor(kind: 'webm' | 'mp4', width: number, height: number) {
  if (typeof VideoEncoder === 'undefined') return null;
  return getFirstEncodableVideoCodec([...CODECS[kind]], { width, height, quality: QUALITY_HIGH });
}

/** Whether this browser can write a kind of film. */
export async function canWrite(kind: FilmKind, width: number, height: number): Promise<boolean> {
  return kind === 'gif' || (await codecFor(kind, width, height)) !== null;
}

/**
 * Opens a film: GIF with a palette of its own for each frame, WebM or MP4 through the encoders of the browser.
 * @throws where the browser has none
 */
export async function openFilm(
  canvas: OffscreenCanvas,
  kind: FilmKind,
  framesPerSecond: number,
): Promise<FilmWriter> {
  return kind === 'gif' ? openGif(canvas, framesPerSecond) : openVideo(canvas, kind, framesPerSecond);
}

function openGif(canvas: OffscreenCanvas, framesPerSecond: number): FilmWriter {
  const gif = GIFEncoder();
  const context = canvas.getContext('2d')!;
  const delay = Math.round(1000 / framesPerSecond);
  return {
    add() {
      const { width, height } = canvas;
      const { data } = context.getImageData(0, 0, width, height);
      const palette = quantize(data, 256);
      gif.writeFrame(applyPalette(data, palette), width, height, { palette, delay });
      return Promise.resolve();
    },
    finish() {
      gif.finish();
      return Promise.resolve(new Blob([gif.bytes() as Uint8Array<ArrayBuffer>], { type: TYPES.gif }));
    },
    drop: () => Promise.resolve(),
  };
}

async function openVideo(
  canvas: OffscreenCanvas,
  kind: 'webm' | 'mp4',
  framesPerSecond: number,
): Promise<FilmWriter> {
  const codec = await codecFor(kind, canvas.width, canvas.height);
  if (!codec) throw new Error(`This browser cannot write ${kind}.`);
  const target = new BufferTarget();
  const format = kind === 'webm' ? new WebMOutputFormat() : new Mp4OutputFormat();
  const output = new Output({ format, target });
  const source = new CanvasSource(canvas, { codec, quality: QUALITY_HIGH, keyFrameInterval: 1 });
  output.addVideoTrack(source, { frameRate: framesPerSecond });
  await output.start();
  let count = 0;
  return {
    add: () => source.add(count++ / framesPerSecond, 1 / framesPerSecond),
    async finish() {
      await output.finalize();
      return new Blob([target.buffer!], { type: TYPES[kind] });
    },
    drop: () => output.cancel(),
  };
}
