import type { WindowOfTime } from '@dial-shade/core';
import { dayOfYear, formatClock } from '@dial-shade/core';
import type { ChartScale } from './chart-scale';
import { shortDate } from './wording';

/** Which edges of the window a drag moves. */
export interface Edges {
  left?: boolean;
  right?: boolean;
  top?: boolean;
  bottom?: boolean;
}

/** The window of a study as a box of pixels. */
export function windowBox(window: WindowOfTime, scale: ChartScale) {
  const left = scale.x(dayOfYear(window.from));
  const right = scale.x(dayOfYear(window.to) + 1);
  const top = scale.y(window.startMinutes);
  const bottom = scale.y(window.endMinutes);
  return { left, right, top, bottom };
}

const GRIP = 6;

/** The edges that lie under the pointer, or null when it is not on the border of the window. */
export function edgesAt(window: WindowOfTime, scale: ChartScale, px: number, py: number): Edges | null {
  const { left, right, top, bottom } = windowBox(window, scale);
  if (px < left - GRIP || px > right + GRIP || py < top - GRIP || py > bottom + GRIP) return null;
  const near = (a: number, b: number) => Math.abs(a - b) <= GRIP;
  const edges: Edges = {};
  if (near(px, right)) edges.right = true;
  else if (near(px, left)) edges.left = true;
  if (near(py, top)) edges.top = true;
  else if (near(py, bottom)) edges.bottom = true;
  return Object.keys(edges).length ? edges : null;
}

/** A window of time, drawn on the almanac. */
export function WindowBox({ window, scale }: { window: WindowOfTime; scale: ChartScale }) {
  const { left, right, top, bottom } = windowBox(window, scale);
  const dates =
    window.from === window.to
      ? shortDate(window.from)
      : `${shortDate(window.from)} – ${shortDate(window.to)}`;
  const text = `${dates}, ${formatClock(window.startMinutes)}–${formatClock(window.endMinutes)}`;
  const width = Math.max(2, right - left);
  const long = text.length * 5.6;
  const after = right + 5 + long < scale.width;
  // A window that fills the year has its name within.
  const at = after ? right + 5 : left - 5 - long > 0 ? left - 5 : right - 6;
  return (
    <g pointerEvents="none" data-testid="window-box">
      <rect
        x={left}
        y={top}
        width={width}
        height={bottom - top}
        fill="#39406f"
        fillOpacity={0.16}
        stroke="#fff"
        strokeWidth={3}
      />
      <rect
        x={left}
        y={top}
        width={width}
        height={bottom - top}
        fill="none"
        stroke="#39406f"
        strokeWidth={1.6}
      />
      <text
        x={at}
        y={Math.max(top + 12, 30)}
        textAnchor={after ? 'start' : 'end'}
        style={{ fill: '#fff', stroke: '#39406f', strokeWidth: 3.5, paintOrder: 'stroke', fontWeight: 600 }}
      >
        {text}
      </text>
    </g>
  );
}
