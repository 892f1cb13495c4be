import {
  change,
  edgeOf,
  formatLength,
  groundLevel,
  type Point2,
  segmentDistance,
  signedArea,
} from '@dial-shade/core';
import { type EnvelopeHandle, envelopeHandles } from '../../envelope/envelope-handles';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { type BoardTool, onGround, type ToolHost } from './host';

const REACH_PX = 11;
const EDGE_PX = 6;
/** Corners and setbacks go by steps of this, metres. */
const STEP_M = 0.25;
const MAX_M = 200;

/** Drags corners of what may be built on and of areas that keep their sun, and edges inwards: their setbacks. */
export function dragOutline(host: ToolHost): Required<Pick<BoardTool, 'down' | 'drag' | 'up'>> & {
  near(x: number, y: number): string | null;
} {
  let held: EnvelopeHandle | null = null;
  const seen = (p: Point2, levelM: number) => host.view.toScreen([p[0], p[1], levelM]);
  const at = (x: number, y: number): EnvelopeHandle | null => {
    if (host.now().stage !== 'envelope') return null;
    let [best, least]: [EnvelopeHandle | null, number] = [null, Infinity];
    for (const handle of envelopeHandles()) {
      const { ground } = currentProject().site;
      const level = (p: Point2) => handle.levelM ?? groundLevel(ground, p);
      if (handle.kind === 'corner') {
        const { x: sx, y: sy, behind } = seen(handle.at, level(handle.at));
        const off = Math.hypot(sx - x, sy - y);
        if (!behind && off < REACH_PX && off < least) [best, least] = [handle, off];
      } else {
        const [a, b] = [seen(handle.from, level(handle.from)), seen(handle.to, level(handle.to))];
        const off = segmentDistance([x, y], [a.x, a.y], [b.x, b.y]);
        // A corner near by comes first.
        if (!a.behind && !b.behind && off < EDGE_PX && off + REACH_PX < least)
          [best, least] = [handle, off + REACH_PX];
      }
    }
    return best;
  };
  const units = () => currentProject().units;
  return {
    near(x, y) {
      const found = at(x, y);
      if (!found) return null;
      return found.kind === 'corner'
        ? `Corner of ${found.of} · drag it`
        : `Set back ${formatLength(found.setbacksM[found.index]!, units())} · drag it`;
    },
    down(x, y) {
      held = at(x, y);
      return held !== null;
    },
    drag(x, y) {
      if (!held) return;
      const p = onGround(host, x, y, held.levelM ?? undefined);
      if (!p) return;
      if (held.kind === 'corner') {
        const to = p.map((v) => Math.round(v / STEP_M) * STEP_M) as [number, number];
        const { ring, index, put, of, key } = held;
        const next = ring.map((corner, i): [number, number] => (i === index ? to : [...corner]));
        const refused = edit(`move a corner of ${of}`, put(next), { gestureKey: key, quiet: true });
        host.say({
          x,
          y,
          text: refused ?? `${formatLength(to[0], units())} · ${formatLength(to[1], units())}`,
        });
        return;
      }
      const { envelope, index, ring } = held;
      const { p: a, along } = edgeOf(ring, index);
      // To the left of an edge of a ring that runs anticlockwise lies its inside.
      const way = signedArea(ring) < 0 ? -1 : 1;
      const inM = way * (along[0] * (p[1] - a[1]) - along[1] * (p[0] - a[0]));
      const setbackM = Math.max(0, Math.min(MAX_M, Math.round(inM / STEP_M) * STEP_M));
      const setbacksM = held.setbacksM.map((d, i) => (i === index ? setbackM : d));
      const refused = edit(
        `set an edge of ${envelope.name} back`,
        change('envelopes', envelope.id, { setbacksM }),
        {
          gestureKey: `setback-${envelope.id}-${index}`,
          quiet: true,
        },
      );
      host.say({ x, y, text: refused ?? `Set back ${formatLength(setbackM, units())}` });
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
  };
}
