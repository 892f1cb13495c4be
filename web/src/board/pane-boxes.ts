import type { Arrangement } from '../state/panes-store';
import type { Box } from './label-layer';

/** Where a pane lies on a board of a size, CSS pixels from the upper left corner. */
export function paneBox(
  arrangement: Arrangement,
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
