import { changeDevice, formatLength, withHandle } from '@dial-shade/core';
import { deviceInHand, type DeviceInHand } from '../../shading/device-in-hand';
import { useMeshes } from '../../state/mesh-cache';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { useView } from '../../state/view-store';
import type { BoardTool, ToolHost } from './host';

const REACH_PX = 11;

/** Drags a handle of the device in hand: its depth, its spacing, its tilt. */
export function dragDevice(host: ToolHost): Required<Pick<BoardTool, 'down' | 'drag' | 'up'>> & {
  near(x: number, y: number): string | null;
} {
  let held: { hand: DeviceInHand; number: string; make: DeviceInHand['device']['make'] } | null = null;
  const inHand = () =>
    host.now().stage === 'shading'
      ? deviceInHand(currentProject(), useView.getState().optionId, useMeshes.getState().meshes)
      : null;
  const at = (x: number, y: number) => {
    let [best, least]: [DeviceInHand['handles'][number] | null, number] = [null, REACH_PX];
    const hand = inHand();
    for (const one of hand?.handles ?? []) {
      const seen = host.view.toScreen([...one.at]);
      const off = Math.hypot(seen.x - x, seen.y - y);
      if (!seen.behind && off < least) [best, least] = [one, off];
    }
    return best && { hand: hand!, one: best };
  };
  const say = (x: number, y: number, number: string, name: string, value: number) => {
    const read = number.endsWith('Deg')
      ? `${value.toFixed(0)}°`
      : formatLength(value, currentProject().units);
    host.say({ x, y, text: `${read} ${name}` });
  };
  return {
    near(x, y) {
      const found = at(x, y);
      if (!found) return null;
      const { hand, one } = found;
      const value = (hand.device.make as Record<string, unknown>)[one.handle.number] as number;
      const read = one.handle.number.endsWith('Deg')
        ? `${value.toFixed(0)}°`
        : formatLength(value, currentProject().units);
      return `${read} ${one.handle.name} · drag it`;
    },
    down(x, y) {
      const found = at(x, y);
      if (!found) return false;
      held = { hand: found.hand, number: found.one.handle.number, make: found.hand.device.make };
      return true;
    },
    drag(x, y) {
      if (!held) return;
      const { hand, number, make } = held;
      // Always from where it was taken hold of: what snaps then does not drift.
      const from = hand.handles.find(({ handle }) => handle.number === number)!;
      const way = host.view.alongAxis(x, y, [...from.at], [...from.axis]);
      if (way === null) return;
      const next = withHandle(make, from.handle, way);
      const refused = edit(
        `drag ${from.handle.name} of ${hand.device.name}`,
        changeDevice(hand.option.id, hand.schemeId, hand.device.id, { make: next }),
        { gestureKey: `device-${hand.device.id}-${number}`, quiet: true },
      );
      if (refused) host.say({ x, y, text: refused });
      else say(x, y, number, from.handle.name, (next as Record<string, unknown>)[number] as number);
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
  };
}
