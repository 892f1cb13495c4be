import { type Point2, requireRing } from '@dial-shade/core';
import { notify } from '../state/notice-store';
import { cancelDrawing, draftOutline, type DrawTool, useDraft } from './draft';
import { finishOutline, finishPath, finishPoint } from './drawn-objects';

const same = (a: Point2, b: Point2) => Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6;

/** Lines that end with their second point. */
const TWO_POINTS = new Set(['mirror', 'array', 'section']);

/** Takes a click: sets a point, or ends what is drawn. */
export function drawClick(tool: DrawTool, p: Point2): void {
  const { points } = useDraft.getState();
  useDraft.setState({ wrong: null });
  if (tool.shape === 'point') {
    cancelDrawing();
    finishPoint(tool, p);
  } else if (tool.shape === 'rectangle') {
    if (points.length === 0) useDraft.setState({ points: [p] });
    else finish(tool, draftOutline({ points, pointer: p }, 'rectangle'));
  } else if (tool.shape === 'path') {
    if (points.length && same(points.at(-1)!, p)) finish(tool, points);
    else if (points.length === 1 && TWO_POINTS.has(tool.purpose)) finish(tool, [...points, p]);
    else useDraft.setState({ points: [...points, p] });
  } else if (points.length >= 3 && same(points[0]!, p)) finish(tool, points);
  else if (points.length === 0 || !same(points.at(-1)!, p)) useDraft.setState({ points: [...points, p] });
}

/** Ends a polygon or line with the points it has. */
export function closeDrawing(tool: DrawTool): void {
  const { points } = useDraft.getState();
  if (points.length) finish(tool, points);
}

function finish(tool: DrawTool, points: Point2[]): void {
  if (tool.shape === 'path') {
    if (points.length < 2) return;
    cancelDrawing();
    finishPath(tool, points);
    return;
  }
  try {
    requireRing('The outline', points);
  } catch (error) {
    notify((error as Error).message, true);
    if (tool.shape === 'rectangle') cancelDrawing();
    return;
  }
  cancelDrawing();
  finishOutline(tool, points);
}
