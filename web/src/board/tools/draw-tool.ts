import { parseLength } from '@dial-shade/core';
import { cancelDrawing, useDraft } from '../draft';
import { closeDrawing, drawClick } from '../drawing';
import { currentProject } from '../../state/project-store';
import { useView } from '../../state/view-store';
import type { BoardTool, ToolHost } from './host';
import { snappedAt } from './snap';

/** Draws outlines, lines and points; lengths can be typed while the pointer shows the way. */
export function drawTool(host: ToolHost): BoardTool {
  const tool = () => {
    const now = useView.getState().tool;
    return now.kind === 'draw' ? now : null;
  };
  return {
    move(x, y) {
      const drawing = tool();
      const found = drawing && snappedAt(host, x, y, useDraft.getState().points, drawing.levelM);
      useDraft.setState({ pointer: found?.p ?? null, guides: found?.guides ?? [] });
      host.say(found && found.by !== 'grid' ? { x, y, text: SAID[found.by] } : null);
    },
    click(x, y) {
      const drawing = tool();
      const found = drawing && snappedAt(host, x, y, useDraft.getState().points, drawing.levelM);
      if (drawing && found) drawClick(drawing, found.p);
    },
    key(event) {
      const drawing = tool();
      if (!drawing || event.ctrlKey || event.metaKey) return false;
      const { points, pointer, typed } = useDraft.getState();
      if (event.key === 'Escape') {
        if (typed) useDraft.setState({ typed: '' });
        else if (points.length) cancelDrawing();
        else return false;
        return true;
      }
      if (event.key === 'Enter') {
        if (typed && points.length && pointer) placeTyped(drawing, typed);
        else closeDrawing(drawing);
        return true;
      }
      if (event.key === 'Backspace') {
        if (typed) useDraft.setState({ typed: typed.slice(0, -1) });
        else useDraft.setState({ points: points.slice(0, -1) });
        return true;
      }
      if (points.length && /^[0-9.,'" ×x*mcft]$/i.test(event.key)) {
        useDraft.setState({ typed: typed + event.key });
        return true;
      }
      return false;
    },
  };
}

const SAID = { corner: 'On a corner', edge: 'On an edge', line: 'In line', 'right angle': 'Square' };

/** Places the next point by what was typed: a length along the way shown, or width × depth of a rectangle. */
function placeTyped(drawing: Parameters<typeof drawClick>[0], typed: string): void {
  const { points, pointer } = useDraft.getState();
  const { units } = currentProject();
  const from = points.at(-1)!;
  const [dx, dy] = [pointer![0] - from[0], pointer![1] - from[1]];
  try {
    if (drawing.shape === 'rectangle') {
      const [width, depth] = typed.split(/[×x*]/i).map((part) => parseLength(part, units));
      if (width === undefined || depth === undefined)
        throw new Error('Type width × depth, for example 12 x 8.');
      drawClick(drawing, [from[0] + width * (dx < 0 ? -1 : 1), from[1] + depth * (dy < 0 ? -1 : 1)]);
    } else {
      const length = parseLength(typed, units);
      const reach = Math.hypot(dx, dy) || 1;
      drawClick(drawing, [from[0] + (dx / reach) * length, from[1] + (dy / reach) * length]);
    }
    useDraft.setState({ typed: '', wrong: null });
  } catch (error) {
    useDraft.setState({ wrong: (error as Error).message, typed: '' });
  }
}
