import {
  getDocument,
  GlobalWorkerOptions,
  type PDFDocumentProxy,
  RenderingCancelledException,
} from 'pdfjs-dist';
import workerUrl from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

/** What a PDF may need beside itself: maps of letters, the standard typefaces, decoders; each fetched when it is wanted. */
const FILES = import.meta.glob<string>(
  '../../../node_modules/pdfjs-dist/{cmaps,standard_fonts,wasm}/*.{bcmap,pfb,ttf,wasm}',
  { query: '?url&no-inline', import: 'default', eager: true },
);
const URLS = new Map(
  Object.entries(FILES).map(([path, url]) => [path.slice(path.lastIndexOf('/') + 1), url]),
);

async function fetched(name: string): Promise<Uint8Array> {
  const url = URLS.get(name);
  const response = url === undefined ? null : await fetch(url);
  if (!response?.ok) throw new Error(`${name} cannot be had`);
  return new Uint8Array(await response.arrayBuffer());
}

class OwnFiles {
  fetch = ({ filename }: { filename: string }) => fetched(filename);
}
class OwnLetters {
  fetch = async ({ name }: { name: string }) => ({
    cMapData: await fetched(`${name}.bcmap`),
    isCompressed: true,
  });
}

GlobalWorkerOptions.workerSrc = workerUrl;

/** Points of a page in an inch, and millimetres. */
const POINTS = 72;
const MM = 25.4;
/** How fine a page is drawn: dots in an inch at most, and pixels of its longer side. */
const MAX_DPI = 300;
const MAX_SIDE_PX = 6000;

/** A page as a picture: a PNG, and how many millimetres of the paper a pixel is. */
export interface PdfPicture {
  picture: Blob;
  mmPerPixel: number;
}

/** An open PDF. */
export class PdfPages {
  private stop: (() => void) | null = null;

  private constructor(private readonly pdf: PDFDocumentProxy) {}

  /** Opens a PDF. Throws with a sentence where it cannot be. */
  static async open(file: File): Promise<PdfPages> {
    const task = getDocument({
      data: new Uint8Array(await file.arrayBuffer()),
      CMapReaderFactory: OwnLetters,
      StandardFontDataFactory: OwnFiles,
      WasmFactory: OwnFiles,
      useWorkerFetch: false,
      isEvalSupported: false,
    });
    try {
      return new PdfPages(await task.promise);
    } catch (error) {
      void task.destroy();
      const isSecret = (error as Error).name === 'PasswordException';
      throw new Error(
        isSecret
          ? `“${file.name}” asks for a password; save it without one.`
          : `“${file.name}” cannot be read as a PDF; it may be cut off.`,
        { cause: error },
      );
    }
  }

  get count(): number {
    return this.pdf.numPages;
  }

  /** Width and height of the paper of a page, millimetres, as it is seen. */
  async paper(page: number): Promise<{ widthMm: number; heightMm: number }> {
    const { width, height } = (await this.pdf.getPage(page)).getViewport({ scale: 1 });
    return { widthMm: (width / POINTS) * MM, heightMm: (height / POINTS) * MM };
  }

  /** Draws a page onto a canvas, so fine that its longer side has at most so many pixels; null where it was stopped. */
  async draw(
    page: number,
    longestPx: number,
  ): Promise<{ canvas: HTMLCanvasElement; mmPerPixel: number } | null> {
    this.stop?.();
    const found = await this.pdf.getPage(page);
    const plain = found.getViewport({ scale: 1 });
    const scale = Math.min(MAX_DPI / POINTS, longestPx / Math.max(plain.width, plain.height));
    const viewport = found.getViewport({ scale });
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.floor(viewport.width));
    canvas.height = Math.max(1, Math.floor(viewport.height));
    const task = found.render({ canvas, viewport });
    this.stop = () => task.cancel();
    try {
      await task.promise;
    } catch (error) {
      if (error instanceof RenderingCancelledException) return null;
      throw error;
    }
    return { canvas, mmPerPixel: MM / POINTS / scale };
  }

  /** A page as it is laid on the ground; null where it was stopped. */
  async picture(page: number): Promise<PdfPicture | null> {
    const drawn = await this.draw(page, MAX_SIDE_PX);
    if (!drawn) return null;
    const picture = await new Promise<Blob | null>((resolve) => drawn.canvas.toBlob(resolve, 'image/png'));
    if (!picture) throw new Error('The page is too large to be drawn as a picture.');
    return { picture, mmPerPixel: drawn.mmPerPixel };
  }

  /** Ends what is being drawn, and lets go of the file. */
  close(): void {
    this.stop?.();
    void this.pdf.destroy();
  }
}
