import {
  contains,
  freshId,
  type Point2,
  plainMass,
  type Project,
  requireRing,
  type Ring,
  signedArea,
  TODAY,
} from '@dial-shade/core';
import { add, addMass, editSite } from '@dial-shade/core';
import { create } from 'zustand';
import { tell } from '../state/notice-store';
import { currentProject, edit } from '../state/project-store';
import { setView, type Tool, useView } from '../state/view-store';

/** The outline being drawn, and where the pointer is. */
export interface Draft {
  points: Point2[];
  pointer: Point2 | null;
}

export const useDraft = create<Draft>(() => ({ points: [], pointer: null }));

const GRID_M = 0.5;
/** How near, in pixels, the pointer must be to a corner to snap to it. */
export const SNAP_PX = 11;

/** Corners that a drawn point may snap to: footprints, targets, boundary and the draft's own first point. */
export function snapCorners(project: Project, optionId: string, draft: Draft): Point2[] {
  const shown = project.options.filter((option) => option.id === optionId || option.id === TODAY);
  return [
    ...shown.flatMap((option) => option.masses.flatMap((mass) => mass.footprint.outer)),
    ...project.neighbours.flatMap((n) => (n.kind === 'building' ? n.footprint.outer : [])),
    ...project.targets.flatMap((target) => target.outline),
    ...(project.site.boundary ?? []),
    ...draft.points,
  ];
}

/** The point on the grid, or square to the edge before it when it nearly is. */
export function snapPoint(p: Point2, draft: Draft): Point2 {
  const grid = (v: number) => Math.round(v / GRID_M) * GRID_M;
  const last = draft.points.at(-1);
  if (!last) return [grid(p[0]), grid(p[1])];
  const dx = p[0] - last[0];
  const dy = p[1] - last[1];
  const near = Math.tan((4 * Math.PI) / 180);
  if (Math.abs(dy) < Math.abs(dx) * near) return [grid(p[0]), last[1]];
  if (Math.abs(dx) < Math.abs(dy) * near) return [last[0], grid(p[1])];
  return [grid(p[0]), grid(p[1])];
}

/** The outline as it stands with the pointer as its next point. */
export function draftOutline({ points, pointer }: Draft, shape: 'rectangle' | 'polygon'): Point2[] {
  if (!pointer) return points;
  const first = points[0];
  if (shape === 'rectangle' && first) return [first, [pointer[0], first[1]], pointer, [first[0], pointer[1]]];
  return [...points, pointer];
}

/** Takes a click: sets a point, or ends the outline. */
export function drawClick(tool: Extract<Tool, { kind: 'draw' }>, p: Point2): void {
  const { points } = useDraft.getState();
  const same = (a: Point2, b: Point2) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6;
  if (tool.shape === 'rectangle') {
    if (points.length === 0) useDraft.setState({ points: [p] });
    else finishDrawing(tool, draftOutline({ points, pointer: p }, 'rectangle'));
    return;
  }
  if (points.length >= 3 && same(points[0]!, p)) finishDrawing(tool, points);
  else if (points.length === 0 || !same(points.at(-1)!, p)) useDraft.setState({ points: [...points, p] });
}

/** Ends a polygon with the points it has. */
export function closeDrawing(tool: Extract<Tool, { kind: 'draw' }>): void {
  const { points } = useDraft.getState();
  if (points.length) finishDrawing(tool, points);
}

export function cancelDrawing(): void {
  useDraft.setState({ points: [], pointer: null });
}

const LABELS = { target: 'The target', mass: 'The footprint', boundary: 'The boundary' };

function finishDrawing(tool: Extract<Tool, { kind: 'draw' }>, outline: Point2[]): void {
  try {
    requireRing(LABELS[tool.purpose], outline);
  } catch (error) {
    tell((error as Error).message, true);
    if (tool.shape === 'rectangle') cancelDrawing();
    return;
  }
  cancelDrawing();
  const ring = (signedArea(outline) < 0 ? [...outline].reverse() : outline).map(
    ([x, y]): [number, number] => [x, y],
  );
  if (tool.purpose === 'target') addTarget(ring);
  else if (tool.purpose === 'mass') addFootprint(ring);
  else if (!edit('draw the boundary', editSite({ boundary: ring }))) setView({ tool: { kind: 'select' } });
}

function addTarget(outline: [number, number][]): void {
  const project = currentProject();
  const id = freshId(project, 'target');
  const area = Math.abs(signedArea(outline));
  const spacingM = [0.25, 0.5, 1, 2, 5, 10].find((s) => area / s / s <= 2500) ?? 20;
  const name = `Target ${project.targets.length + 1}`;
  const refused = edit(`draw ${name}`, (document) => {
    const withTarget = add('targets', { id, name, kind: 'ground', outline, spacingM, offsetM: 0.1 })(
      document,
    );
    const { activeStudy } = useView.getState();
    return {
      ...withTarget,
      studies: withTarget.studies.map((study) =>
        study.id === activeStudy && study.targets.length === 0 ? { ...study, targets: [id] } : study,
      ),
    };
  });
  if (!refused) setView({ tool: { kind: 'select' } });
}

function addFootprint(ring: [number, number][]): void {
  const { optionId } = useView.getState();
  const project = currentProject();
  const option = project.options.find((o) => o.id === optionId)!;
  const id = freshId(project, 'mass');
  const inside = option.masses.find((mass) => ring.every((p) => contains(mass.footprint.outer as Ring, p)));
  const name = `Mass ${option.masses.length + 1}`;
  if (inside) tell(`“${name}” stands within “${inside.name}”; the two overlap in volume.`);
  if (!edit(`draw ${name}`, addMass(optionId, plainMass(id, name, ring, 2))))
    setView({
      tool: { kind: 'select' },
      selection: { id, optionId, layer: optionId === TODAY ? 'today' : 'option', wallBearingDeg: null },
    });
}
