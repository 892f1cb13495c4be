import {
  type FittedOpening,
  moveOutline,
  newId,
  type Opening,
  type OpeningOutline,
  type Point2,
} from '@dial-shade/core';
import { type PointerEvent, type RefObject, useState } from 'react';
import { setView } from '../state/view-store';
import { sized } from './arrange-openings';
import { paintPanel, usePanelRule } from './panel-painter';
import { defaultGlazing, type Facade, placeOpening, useRefused } from './use-facade';

/** What the pointer makes in the elevation; null: it chooses and drags. */
export type Making = 'rectangle' | 'arch' | 'polygon' | 'door' | 'paint' | null;

type Drag =
  | { kind: 'make'; from: Point2; to: Point2 }
  | { kind: 'move'; opening: Opening; from: Point2; by: Point2 }
  | { kind: 'size'; opening: Opening; to: Point2 };

const STEP_M = 0.05;
const step = (v: number) => Math.round(v / STEP_M) * STEP_M;
/** How near to its first corner a polygon is closed. */
const CLOSE_PX = 10;

/** The outline that a drag from one corner to the other makes, or null while it is too small to be one. */
function dragged(making: Making, from: Point2, to: Point2): OpeningOutline | null {
  const [a, b] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
  const [c, d] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
  if (b - a < 0.1 || d - c < 0.1) return null;
  const box = { u: a, v: c, widthM: b - a, heightM: d - c };
  return making === 'arch'
    ? { kind: 'arch', ...box, riseM: Math.min((b - a) / 2, (d - c) * 0.9) }
    : { kind: 'rectangle', ...box };
}

/** A new opening of the face with the outline that was drawn. */
function drawnOpening({ face, body }: Facade, outline: OpeningOutline, isDoor: boolean): Opening {
  const inRoof = face.host.on === 'roof';
  return {
    id: newId('opening'),
    name: `${isDoor ? 'Door' : inRoof ? 'Rooflight' : 'Window'} ${body.openings.length + 1}`,
    host: face.host,
    outline,
    kind: isDoor ? 'door' : 'window',
    glazing: isDoor ? null : defaultGlazing(),
    revealM: inRoof ? 0 : 0.1,
    openable: !isDoor,
    grid: null,
  };
}

/** Puts what was dragged where it was let go. */
function letGo(facade: Facade, drag: Exclude<Drag, { kind: 'make' }>): void {
  const { opening } = drag;
  if (drag.kind === 'size')
    placeOpening(facade, { ...opening, outline: sized(opening, drag.to) }, `size ${opening.name}`);
  else if (drag.by[0] !== 0 || drag.by[1] !== 0) {
    const outline = moveOutline(opening.outline, drag.by[0], drag.by[1]);
    placeOpening(facade, { ...opening, outline }, `drag ${opening.name}`);
  }
}

/**
 * The pointer over the elevation of a face: what it makes, drags and sizes, in metres of the face.
 * @param pixelM metres of the face that a pixel of the picture covers
 */
export function useElevation(facade: Facade, svg: RefObject<SVGSVGElement | null>, pixelM: number) {
  const [making, setMaking] = useState<Making>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const [corners, setCorners] = useState<Point2[]>([]);
  const panels = usePanelRule(facade);
  const at = (event: PointerEvent): Point2 => {
    const matrix = svg.current!.getScreenCTM()!.inverse();
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return [step(p.x), step(-p.y)];
  };
  const put = (outline: OpeningOutline) => {
    const opening = drawnOpening(facade, outline, making === 'door');
    placeOpening(facade, opening, `draw ${opening.name}`);
    setMaking(null);
  };
  const addCorner = (p: Point2) => {
    const first = corners[0];
    if (first && corners.length >= 3 && Math.hypot(p[0] - first[0], p[1] - first[1]) < pixelM * CLOSE_PX) {
      put({ kind: 'polygon', points: corners.map(([u, v]): [number, number] => [u, v]) });
      setCorners([]);
    } else setCorners([...corners, p]);
  };
  const take = (event: PointerEvent, next: Drag) => {
    svg.current!.setPointerCapture(event.pointerId);
    setDrag(next);
  };

  return {
    making,
    corners,
    dragging: drag !== null,
    draft: drag?.kind === 'make' ? dragged(making, drag.from, drag.to) : null,
    /** Takes up a way of drawing, or lays it down when it is the one at hand. */
    make(wanted: Exclude<Making, null>) {
      setCorners([]);
      setMaking(making === wanted ? null : wanted);
    },
    /** Where an opening is drawn, followed while it is dragged. */
    shownOutline: (opening: Opening): OpeningOutline =>
      drag === null || drag.kind === 'make' || drag.opening.id !== opening.id
        ? opening.outline
        : drag.kind === 'move'
          ? moveOutline(opening.outline, drag.by[0], drag.by[1])
          : sized(opening, drag.to),
    /** Chooses an opening; one that stands for itself (not made by a rule) is dragged. */
    grab: (opening: FittedOpening | Opening, single: Opening | undefined) => (event: PointerEvent) => {
      if (making || event.button !== 0) return;
      event.stopPropagation();
      setView({ opening: opening.id });
      useRefused.setState({ refused: null });
      if (single) take(event, { kind: 'move', opening: single, from: at(event), by: [0, 0] });
    },
    grabCorner: (opening: Opening) => (event: PointerEvent) => {
      event.stopPropagation();
      take(event, { kind: 'size', opening, to: at(event) });
    },
    handlers: {
      onPointerDown(event: PointerEvent) {
        if (event.button !== 0) return;
        const p = at(event);
        if (making === 'paint') {
          if (panels) paintPanel(facade, panels, p);
        } else if (making === 'polygon') addCorner(p);
        else if (making) take(event, { kind: 'make', from: p, to: p });
        else setView({ opening: null });
      },
      onPointerMove(event: PointerEvent) {
        if (!drag) return;
        const p = at(event);
        if (drag.kind === 'move')
          setDrag({ ...drag, by: [step(p[0] - drag.from[0]), step(p[1] - drag.from[1])] });
        else setDrag({ ...drag, to: p });
      },
      onPointerUp() {
        if (drag?.kind === 'make') {
          const outline = dragged(making, drag.from, drag.to);
          if (outline) put(outline);
        } else if (drag) letGo(facade, drag);
        setDrag(null);
      },
      onPointerCancel: () => setDrag(null),
    },
  };
}

export type ElevationPointer = ReturnType<typeof useElevation>;
