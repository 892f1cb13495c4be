import type { Arrangement } from '../state/panes-store';
import type { Box } from './label-layer';

/** The columns of a sheet of so many plans on a board: the fewest with which cells are no wider than they need be. */
export function sheetColumns(count: number, width: number, height: number): number {
  let best = 1;
  for (let columns = 1; columns <= count; columns++) {
    const sideOf = (n: number) => Math.min(width / n / 1.2, height / Math.ceil(count / n));
    if (sideOf(columns) > sideOf(best) + 1e-9) best = columns;
  }
  return best;
}

/** Where a plan of a sheet lies: in rows from the upper left, whole pixels. */
export function sheetBox(count: number, index: number, width: number, height: number): Box {
  const columns = sheetColumns(count, width, height);
  const rows = Math.ceil(count / columns);
  const [column, row] = [index % columns, Math.floor(index / columns)];
  const at = (i: number, of: number, size: number) => Math.round((i * size) / of);
  const [x, y] = [at(column, columns, width), at(row, rows, height)];
  return { x, y, width: at(column + 1, columns, width) - x, height: at(row + 1, rows, height) - y };
}

/** Where a pane lies on a board of a size, CSS pixels from the upper left corner. */
export function paneBox(
  arrangement: Exclude<Arrangement, 'sheet'>,
  dividers: { x: number; y: number },
  index: number,
  width: number,
  height: number,
): Box {
  const isSplitX = arrangement === 'beside' || arrangement === 'four';
  const isSplitY = arrangement === 'above' || arrangement === 'four';
  const column = isSplitX ? index % 2 : 0;
  const row = arrangement === 'above' ? index : Math.floor(index / 2);
  const [x1, y1] = [Math.round(dividers.x * width), Math.round(dividers.y * height)];
  const x = column ? x1 : 0;
  const y = isSplitY && row ? y1 : 0;
  return {
    x,
    y,
    width: (isSplitX && !column ? x1 : width) - x,
    height: (isSplitY && !row ? y1 : height) - y,
  };
}

/** The same, whatever the arrangement. */
export function boxOfPane(
  {
    arrangement,
    dividers,
    sheet,
  }: { arrangement: Arrangement; dividers: { x: number; y: number }; sheet: readonly string[] },
  index: number,
  width: number,
  height: number,
): Box {
  return arrangement === 'sheet'
    ? sheetBox(sheet.length, index, width, height)
    : paneBox(arrangement, dividers, index, width, height);
}
