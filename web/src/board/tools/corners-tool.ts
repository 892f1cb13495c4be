import {
  findBody,
  formatLength,
  massLevels,
  type MassShape,
  moveCorner,
  normalFootprint,
  type OwnerRef,
  pushWall,
  removeBodyCorner,
  reshapeBody,
  segmentDistance,
  splitBodyEdge,
} from '@dial-shade/core';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { useView } from '../../state/view-store';
import { type BoardTool, choose, onGround, type ToolHost } from './host';
import { snappedAt } from './snap';

/** A corner of a footprint, or (between) the middle of an edge, where a new corner can be pulled out. */
export interface Handle {
  ring: number;
  index: number;
  between: boolean;
  at: [number, number, number];
}

const REACH_PX = 12;
/** How near to an edge of the footprint the pointer takes hold of it. */
const EDGE_PX = 7;
const STEP_M = 0.25;

/** An edge of a footprint, and the unit normal that points out of the body. */
interface EdgeHandle {
  ring: number;
  index: number;
  from: [number, number, number];
  to: [number, number, number];
  outward: [number, number];
}

/** The edges of the body that is chosen. */
function edgeHandles(body: MassShape): EdgeHandle[] {
  const { outer, holes } = normalFootprint(body.footprint);
  const z = massLevels(body, currentProject().site.ground).floorM + 0.05;
  return [outer, ...holes].flatMap((ring, r) =>
    ring.map((p, index): EdgeHandle => {
      const q = ring[(index + 1) % ring.length]!;
      const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
      return {
        ring: r,
        index,
        from: [p[0], p[1], z],
        to: [q[0], q[1], z],
        outward: [(q[1] - p[1]) / length, (p[0] - q[0]) / length],
      };
    }),
  );
}

/** The handles of the body that is chosen. */
export function cornerHandles(body: MassShape): Handle[] {
  const { outer, holes } = normalFootprint(body.footprint);
  const z = massLevels(body, currentProject().site.ground).floorM + 0.05;
  return [outer, ...holes].flatMap((ring, r) =>
    ring.flatMap((p, index): Handle[] => {
      const q = ring[(index + 1) % ring.length]!;
      return [
        { ring: r, index, between: false, at: [p[0], p[1], z] },
        { ring: r, index, between: true, at: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, z] },
      ];
    }),
  );
}

/** The body whose corners can be dragged, with who it is. */
export function chosenBody(): { owner: OwnerRef; body: MassShape } | null {
  const { selection } = useView.getState();
  const body = selection && findBody(currentProject(), selection);
  return body ? { owner: { optionId: selection.optionId, id: selection.id }, body } : null;
}

/** What the corners tool has hold of. */
type Held =
  | { kind: 'corner'; owner: OwnerRef; handle: Handle }
  | { kind: 'edge'; owner: OwnerRef; edge: EdgeHandle; start: [number, number]; pushed: number };

/** The handle of the chosen body that is nearest to the pointer, within reach. */
function handleNear(host: ToolHost, x: number, y: number): Handle | null {
  const chosen = chosenBody();
  return nearest(chosen ? cornerHandles(chosen.body) : [], REACH_PX, ({ at }) => {
    const p = host.view.toScreen(at);
    return p.behind ? Infinity : Math.hypot(p.x - x, p.y - y);
  });
}

/** The edge of the chosen body that the pointer is on. */
function edgeNear(host: ToolHost, x: number, y: number): EdgeHandle | null {
  const chosen = chosenBody();
  return nearest(chosen ? edgeHandles(chosen.body) : [], EDGE_PX, ({ from, to }) => {
    const [a, b] = [host.view.toScreen(from), host.view.toScreen(to)];
    return a.behind || b.behind ? Infinity : segmentDistance([x, y], [a.x, a.y], [b.x, b.y]);
  });
}

function nearest<T>(list: readonly T[], reach: number, distance: (item: T) => number): T | null {
  let best: T | null = null;
  let least = reach;
  for (const item of list) {
    const found = distance(item);
    if (found < least) [best, least] = [item, found];
  }
  return best;
}

