import { faceAzimuthDeg, formatLength, onFace } from '@dial-shade/core';
import { useLayoutEffect, useRef } from 'react';
import type { PaneView } from '../board/pane-view';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { ElevationDrawing } from './elevation-drawing';
import { ElevationTools } from './elevation-tools';
import { useElevation } from './use-elevation';
import { type Facade, singlesOf, useFacade, useRefused } from './use-facade';

/** The chosen facade square on: openings are drawn, dragged and sized in it. */
export function ElevationPanel({ view }: { view: PaneView }) {
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

function Elevation({ facade, view }: { facade: Facade; view: PaneView }) {
  const { face } = facade;
  const project = useDocument();
  const openingId = useView((v) => v.opening);
  const svg = useRef<SVGSVGElement>(null);
  const panel = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    view.setFoot(panel.current!.offsetHeight + 10);
    return () => view.setFoot(0);
  }, [view]);
  const chosen = singlesOf(facade).find((o) => o.id === openingId) ?? null;
  const us = face.outline.map((p) => p[0]);
  const vs = face.outline.map((p) => p[1]);
  const [u0, u1, v0, v1] = [Math.min(...us), Math.max(...us), Math.min(...vs), Math.max(...vs)];
  const margin = Math.max(0.35, (u1 - u0) * 0.02, (v1 - v0) * 0.06);
  const box = { x: u0 - margin, y: -(v1 + margin), w: u1 - u0 + 2 * margin, h: v1 - v0 + 2 * margin };
  const pixelM = Math.max(box.w / 760, box.h / 190);
  const pointer = useElevation(facade, svg, pixelM);
  const azimuth = faceAzimuthDeg(face.normal, project.site.north.trueNorthDeg);
  const name = nameOf(facade);
  const look = () =>
    view.lookAtFace(
      onFace(face, [(u0 + u1) / 2, (v0 + v1) / 2]),
      face.normal,
      Math.max(v1 - v0, (u1 - u0) * 0.7),
    );

  return (
    <section className="elevation" aria-label="Elevation" ref={panel}>
      <header>
        <strong>{name}</strong>
        <span className="visually-quiet">
          {formatLength(face.lengthM, project.units)} × {formatLength(face.heightM, project.units)}
          {azimuth !== null && `, faces ${azimuth.toFixed(0)}°`}
        </span>
        <ElevationTools facade={facade} pointer={pointer} chosen={chosen} onLook={look} />
      </header>
      <svg
        ref={svg}
        viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`}
        role="application"
        aria-label={`Elevation of ${name}`}
        className={pointer.making ? 'making' : ''}
        {...pointer.handlers}
      >
        <ElevationDrawing facade={facade} pointer={pointer} chosen={chosen} pixelM={pixelM} />
      </svg>
      <RefusedNote />
    </section>
  );
}

function nameOf({ face: { host }, body }: Facade): string {
  if (host.on === 'wall') return `${body.name}, wall ${host.edge + 1}, storey ${host.storey + 1}`;
  return host.on === 'roof' ? `${body.name}, roof face ${host.face + 1}` : `${body.name}, a flat face`;
}

/** Why an opening was refused, and the nearest place that takes it. */
function RefusedNote() {
  const refused = useRefused((state) => state.refused);
  if (!refused) return null;
  return (
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
  );
}
