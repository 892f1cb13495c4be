import { type BoardTool, choose, type Hover, type ToolHost } from './host';
import { dragSun } from './drag-sun';
import type { OtherTools } from './other-tools';
import { turnNorth } from './turn-north';

/**
 * Chooses objects; on results, reads values and plants probes; on the Site stage, turns north by its mark. `others` gives what
 * later stages have, once it has come.
 */
export function chooseTool(host: ToolHost, others: () => OtherTools | null): BoardTool {
  const north = turnNorth(host);
  const sun = dragSun(host);
  let held: Pick<Required<BoardTool>, 'drag' | 'up'> | null = null;
  return {
    down(x, y, event) {
      const shaping = others();
      const all = [
        north,
        sun,
        ...(shaping ? [shaping.dragDevice, shaping.dragOutline, shaping.dragUnderlay] : []),
      ];
      held = all.find((one) => one.down(x, y, event)) ?? null;
      return held !== null;
    },
    drag: (x, y) => held?.drag(x, y),
    up() {
      held?.up();
      held = null;
    },
    move(x, y) {
      if (north.isNear(x, y)) host.say({ x, y, text: 'Drag to turn true north' });
      else if (sun.isNear(x, y))
        host.say({ x, y, text: 'Drag the sun along its day; with Shift, along its hour through the year' });
      else {
        const shaping = others();
        const handle =
          shaping &&
          (shaping.dragDevice.near(x, y) ??
            shaping.dragOutline.near(x, y) ??
            shaping.dragUnderlay.near(x, y));
        const read = handle ? { x, y, text: handle } : shaping?.readValue(x, y);
        host.say(read === undefined ? nameUnder(host, x, y) : read);
      }
    },
    click(x, y, event) {
      const shaping = others();
      if (!shaping?.plantProbe(x, y) && !shaping?.chooseDevice(x, y)) choose(host, x, y, event.shiftKey);
    },
  };
}

/** The name of the body under the pointer. */
function nameUnder(host: ToolHost, x: number, y: number): Hover | null {
  const picked = host.view.pick(x, y);
  const owner = picked && host.now().scene.owners[picked.owner]!;
  return owner && owner.layer !== 'ground' ? { x, y, text: owner.name } : null;
}
