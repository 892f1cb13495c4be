import {
  formatLength,
  type Opening,
  type OpeningOutline,
  outlineBox,
  outlinePolygon,
  type Point2,
  type Units,
} from '@dial-shade/core';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { type Facade, singlesOf, useRefused } from './use-facade';
import type { ElevationPointer } from './use-elevation';

const pathOf = (points: readonly Point2[]) => `M${points.map(([u, v]) => `${u},${-v}`).join('L')}Z`;

/**
 * The face with everything that lies in it, u to the right and v up, in metres.
 * @param pixelM metres of the face that a pixel of the picture covers
 */
export function ElevationDrawing({
  facade,
  pointer,
  chosen,
  pixelM,
}: {
  facade: Facade;
  pointer: ElevationPointer;
  chosen: Opening | null;
  pixelM: number;
}) {
  const { face, parties } = facade;
  const { units } = useDocument();
  const refused = useRefused((state) => state.refused);
  const { draft, corners } = pointer;
  const sizesOf = draft ?? (chosen && pointer.shownOutline(chosen));
  const bold = { strokeWidth: pixelM * 2 };
  return (
    <>
      <PartyHatch pixelM={pixelM} />
      <path
        className="wall"
        d={pathOf(face.outline) + face.holes.map(pathOf).join('')}
        fillRule="evenodd"
        style={{ strokeWidth: pixelM * 1.4 }}
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
      <Openings facade={facade} pointer={pointer} pixelM={pixelM} />
      {chosen && !pointer.dragging && (
        <circle
          className="grip"
          cx={outlineBox(chosen.outline).u1}
          cy={-outlineBox(chosen.outline).v1}
          r={pixelM * 5}
          onPointerDown={pointer.grabCorner(chosen)}
        />
      )}
      {draft && <path className="opening draft" style={bold} d={pathOf(outlinePolygon(draft))} />}
      {corners.length > 0 && (
        <polyline
          className="opening draft"
          style={bold}
          points={corners.map(([u, v]) => `${u},${-v}`).join(' ')}
        />
      )}
      {refused?.nearest && (
        <path className="opening offered" style={bold} d={pathOf(outlinePolygon(refused.nearest))} />
      )}
      {sizesOf && <Sizes outline={sizesOf} pixelM={pixelM} units={units} />}
    </>
  );
}

/** The hatch of what lies on the face from outside. */
function PartyHatch({ pixelM }: { pixelM: number }) {
  return (
    <defs>
      <pattern
        id="party-hatch"
        width={pixelM * 8}
        height={pixelM * 8}
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width={pixelM * 3} height={pixelM * 8} />
      </pattern>
    </defs>
  );
}

/** The openings of the face: first what rules made, then what stands for itself. */
function Openings({
  facade,
  pointer,
  pixelM,
}: {
  facade: Facade;
  pointer: ElevationPointer;
  pixelM: number;
}) {
  const { face, fitted } = facade;
  const openingId = useView((v) => v.opening);
  const singles = singlesOf(facade);
  const violations = new Set(fitted.violations.map(({ opening }) => opening.id));
  const ruled = (fitted.byFace.get(face.key) ?? []).filter((o) => o.rule !== null);
  return [...ruled, ...singles].map((opening) => {
    const isChosen = opening.id === openingId;
    const classes = ['opening', opening.kind];
    if ('rule' in opening && opening.rule) classes.push('ruled');
    if (isChosen) classes.push('chosen');
    if (violations.has(opening.id)) classes.push('violation');
    return (
      <path
        key={opening.id}
        className={classes.join(' ')}
        style={{ strokeWidth: pixelM * (isChosen ? 2.4 : 1.2) }}
        d={pathOf(outlinePolygon(pointer.shownOutline(opening)))}
        data-opening={opening.id}
        onPointerDown={pointer.grab(
          opening,
          singles.find((o) => o.id === opening.id),
        )}
      >
        <title>{opening.name}</title>
      </path>
    );
  });
}

/** Width, height and sill written beside an outline. */
function Sizes({ outline, pixelM, units }: { outline: OpeningOutline; pixelM: number; units: Units }) {
  const { u0, v0, u1, v1 } = outlineBox(outline);
  const style = { fontSize: pixelM * 11 };
  return (
    <g className="sizes">
      <text x={(u0 + u1) / 2} y={-v1 - pixelM * 4} textAnchor="middle" style={style}>
        {formatLength(u1 - u0, units)}
      </text>
      <text x={u1 + pixelM * 4} y={-(v0 + v1) / 2} style={style}>
        {formatLength(v1 - v0, units)}
      </text>
      <text x={(u0 + u1) / 2} y={-v0 + pixelM * 12} textAnchor="middle" style={style}>
        sill {formatLength(v0, units)}
      </text>
    </g>
  );
}
