import { dayOfYear, formatClock } from '@dial-shade/core';
import type { ChartScale } from './chart-scale';
import type { WindowInHand } from './window-in-hand';
import { shortDate } from './wording';

/** Which edges of the window a drag moves. */
export interface Edges {
  left?: boolean;
  right?: boolean;
  top?: boolean;
  bottom?: boolean;
}

/** A window of time as a box of pixels, as it stands on the day of a column. */
export function windowBox({ window, lateness }: Shown, scale: ChartScale, column = dayOfYear(window.from)) {
  const left = scale.x(dayOfYear(window.from));
  const right = scale.x(dayOfYear(window.to) + 1);
  const late = lateness(column);
  const top = scale.y(window.startMinutes + late);
  const bottom = scale.y(window.endMinutes + late);
  return { left, right, top, bottom };
}

const GRIP = 6;

/** What of a window in hand is drawn. */
type Shown = Pick<WindowInHand, 'window' | 'isSolar' | 'lateness'>;

/** The border of a window that need not be a box: by the sun its hours move with the days. */
function border({ window, lateness }: Shown, scale: ChartScale): string {
  const [from, to] = [dayOfYear(window.from), dayOfYear(window.to) + 1];
  const columns = Array.from({ length: to - from }, (_, i) => from + i);
  const edge = (minutes: number) =>
    columns.flatMap((column) => {
      const y = scale.y(minutes + lateness(column)).toFixed(1);
      return [`${scale.x(column).toFixed(1)},${y}`, `${scale.x(column + 1).toFixed(1)},${y}`];
    });
  return [...edge(window.startMinutes), ...edge(window.endMinutes).reverse()].join(' ');
}

/** The edges that lie under the pointer, or null when it is not on the border of the window. */
export function edgesAt(shown: Shown, scale: ChartScale, px: number, py: number): Edges | null {
  const { left, right, top, bottom } = windowBox(shown, scale, scale.column(px));
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
export function WindowBox({ shown, scale }: { shown: Shown; scale: ChartScale }) {
  const { window } = shown;
  const { left, right, top } = windowBox(shown, scale);
  const points = border(shown, scale);
  const dates =
    window.from === window.to
      ? shortDate(window.from)
      : `${shortDate(window.from)} – ${shortDate(window.to)}`;
  const text = `${dates}, ${formatClock(window.startMinutes)}–${formatClock(window.endMinutes)}${shown.isSolar ? ' solar' : ''}`;
  const long = text.length * 5.6;
  const after = right + 5 + long < scale.width;
  // A window that fills the year has its name within.
  const at = after ? right + 5 : left - 5 - long > 0 ? left - 5 : right - 6;
  return (
    <g pointerEvents="none" data-testid="window-box">
      <polygon points={points} fill="#39406f" fillOpacity={0.16} stroke="#fff" strokeWidth={3} />
      <polygon points={points} fill="none" stroke="#39406f" strokeWidth={1.6} />
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
