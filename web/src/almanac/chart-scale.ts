import { scaleLinear } from 'd3';

export const MARGIN = { left: 42, right: 46, top: 17, bottom: 17 };

/** From days and minutes to pixels. */
export interface ChartScale {
  width: number;
  height: number;
  days: number;
  x: (column: number) => number;
  y: (minutes: number) => number;
  column: (px: number) => number;
  minutes: (py: number) => number;
}

export function chartScale(width: number, height: number, days: number): ChartScale {
  const x = scaleLinear([0, days], [MARGIN.left, width - MARGIN.right]);
  const y = scaleLinear([0, 1440], [MARGIN.top, height - MARGIN.bottom]);
  return {
    width,
    height,
    days,
    x: (column) => x(column),
    y: (minutes) => y(minutes),
    column: (px) => Math.max(0, Math.min(days - 1, Math.floor(x.invert(px)))),
    minutes: (py) => Math.max(0, Math.min(1439, y.invert(py))),
  };
}