/** Takes the corner that is held to the pointer, snapped. */
function dragCorner(
  host: ToolHost,
  { handle, owner }: Extract<Held, { kind: 'corner' }>,
  x: number,
  y: number,
): void {
  const z = handle.at[2] - 0.05;
  const raw = onGround(host, x, y, z);
  const body = findBody(currentProject(), owner);
  if (!raw || !body) return;
  const { outer, holes } = normalFootprint(body.footprint);
  const ring = [outer, ...holes][handle.ring]!;
  const beside = ring.filter((_, i) => i !== handle.index);
  const to = snappedAt(host, x, y, [], z);
  const own = ring[handle.index]!;
  // A corner does not snap to where it was itself.
  const p = to && Math.hypot(to.p[0] - own[0], to.p[1] - own[1]) > 1e-9 ? to.p : null;
  const grid = (v: number) => Math.round(v / STEP_M) * STEP_M;
  const at = p ?? ([grid(raw[0]), grid(raw[1])] as const);
  if (beside.some((q) => Math.hypot(q[0] - at[0], q[1] - at[1]) < 0.05)) return;
  const move = reshapeBody(owner, (b) => moveCorner(b, handle.ring, handle.index, at));
  edit('drag a corner', move, { gestureKey: 'corner' });
  host.say({ x, y, text: `${at[0].toFixed(2)}, ${at[1].toFixed(2)}` });
}

/** Pushes the edge that is held in or out, by whole steps. */
function dragEdge(host: ToolHost, hold: Extract<Held, { kind: 'edge' }>, x: number, y: number): void {
  const { edge, owner, start } = hold;
  const at = onGround(host, x, y, edge.from[2] - 0.05);
  if (!at) return;
  const way = (at[0] - start[0]) * edge.outward[0] + (at[1] - start[1]) * edge.outward[1];
  const wanted = Math.round(way / STEP_M) * STEP_M;
  const by = wanted - hold.pushed;
  if (by !== 0) {
    const push = reshapeBody(owner, (b) => pushWall(b, edge.ring, edge.index, by));
    const refused = edit('drag an edge', push, { gestureKey: 'edge', quiet: true });
    if (refused) {
      host.say({ x, y, text: refused });
      return;
    }
    hold.pushed = wanted;
  }
  host.say({
    x,
    y,
    text: `${formatLength(Math.abs(wanted), currentProject().units)} ${wanted >= 0 ? 'out' : 'in'}`,
  });
}

/**
 * Drags corners and edges of the chosen body; from the middle of an edge a new corner comes out. Delete takes the last
 * corner away.
 */
export function cornersTool(host: ToolHost): BoardTool {
  let held: Held | null = null;
  let last: { ring: number; index: number } | null = null;
  return {
    down(x, y) {
      const chosen = chosenBody();
      if (!chosen) return false;
      const handle = handleNear(host, x, y);
      if (!handle) {
        const edge = edgeNear(host, x, y);
        const start = edge && onGround(host, x, y, edge.from[2] - 0.05);
        if (!edge || !start) return false;
        held = { kind: 'edge', owner: chosen.owner, edge, start, pushed: 0 };
        return true;
      }
      let corner = handle;
      if (handle.between) {
        edit('add a corner', splitBodyEdge(chosen.owner, handle.ring, handle.index), {
          gestureKey: 'corner',
        });
        corner = { ...handle, index: handle.index + 1, between: false };
      }
      held = { kind: 'corner', owner: chosen.owner, handle: corner };
      last = { ring: corner.ring, index: corner.index };
      return true;
    },
    drag(x, y) {
      if (held?.kind === 'corner') dragCorner(host, held, x, y);
      else if (held) dragEdge(host, held, x, y);
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
    move(x, y) {
      const handle = handleNear(host, x, y);
      const text = handle
        ? handle.between
          ? 'Drag out a new corner'
          : 'Drag this corner'
        : edgeNear(host, x, y) && 'Drag this edge';
      host.say(text ? { x, y, text } : null);
    },
    click(x, y, event) {
      if (!handleNear(host, x, y) && !edgeNear(host, x, y)) choose(host, x, y, event.shiftKey);
    },
    key(event) {
      const chosen = chosenBody();
      if (event.key !== 'Delete' && event.key !== 'Backspace') return false;
      if (last && chosen) {
        const { ring, index } = last;
        edit('remove a corner', removeBodyCorner(chosen.owner, ring, index));
        last = null;
      }
      return true;
    },
  };
}
