import {
  findBody,
  formatLength,
  type Ground,
  type MassShape,
  type OwnerRef,
  pushBottom,
  pushTop,
  pushWall,
  reshapeBody,
  setBack,
} from '@dial-shade/core';
import { notify } from '../../state/notice-store';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { setView, type Tool, useView } from '../../state/view-store';
import { type BoardTool, pickOwner, selectionOf, type ToolHost } from './host';

const STEP_M = 0.25;
type Scope = Extract<Tool, { kind: 'push' }>['scope'];

/** What pushing a face means: which part of a body, along which way. */
export interface PushFace {
  axis: [number, number, number];
  /** For the undo list: “wall 3 of Bar”. */
  name: string;
  apply: <T extends MassShape>(body: T, byM: number) => T;
}

/** How a face of a body is pushed, by its key (`bottom` for the underside); null when it cannot be. */
export function pushFace(
  body: MassShape,
  face: string,
  normal: readonly [number, number, number],
  ground: Ground,
  scope: Scope,
): PushFace | null {
  const [kind, ring, edge, storey] = face.split('/');
  if (kind === 'bottom')
    return {
      axis: [0, 0, -1],
      name: `underside of ${body.name}`,
      apply: (b, by) => pushBottom(b, ground, by),
    };
  if (kind === 'roof')
    return { axis: [0, 0, 1], name: `top of ${body.name}`, apply: (b, by) => pushTop(b, by) };
  if (kind !== 'wall') return null;
  const [r, e, s] = [Number(ring), Number(edge), Number(storey)];
  const axis: [number, number, number] = [normal[0], normal[1], 0];
  if (scope === 'wall' || r > 0)
    return { axis, name: `wall ${e + 1} of ${body.name}`, apply: (b, by) => pushWall(b, r, e, by) };
  const storeys = body.storeys.map((_, i) => i).filter((i) => (scope === 'above' ? i >= s : i === s));
  return {
    axis,
    name: `wall ${e + 1} of storey ${s + 1} of ${body.name}`,
    apply: (b, by) => setBack(b, e, storeys, -by),
  };
}

/** Pushes and pulls faces of masses and neighbouring buildings. */
export function pushTool(host: ToolHost): BoardTool {
  let held: { owner: OwnerRef; face: PushFace; origin: [number, number, number]; pushed: number } | null =
    null;
  return {
    down(x, y) {
      const found = pickOwner(host, x, y);
      const body = found && findBody(currentProject(), found.owner);
      if (!found || !body) {
        if (found)
          notify(`“${found.owner.name}” has no storeys; only masses and buildings can be pushed and pulled.`);
        return false;
      }
      const { tool } = useView.getState();
      const surface = host.now().scene.surfaces[found.picked.surface]!;
      const key =
        surface.face ?? (surface.normal[2] < -0.5 ? 'bottom' : surface.kind === 'roof' ? 'roof' : null);
      const scope = tool.kind === 'push' ? tool.scope : 'wall';
      const face = key && pushFace(body, key, surface.normal, currentProject().site.ground, scope);
      setView({ selection: selectionOf(host, found.picked, found.owner), also: [] });
      if (!face) return false;
      held = { owner: found.owner, face, origin: found.picked.point, pushed: 0 };
      return true;
    },
    drag(x, y) {
      if (!held) return;
      const way = host.view.alongAxis(x, y, held.origin, held.face.axis);
      if (way === null) return;
      const wanted = Math.round(way / STEP_M) * STEP_M;
      const by = wanted - held.pushed;
      if (by !== 0) {
        const { face, owner } = held;
        const gestureKey = `push-${owner.id}-${face.name}`;
        const refused = edit(
          `push ${face.name}`,
          reshapeBody(owner, (body) => face.apply(body, by)),
          {
            gestureKey,
            quiet: true,
          },
        );
        if (refused) {
          host.say({ x, y, text: refused });
          return;
        }
        held.pushed = wanted;
      }
      const { units } = currentProject();
      const text = wanted >= 0 ? 'out' : 'in';
      const upright = held.face.axis[2] !== 0;
      host.say({
        x,
        y,
        text: `${formatLength(Math.abs(wanted), units)} ${upright ? (wanted >= 0 === held.face.axis[2] > 0 ? 'up' : 'down') : text}`,
      });
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
    move(x, y) {
      const found = pickOwner(host, x, y);
      host.say(found && { x, y, text: `Drag to push ${found.owner.name}` });
    },
  };
}
