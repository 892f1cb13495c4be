import {
  faceAzimuthDeg,
  type FittedOpening,
  formatLength,
  newId,
  moveOutline,
  onFace,
  type Opening,
  type OpeningOutline,
  outlineBox,
  outlinePolygon,
  type Point2,
} from '@dial-shade/core';
import {
  AlignVerticalJustifyStart,
  Copy,
  DoorOpen,
  Frame,
  Pentagon,
  RectangleHorizontal,
  Trash2,
  ZoomIn,
} from 'lucide-react';
import { useLayoutEffect, useRef, useState } from 'react';
import { IconButton, ToolButton } from '../app/objects';
import type { SceneView } from '../board/scene-view';
import { useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { alignBelow, below, copyOpening, sized } from './arrange-openings';
import { PaintButton, paintPanel, usePanelRule } from './panel-painter';
import {
  type Facade,
  placeOpening,
  defaultGlazing,
  removeOpening,
  useFacade,
  useRefused,
} from './use-facade';

type Making = 'rectangle' | 'arch' | 'polygon' | 'door' | 'paint' | null;
type Drag =
  | { kind: 'make'; from: Point2; to: Point2 }
  | { kind: 'move'; opening: Opening; from: Point2; by: Point2 }
  | { kind: 'size'; opening: Opening; to: Point2 };

const STEP_M = 0.05;
const step = (v: number) => Math.round(v / STEP_M) * STEP_M;

/** The chosen facade square on: openings are drawn, dragged and sized in it. */
export function ElevationPanel({ view }: { view: SceneView }) {
  const facade = useFacade();
  if (!facade)
    return (
      <section className="elevation blank" aria-label="Elevation">
        <p>
          Click a wall or a roof of a mass or neighbour, or a flat face of an imported mesh, to draw openings
          in it.
        </p>
      </section>
    );
  return <Elevation key={`${facade.owner.id}/${facade.face.key}`} facade={facade} view={view} />;
}

function Elevation({ facade, view }: { facade: Facade; view: SceneView }) {
  const { face, body, fitted, parties, owner } = facade;
  const project = useDocument();
  const openingId = useView((v) => v.opening);
  const refused = useRefused((state) => state.refused);
  const panels = usePanelRule(facade);
  const [making, setMaking] = useState<Making>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const [corners, setCorners] = useState<Point2[]>([]);
  const svg = useRef<SVGSVGElement>(null);
  const panel = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    view.setFoot(panel.current!.offsetHeight + 10);
    return () => view.setFoot(0);
  }, [view]);
  const standing = fitted.byFace.get(face.key) ?? [];
  const singles = body.openings.filter((o) => JSON.stringify(o.host) === JSON.stringify(face.host));
  const chosen = singles.find((o) => o.id === openingId) ?? null;
  const us = face.outline.map((p) => p[0]);
  const vs = face.outline.map((p) => p[1]);
  const [u0, u1, v0, v1] = [Math.min(...us), Math.max(...us), Math.min(...vs), Math.max(...vs)];
  const margin = Math.max(0.35, (u1 - u0) * 0.02, (v1 - v0) * 0.06);
  const box = { x: u0 - margin, y: -(v1 + margin), w: u1 - u0 + 2 * margin, h: v1 - v0 + 2 * margin };
  const pixel = Math.max(box.w / 760, box.h / 190);
  const azimuth = faceAzimuthDeg(face.normal, project.site.north.trueNorthDeg);

  const at = (event: React.PointerEvent): Point2 => {
    const matrix = svg.current!.getScreenCTM()!.inverse();
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return [step(p.x), step(-p.y)];
  };
  const made = (from: Point2, to: Point2): OpeningOutline | null => {
    const [a, b] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
    const [c, d] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
    if (b - a < 0.1 || d - c < 0.1) return null;
    const plain = { u: a, v: c, widthM: b - a, heightM: d - c };
    return making === 'arch'
      ? { kind: 'arch', ...plain, riseM: Math.min((b - a) / 2, (d - c) * 0.9) }
      : { kind: 'rectangle', ...plain };
  };
  const put = (outline: OpeningOutline) => {
    const id = newId('opening');
    const isDoor = making === 'door';
    const number = body.openings.length + 1;
    const opening: Opening = {
      id,
      name: `${isDoor ? 'Door' : face.host.on === 'roof' ? 'Rooflight' : 'Window'} ${number}`,
      host: face.host,
      outline,
      kind: isDoor ? 'door' : 'window',
      glazing: isDoor ? null : defaultGlazing(),
      revealM: face.host.on === 'roof' ? 0 : 0.1,
      openable: !isDoor,
      grid: null,
    };
    placeOpening(facade, opening, `draw ${opening.name}`);
    setMaking(null);
  };
  const onDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return;
    const p = at(event);
    if (making === 'paint') {
      if (panels) paintPanel(facade, panels, at(event));
      return;
    }
    if (making === 'polygon') {
      const first = corners[0];
      if (first && corners.length >= 3 && Math.hypot(p[0] - first[0], p[1] - first[1]) < pixel * 10) {
        put({ kind: 'polygon', points: corners.map(([u, v]): [number, number] => [u, v]) });
        setCorners([]);
      } else setCorners([...corners, p]);
      return;
    }
    svg.current!.setPointerCapture(event.pointerId);
    if (making) setDrag({ kind: 'make', from: p, to: p });
    else setView({ opening: null });
  };
  const onMove = (event: React.PointerEvent) => {
    if (!drag) return;
    const p = at(event);
    if (drag.kind === 'move')
      setDrag({ ...drag, by: [step(p[0] - drag.from[0]), step(p[1] - drag.from[1])] });
    else setDrag({ ...drag, to: p });
  };
  const onUp = () => {
    if (drag?.kind === 'make') {
      const outline = made(drag.from, drag.to);
      if (outline) put(outline);
    } else if (drag?.kind === 'move' && (drag.by[0] !== 0 || drag.by[1] !== 0))
      placeOpening(
        facade,
        { ...drag.opening, outline: moveOutline(drag.opening.outline, drag.by[0], drag.by[1]) },
        `drag ${drag.opening.name}`,
      );
    else if (drag?.kind === 'size')
      placeOpening(
        facade,
        { ...drag.opening, outline: sized(drag.opening, drag.to) },
        `size ${drag.opening.name}`,
      );
    setDrag(null);
  };
  const grab = (opening: FittedOpening | Opening) => (event: React.PointerEvent) => {
    if (making || event.button !== 0) return;
    event.stopPropagation();
    const single = singles.find((o) => o.id === opening.id);
    setView({ opening: opening.id });
    useRefused.setState({ refused: null });
    if (!single) return;
    svg.current!.setPointerCapture(event.pointerId);
    setDrag({ kind: 'move', opening: single, from: at(event), by: [0, 0] });
  };
  const shownOutline = (opening: Opening): OpeningOutline =>
    drag?.kind === 'move' && drag.opening.id === opening.id
      ? moveOutline(opening.outline, drag.by[0], drag.by[1])
      : drag?.kind === 'size' && drag.opening.id === opening.id
        ? sized(opening, drag.to)
        : opening.outline;
  const all = [...standing.filter((o) => o.rule !== null), ...singles];
  const violations = new Set(fitted.violations.map(({ opening }) => opening.id));
  const d = (points: readonly Point2[]) => `M${points.map(([u, v]) => `${u},${-v}`).join('L')}Z`;
  const draft = drag?.kind === 'make' ? made(drag.from, drag.to) : null;
  const name =
    face.host.on === 'wall'
      ? `${body.name}, wall ${face.host.edge + 1}, storey ${face.host.storey + 1}`
      : face.host.on === 'roof'
        ? `${body.name}, roof face ${face.host.face + 1}`
        : `${body.name}, a flat face`;

  return (
    <section className="elevation" aria-label="Elevation" ref={panel}>
      <header>
        <strong>{name}</strong>
        <span className="visually-quiet">
          {formatLength(face.lengthM, project.units)} × {formatLength(face.heightM, project.units)}
          {azimuth !== null && `, faces ${azimuth.toFixed(0)}°`}
        </span>
        <div className="tools" role="toolbar" aria-label="Openings">
          <ToolButton
            main={making === null}
            icon={RectangleHorizontal}
            name={face.host.on === 'roof' ? 'Rooflight' : 'Window'}
            active={making === 'rectangle'}
            onClick={() => setMaking(making === 'rectangle' ? null : 'rectangle')}
          />
          <ToolButton
            icon={Frame}
            name="Arch"
            active={making === 'arch'}
            onClick={() => setMaking(making === 'arch' ? null : 'arch')}
          />
          <ToolButton
            icon={Pentagon}
            name="Polygon"
            active={making === 'polygon'}
            onClick={() => {
              setCorners([]);
              setMaking(making === 'polygon' ? null : 'polygon');
            }}
          />
          {face.host.on !== 'roof' && (
            <ToolButton
              icon={DoorOpen}
              name="Door"
              active={making === 'door'}
              onClick={() => setMaking(making === 'door' ? null : 'door')}
            />
          )}
          {panels && (
            <PaintButton
              active={making === 'paint'}
              onClick={() => setMaking(making === 'paint' ? null : 'paint')}
            />
          )}
          <IconButton
            icon={ZoomIn}
            label="Look square at this face"
            onClick={() =>
              view.lookAtFace(
                onFace(face, [(u0 + u1) / 2, (v0 + v1) / 2]),
                face.normal,
                Math.max(v1 - v0, (u1 - u0) * 0.7),
              )
            }
          />
          {chosen && (
            <>
              <IconButton
                icon={Copy}
                label={`Copy ${chosen.name}`}
                onClick={() => copyOpening(facade, chosen)}
              />
              <IconButton
                icon={AlignVerticalJustifyStart}
                label={`Align ${chosen.name} with the one below`}
                disabled={below(facade, chosen) === null}
                onClick={() => alignBelow(facade, chosen)}
              />
              <IconButton
                icon={Trash2}
                label={`Remove ${chosen.name}`}
                onClick={() => removeOpening(owner, chosen.id)}
              />
            </>
          )}
        </div>
      </header>
      <svg
        ref={svg}
        viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`}
        role="application"
        aria-label={`Elevation of ${name}`}
        className={making ? 'making' : ''}
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={onUp}
        onPointerCancel={() => setDrag(null)}
      >
        <defs>
          <pattern
            id="party-hatch"
            width={pixel * 8}
            height={pixel * 8}
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width={pixel * 3} height={pixel * 8} />
          </pattern>
        </defs>
        <path
          className="wall"
          d={d(face.outline) + face.holes.map(d).join('')}
          fillRule="evenodd"
          style={{ strokeWidth: pixel * 1.4 }}
        />
        {parties.map((part, i) => (
          <rect
            key={i}
            className="party"
            x={part.u0}
            y={-part.v1}
            width={part.u1 - part.u0}
            height={part.v1 - part.v0}
            fill="url(#party-hatch)"
          >
            <title>{`“${part.by}” stands here`}</title>
          </rect>
        ))}
        {all.map((opening) => (
          <path
            key={opening.id}
            className={`opening ${opening.kind}${'rule' in opening && opening.rule ? ' ruled' : ''}${opening.id === openingId ? ' chosen' : ''}${violations.has(opening.id) ? ' violation' : ''}`}
            style={{ strokeWidth: pixel * (opening.id === openingId ? 2.4 : 1.2) }}
            d={d(outlinePolygon(shownOutline(opening)))}
            data-opening={opening.id}
            onPointerDown={grab(opening)}
          >
            <title>{opening.name}</title>
          </path>
        ))}
        {chosen && !drag && (
          <circle
            className="grip"
            cx={outlineBox(chosen.outline).u1}
            cy={-outlineBox(chosen.outline).v1}
            r={pixel * 5}
            onPointerDown={(event) => {
              event.stopPropagation();
              svg.current!.setPointerCapture(event.pointerId);
              setDrag({ kind: 'size', opening: chosen, to: at(event) });
            }}
          />
        )}
        {draft && (
          <path className="opening draft" style={{ strokeWidth: pixel * 2 }} d={d(outlinePolygon(draft))} />
        )}
        {corners.length > 0 && (
          <polyline
            className="opening draft"
            style={{ strokeWidth: pixel * 2 }}
            points={corners.map(([u, v]) => `${u},${-v}`).join(' ')}
          />
        )}
        {refused?.nearest && (
          <path
            className="opening offered"
            style={{ strokeWidth: pixel * 2 }}
            d={d(outlinePolygon(refused.nearest))}
          />
        )}
        {(draft ?? (chosen && shownOutline(chosen))) && (
          <Sizes outline={(draft ?? (chosen && shownOutline(chosen)))!} pixel={pixel} units={project.units} />
        )}
      </svg>
      {refused && (
        <p className="refused" role="alert">
          {refused.reason}{' '}
          {refused.nearest ? (
            <button className="btn btn-sm btn-sunlit" onClick={refused.accept}>
              Put it at the nearest place
            </button>
          ) : (
            'There is no place on this face where it fits.'
          )}
          <button className="btn btn-sm btn-quiet" onClick={() => useRefused.setState({ refused: null })}>
            Leave it
          </button>
        </p>
      )}
    </section>
  );
}

/** Width, height and sill written beside an outline. */
function Sizes({
  outline,
  pixel,
  units,
}: {
  outline: OpeningOutline;
  pixel: number;
  units: 'metric' | 'imperial';
}) {
  const { u0, v0, u1, v1 } = outlineBox(outline);
  const style = { fontSize: pixel * 11 };
  return (
    <g className="sizes">
      <text x={(u0 + u1) / 2} y={-v1 - pixel * 4} textAnchor="middle" style={style}>
        {formatLength(u1 - u0, units)}
      </text>
      <text x={u1 + pixel * 4} y={-(v0 + v1) / 2} style={style}>
        {formatLength(v1 - v0, units)}
      </text>
      <text x={(u0 + u1) / 2} y={-v0 + pixel * 12} textAnchor="middle" style={style}>
        sill {formatLength(v0, units)}
      </text>
    </g>
  );
}
