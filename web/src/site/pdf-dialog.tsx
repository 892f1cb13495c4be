import { useEffect, useId, useRef, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { NumberField } from '../app/fields';
import { layUnderlay } from './lay-underlay';
import { PdfPages } from './pdf-pages';

/** Pixels of the longer side of the preview. */
const PREVIEW_PX = 560;
const MAX_SCALE = 100_000;

/** An open PDF: how many pages it has once it is open, and how one of them is laid on the ground. */
function usePdf(file: File, onClose: (wrong: string | null) => void) {
  const pages = useRef<PdfPages | null>(null);
  const [count, setCount] = useState<number | null>(null);
  const [isDrawing, setDrawing] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);

  useEffect(() => {
    let isWanted = true;
    PdfPages.open(file).then(
      (opened) => {
        if (!isWanted) {
          opened.close();
          return;
        }
        pages.current = opened;
        setCount(opened.count);
      },
      (error: Error) => isWanted && onClose(error.message),
    );
    return () => {
      isWanted = false;
      pages.current?.close();
      pages.current = null;
    };
    // A file is opened once; whoever closes it is asked then.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [file]);

  /** Draws a page and lays it on the ground, unless the dialog is closed meanwhile. */
  const lay = async (page: number, scale: number | null) => {
    setDrawing(true);
    setWrong(null);
    try {
      const drawn = await pages.current!.picture(page);
      if (!drawn || !pages.current) return;
      const name = `${file.name.replace(/\.pdf$/i, '')}${count! > 1 ? `, page ${page}` : ''}`;
      const metresPerPixel = scale === null ? undefined : (drawn.mmPerPixel / 1000) * scale;
      const refused = await layUnderlay(drawn.picture, name, metresPerPixel);
      setWrong(refused);
      if (refused === null) onClose(null);
    } catch (error) {
      setWrong((error as Error).message);
    } finally {
      setDrawing(false);
    }
  };
  return { pages, count, isDrawing, wrong, lay };
}

/** A page of a PDF is chosen, with the scale that it is drawn to where that is known, and laid on the ground. */
export function PdfDialog({ file, onClose }: { file: File; onClose: (wrong: string | null) => void }) {
  const { pages, count, isDrawing, wrong, lay } = usePdf(file, onClose);
  const [page, setPage] = useState(1);
  const [scale, setScale] = useState<number | null>(null);
  return (
    <Modal show onHide={() => onClose(null)} animation={false} aria-labelledby="pdf-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="pdf-title" className="h6">
          A page of {file.name}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {count === null ? (
          <p>Opening “{file.name}” …</p>
        ) : (
          <>
            {count > 1 && (
              <NumberField
                label="Page"
                unit={`of ${count}`}
                value={page}
                commit={(typed) => {
                  if (!Number.isInteger(typed) || typed < 1 || typed > count)
                    return `There are pages 1 to ${count}.`;
                  setPage(typed);
                  return null;
                }}
              />
            )}
            <PagePreview pages={pages.current!} page={page} />
            <ScaleField scale={scale} change={setScale} />
            <p className="visually-quiet mb-0">
              {scale === null
                ? 'Without a scale it is laid 100 m wide, and scaled by two points and their distance.'
                : 'It is laid as large as it was drawn; check it by two points all the same.'}
            </p>
          </>
        )}
        {wrong && (
          <p role="alert" className="mt-2 mb-0" style={{ color: 'var(--alarm)' }}>
            {wrong}
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <button className="btn btn-quiet" onClick={() => onClose(null)}>
          {isDrawing ? 'Stop' : 'Leave it'}
        </button>
        <button
          className="btn btn-sunlit"
          disabled={count === null || isDrawing}
          onClick={() => void lay(page, scale)}
        >
          {isDrawing ? 'Drawing the page …' : 'Lay it on the ground'}
        </button>
      </Modal.Footer>
    </Modal>
  );
}

/** The scale of the drawing on the paper, as 1 to so much; empty where it is not known. */
function ScaleField({ scale, change }: { scale: number | null; change: (scale: number | null) => void }) {
  const id = useId();
  const [typed, setTyped] = useState(scale === null ? '' : String(scale));
  const value = Number(typed.trim().replace(/^1\s*:\s*/, ''));
  const isWrong = typed.trim() !== '' && !(value >= 1 && value <= MAX_SCALE);
  return (
    <div className="field">
      <label htmlFor={id}>Scale on the paper</label>
      <div className="with-unit">
        <input
          id={id}
          className={`form-control${isWrong ? ' is-invalid' : ''}`}
          value={typed}
          placeholder="1 : 200, if it says one"
          aria-invalid={isWrong}
          onChange={({ target }) => {
            setTyped(target.value);
            const next = Number(target.value.trim().replace(/^1\s*:\s*/, ''));
            change(target.value.trim() !== '' && next >= 1 && next <= MAX_SCALE ? next : null);
          }}
        />
      </div>
      {isWrong && (
        <span className="wrong" role="alert">
          A scale is 1 : 1 to 1 : {MAX_SCALE.toLocaleString('en')}; type for example 1:200.
        </span>
      )}
    </div>
  );
}

/** A page, small, and the size of its paper. */
function PagePreview({ pages, page }: { pages: PdfPages; page: number }) {
  const holder = useRef<HTMLDivElement>(null);
  const [paper, setPaper] = useState('');
  useEffect(() => {
    let isWanted = true;
    void pages
      .paper(page)
      .then(
        ({ widthMm, heightMm }) =>
          isWanted && setPaper(`${Math.round(widthMm)} × ${Math.round(heightMm)} mm`),
      );
    const show = ({ canvas }: { canvas: HTMLCanvasElement }) => {
      canvas.setAttribute('role', 'img');
      canvas.setAttribute('aria-label', `Page ${page}`);
      holder.current?.replaceChildren(canvas);
    };
    pages.draw(page, PREVIEW_PX).then(
      (drawn) => isWanted && drawn && show(drawn),
      () => isWanted && holder.current?.replaceChildren(`Page ${page} cannot be drawn.`),
    );
    return () => {
      isWanted = false;
    };
  }, [pages, page]);
  return (
    <>
      <div ref={holder} className="page-preview" />
      <p className="visually-quiet">{paper && `Paper of ${paper}`}</p>
    </>
  );
}
