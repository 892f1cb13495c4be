import { useEffect, useRef, useState } from 'react';
import { Splitter } from '../app/splitter';
import { notify } from '../state/notice-store';
import { moveDivider, paneCount, usePanes } from '../state/panes-store';
import { fetchParts } from '../state/part';
import { BoardCanvas } from './board-canvas';
import { PaneFrame } from './pane';
import { boxOfPane } from './pane-boxes';

/** Mark of the moment at which the first view stands. */
const FIRST_DRAWN = 'first drawn';

/** The board: one canvas, and over it one, two or four panes with dividers between them. */
export function Board() {
  const root = useRef<HTMLElement>(null);
  const [board, setBoard] = useState<BoardCanvas | null>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [isWhole, setWhole] = useState(false);
  const arrangement = usePanes((state) => state.arrangement);
  const dividers = usePanes((state) => state.dividers);
  const panes = usePanes((state) => state.panes);
  const sheet = usePanes((state) => state.sheet);

  useEffect(() => {
    const element = root.current!;
    let isHere = true;
    const fetchRest = () => {
      performance.mark(FIRST_DRAWN);
      void fetchParts().then(() => isHere && setWhole(true));
    };
    let made: BoardCanvas;
    try {
      made = new BoardCanvas(element, fetchRest);
    } catch {
      fetchRest();
      notify(
        'This browser cannot draw the scene: WebGL 2 is missing or switched off. Everything else works.',
        true,
      );
      return () => {
        isHere = false;
      };
    }
    const observer = new ResizeObserver(() => {
      // It is told of its end, too, when it leaves the page.
      if (!element.isConnected) return;
      const { clientWidth: width, clientHeight: height } = element;
      made.resize(width, height);
      setSize({ width, height });
    });
    observer.observe(element);
    // The board is made of the element that now stands, and goes with it.
    // oxlint-disable-next-line react/set-state-in-effect
    setBoard(made);
    return () => {
      isHere = false;
      observer.disconnect();
      made.dispose();
    };
  }, []);

  const { width, height } = size;
  return (
    <main className={`board panes-${arrangement}`} aria-label="Board" aria-busy={!isWhole} ref={root}>
      {board &&
        width > 0 &&
        panes
          .slice(0, paneCount({ arrangement, sheet }))
          .map((pane, i) => (
            <PaneFrame
              key={pane.id}
              board={board}
              pane={pane}
              isAlone={arrangement === 'one'}
              box={boxOfPane({ arrangement, dividers, sheet }, i, width, height)}
              {...(arrangement === 'sheet' && { name: sheet[i] })}
            />
          ))}
      {(arrangement === 'beside' || arrangement === 'four') && (
        <Splitter
          label="Divider between panes, across"
          className="pane-divider upright"
          axis="x"
          value={Math.round(dividers.x * width)}
          least={Math.round(0.2 * width)}
          most={Math.round(0.8 * width)}
          move={(x) => moveDivider('x', x / width)}
          style={{ left: dividers.x * width }}
        />
      )}
      {(arrangement === 'above' || arrangement === 'four') && (
        <Splitter
          label="Divider between panes, up and down"
          className="pane-divider level"
          axis="y"
          value={Math.round((1 - dividers.y) * height)}
          least={Math.round(0.2 * height)}
          most={Math.round(0.8 * height)}
          move={(y) => moveDivider('y', 1 - y / height)}
          style={{ top: dividers.y * height }}
        />
      )}
    </main>
  );
}
