import { type Face, onFace, outlineBox, outlinePolygon } from '../form';
import { dot, type Point2, type Point3, triangleNormal, triangulate } from '../geometry';
import type { FittedOpening } from '../openings';
import type { Glazing } from '../project';
import type { Passing, PieceBuilder } from './piece';

/** A face with its openings cut out, and what stands in them. */
export function openFace(
  builder: PieceBuilder,
  face: Face,
  kind: 'wall' | 'roof' | 'mesh',
  { storey, passing = null }: { storey: number | null; passing?: Passing | null },
  openings: readonly FittedOpening[],
  glazings: readonly Glazing[],
): void {
  builder.surface(kind, [...face.normal], { storey, passing, face: face.key });
  const corners = face.corners;
  if (openings.length === 0 && corners.length === 4 && face.holes.length === 0) {
    builder.quad(corners[0]!, corners[1]!, corners[2]!, corners[3]!);
    return;
  }
  const polygons = openings.map(({ outline }) => outlinePolygon(outline));
  const cuts = polygons.map((polygon) => polygon.map((p) => onFace(face, p)));
  fill(
    builder,
    [face.outline, ...face.holes, ...polygons],
    [corners, ...face.holeCorners, ...cuts],
    face.normal,
  );
  openings.forEach((opening, i) =>
    fillOpening(builder, face, storey, opening, polygons[i]!, cuts[i]!, glazings),
  );
}

/**
 * Triangles of a flat outline with holes, given in its plane and in space. They meet along whole edges: no corner lies in
 * the middle of an edge of another.
 */
export function fill(
  builder: PieceBuilder,
  flat: readonly (readonly Point2[])[],
  space: readonly (readonly Point3[])[],
  normal: Point3,
): void {
  const points = space.flat();
  const triangles = triangulate(flat);
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [points[triangles[i]!]!, points[triangles[i + 1]!]!, points[triangles[i + 2]!]!];
    if (dot(triangleNormal(a, b, c), normal) >= 0) builder.triangle(a, b, c);
    else builder.triangle(a, c, b);
  }
}

/** Reveals, and the pane, door leaf or curtain wall that stands back by them. A void is left open. */
function fillOpening(
  builder: PieceBuilder,
  face: Face,
  storey: number | null,
  opening: FittedOpening,
  polygon: readonly Point2[],
  cut: readonly Point3[],
  glazings: readonly Glazing[],
): void {
  if (opening.kind === 'void') return;
  const more = { storey, face: face.key, opening: opening.id };
  const depth = opening.revealM;
  const inner = depth > 0 ? polygon.map((p) => onFace(face, p, depth)) : cut;
  if (depth > 0)
    cut.forEach((a, i) => {
      const k = (i + 1) % cut.length;
      const b = cut[k]!;
      builder.surface('reveal', triangleNormal(a, b, inner[k]!), more);
      builder.quad(a, b, inner[k]!, inner[i]!);
    });
  const glazing = glazings.find(({ id }) => id === opening.glazing);
  if (!glazing) {
    builder.surface('door', [...face.normal], more);
    fill(builder, [polygon], [inner], face.normal);
    return;
  }
  const glass = (share: number): Passing => ({ through: 'glass', share });
  if (!opening.grid) {
    const share = glazing.visibleTransmittance * (1 - glazing.frameShare);
    builder.surface('glazing', [...face.normal], { ...more, passing: glass(share) });
    fill(builder, [polygon], [inner], face.normal);
    return;
  }
  const panes = gridPanes(opening);
  const inSpace = (ring: readonly Point2[]) => ring.map((p) => onFace(face, p, depth));
  builder.surface('bar', [...face.normal], more);
  fill(builder, [polygon, ...panes], [inner, ...panes.map(inSpace)], face.normal);
  builder.surface('glazing', [...face.normal], { ...more, passing: glass(glazing.visibleTransmittance) });
  for (const pane of panes) fill(builder, [pane], [inSpace(pane)], face.normal);
}

/** The panes of a curtain wall, between bars of one width. */
export function gridPanes({ outline, grid }: Pick<FittedOpening, 'outline' | 'grid'>): Point2[][] {
  const { u0, v0, u1, v1 } = outlineBox(outline);
  const { columns, rows, barM } = grid!;
  const width = (u1 - u0 - barM * (columns + 1)) / columns;
  const height = (v1 - v0 - barM * (rows + 1)) / rows;
  if (width < 0.02 || height < 0.02) return [];
  return Array.from({ length: columns * rows }, (_, i): Point2[] => {
    const u = u0 + barM + (i % columns) * (width + barM);
    const v = v0 + barM + Math.floor(i / columns) * (height + barM);
    return [
      [u, v],
      [u + width, v],
      [u + width, v + height],
      [u, v + height],
    ];
  });
}
