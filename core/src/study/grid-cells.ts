import { areaWithHoles, bounds, clipHalfPlane, type Point2, type Ring, signedArea } from '../geometry';

/** One cell of a grid over an outline, with what of it lies within. */
export interface GridCell {
  column: number;
  row: number;
  /** Middle of the whole cell. */
  middle: Point2;
  /** Area within the outline and outside its holes, m². */
  areaM2: number;
  /** What of the cell lies within the outline, and what of the holes lies in the cell. */
  part: Part;
}

/** An outline with holes, cut down to some columns and rows. */
export interface Part {
  outer: Ring;
  holes: Ring[];
}

/** Cells thinner than this share of a full one are dropped. */
const MIN_SHARE = 1e-6;

/**
 * Visits the cells of a square grid, laid from the lower left corner of an outline's box, that have something of it, row by
 * row. The outline is halved again and again, first by rows, then by columns, and what is empty is dropped on the way: the
 * cost goes with the cells that are there, not with the box.
 */
export function visitCells(
  outline: Ring,
  holes: readonly Ring[],
  spacingM: number,
  visit: (cell: GridCell) => void,
): void {
  const { minX, minY, maxX, maxY } = bounds(outline);
  const full = spacingM * spacingM;
  const lines = (span: number) => Math.max(1, Math.ceil(span / spacingM - 1e-9));
  const halved = (
    part: Part,
    axis: 0 | 1,
    from: number,
    to: number,
    each: (part: Part, at: number) => void,
  ) => {
    if (part.outer.length < 3 || Math.abs(signedArea(part.outer)) < MIN_SHARE * full) return;
    if (to - from === 1) {
      each(part, from);
      return;
    }
    const middle = (from + to) >> 1;
    const line = (axis === 0 ? minX : minY) + middle * spacingM;
    const side = (sign: 1 | -1): Part => {
      const cut = (ring: Ring) =>
        clipHalfPlane(ring, axis === 0 ? sign : 0, axis === 1 ? sign : 0, sign * line);
      return { outer: cut(part.outer), holes: part.holes.map(cut).filter((hole) => hole.length >= 3) };
    };
    halved(side(1), axis, from, middle, each);
    halved(side(-1), axis, middle, to, each);
  };
  halved({ outer: outline, holes: [...holes] }, 1, 0, lines(maxY - minY), (strip, row) =>
    halved(strip, 0, 0, lines(maxX - minX), (part, column) => {
      const areaM2 = areaWithHoles(part);
      if (areaM2 < MIN_SHARE * full) return;
      visit({
        column,
        row,
        middle: [minX + (column + 0.5) * spacingM, minY + (row + 0.5) * spacingM],
        areaM2,
        part,
      });
    }),
  );
}
