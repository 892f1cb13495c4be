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
import { type BoardTool, choose, onGround, snappedAt, type ToolHost } from './host';

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

/**
 * Drags corners and edges of the chosen body; from the middle of an edge a new corner comes out. Delete takes the last
 * corner away.
 */
export function cornersTool(host: ToolHost): BoardTool {
  let held: Held | null = null;
  let last: { ring: number; index: number } | null = null;
  const near = (x: number, y: number): Handle | null => {
    const chosen = chosenBody();
    let best: Handle | null = null;
    let least = REACH_PX;
    for (const handle of chosen ? cornerHandles(chosen.body) : []) {
      const at = host.view.toScreen(handle.at);
      const distance = Math.hypot(at.x - x, at.y - y);
      if (!at.behind && distance < least) [best, least] = [handle, distance];
    }
    return best;
  };
  const nearEdge = (x: number, y: number): EdgeHandle | null => {
    const chosen = chosenBody();
    let best: EdgeHandle | null = null;
    let least = EDGE_PX;
    for (const edge of chosen ? edgeHandles(chosen.body) : []) {
      const [a, b] = [host.view.toScreen(edge.from), host.view.toScreen(edge.to)];
      if (a.behind || b.behind) continue;
      const distance = segmentDistance([x, y], [a.x, a.y], [b.x, b.y]);
      if (distance < least) [best, least] = [edge, distance];
    }
    return best;
  };
  const dragCorner = ({ handle, owner }: Extract<Held, { kind: 'corner' }>, x: number, y: number) => {
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
  };
  const dragEdge = (hold: Extract<Held, { kind: 'edge' }>, x: number, y: number) => {
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
  };
  return {
    down(x, y) {
      const chosen = chosenBody();
      if (!chosen) return false;
      const handle = near(x, y);
      if (!handle) {
        const edge = nearEdge(x, y);
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
      if (held?.kind === 'corner') dragCorner(held, x, y);
      else if (held) dragEdge(held, x, y);
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
    move(x, y) {
      const handle = near(x, y);
      const text = handle
        ? handle.between
          ? 'Drag out a new corner'
          : 'Drag this corner'
        : nearEdge(x, y) && 'Drag this edge';
      host.say(text ? { x, y, text } : null);
    },
    click(x, y, event) {
      if (!near(x, y) && !nearEdge(x, y)) choose(host, x, y, event.shiftKey);
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
