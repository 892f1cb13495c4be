import {
  type FlatTarget,
  type GlassPoints,
  paneCells,
  type PaneRays,
  POINT_PARTS,
  type ReflectedLight,
} from '../study';

const MONTHS = 12;

/** Light that is thrown back onto panes: panes × months × eighths of their points, Wh. */
export interface PanesBack {
  glass: Float64Array;
  inside: Float64Array;
}

/** What is thrown back onto and through panes month by month. */
export function panesBack(
  { grid, part, targets }: GlassPoints & { targets: readonly FlatTarget[] },
  light: ReflectedLight,
  rays: PaneRays,
): PanesBack {
  const make = () => new Float64Array(targets.length * MONTHS * POINT_PARTS);
  const back: PanesBack = { glass: make(), inside: make() };
  for (const { point, cell, onto, inside } of paneCells({ grid, targets }, light, rays)) {
    const area = grid.areas[point]!;
    const first = grid.target[point]! * MONTHS;
    cell.forEach((c, i) => {
      for (let m = 0; m < MONTHS; m++) {
        const at = (first + m) * POINT_PARTS + part[point]!;
        const sent = light.backOf(c, m) * area;
        back.glass[at]! += sent * onto[i]!;
        back.inside[at]! += sent * inside[i]!;
      }
    });
  }
  return back;
}

/** Of all panes, or of one: by month, what each eighth of the points adds, Wh. */
export function backByMonth(back: Float64Array, pane: number | null): Float64Array[] {
  const each = MONTHS * POINT_PARTS;
  return Array.from({ length: MONTHS }, (_, m) => {
    const sum = new Float64Array(POINT_PARTS);
    for (let t = 0; t < back.length / each; t++)
      if (pane === null || t === pane)
        for (let b = 0; b < POINT_PARTS; b++) sum[b]! += back[t * each + m * POINT_PARTS + b]!;
    return sum;
  });
}
