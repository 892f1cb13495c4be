import { add, newId, type Measure, readMeasure, shownMeasure, measuresIn } from '@dial-shade/core';
import { currentProject, edit } from '../../state/project-store';
import { setView } from '../../state/view-store';
import { sensorAt, shownValue } from '../result-cells';
import type { ChunkHit } from '../scene-chunks';
import { type BoardTool, choose, type Hover, type ToolHost } from './host';
import { chooseDevice } from './choose-device';
import { dragDevice } from './drag-device';
import { dragOutline } from './drag-outline';
import { dragSun } from './drag-sun';
import { turnNorth } from './turn-north';

/** Chooses objects; on results, reads values and plants probes; on the Site stage, turns north by its mark. */
export function chooseTool(host: ToolHost): BoardTool {
  const north = turnNorth(host);
  const sun = dragSun(host);
  const device = dragDevice(host);
  const outline = dragOutline(host);
  let held: Pick<Required<BoardTool>, 'drag' | 'up'> | null = null;
  return {
    down(x, y, event) {
      held = [north, sun, device, outline].find((one) => one.down(x, y, event)) ?? null;
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
        const handle = device.near(x, y) ?? outline.near(x, y);
        host.say(handle ? { x, y, text: handle } : readValue(host, x, y));
      }
    },
    click(x, y, event) {
      if (!plantProbe(host, x, y) && !chooseDevice(host, x, y)) choose(host, x, y, event.shiftKey);
    },
  };
}

/** The sensor on whose target the pointer is. */
function sensorUnder(host: ToolHost, picked: ChunkHit): number | null {
  const { result } = host.now();
  return sensorAt(result.standing.result!, result.index, picked.point, currentProject().site.ground);
}

function plantProbe(host: ToolHost, x: number, y: number): boolean {
  const { result: shown, stage } = host.now();
  const found = shown.standing.result;
  const picked = host.view.pick(x, y);
  if (stage !== 'studies' || !found || !picked) return false;
  const sensor = sensorUnder(host, picked);
  if (sensor === null) return false;
  setView({ place: found.targets[found.grid.target[sensor]!]!.id });
  const project = currentProject();
  const { positions: p, normals: n } = found.grid;
  const at = [0, 1, 2].map((k) => p[sensor * 3 + k]!) as [number, number, number];
  const near = project.probes.find((probe) => Math.hypot(...probe.at.map((v, k) => v - at[k]!)) < 1e-6);
  if (near) {
    setView({ activeProbe: near.id });
    return true;
  }
  const number = Math.max(0, ...project.probes.map((probe) => probe.number)) + 1;
  const id = newId('probe');
  const normal = [0, 1, 2].map((k) => n[sensor * 3 + k]!) as [number, number, number];
  if (!edit(`plant probe ${number}`, add('probes', { id, number, at, normal }))) setView({ activeProbe: id });
  return true;
}

function readValue(host: ToolHost, x: number, y: number): Hover | null {
  const { result: shown, stage, scene } = host.now();
  const found = shown.standing.result;
  const picked = host.view.pick(x, y);
  if (!picked) return null;
  const owner = scene.owners[picked.owner]!;
  const sensor = stage === 'studies' && found ? sensorUnder(host, picked) : null;
  if (!found || sensor === null) return owner.layer === 'ground' ? null : { x, y, text: owner.name };
  const value = shownValue(found, shown.index, sensor);
  if (Number.isNaN(value)) return null;
  const main = shownMeasure(found);
  const others = measuresIn(found.summary.kind, found.values).filter(
    ({ key, series }) => key !== main.key && !series,
  );
  const unitOf = ({ reads, unit }: Measure) => (reads ? '' : ` ${unit}`);
  const rest = others
    .map((measure) => ({ measure, own: found.values[measure.key]![sensor]! }))
    .filter(({ own }) => !Number.isNaN(own))
    .map(
      ({ measure, own }) =>
        ` · ${measure.label.toLowerCase()} ${readMeasure(measure, own)}${unitOf(measure)}`,
    );
  return { x, y, text: `${readMeasure(main, value)}${unitOf(main)}${rest.join('')}` };
}
