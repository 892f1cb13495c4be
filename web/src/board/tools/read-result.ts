import { add, newId, type Measure, readMeasure, shownMeasure, measuresIn } from '@dial-shade/core';
import { currentProject, edit } from '../../state/project-store';
import { setView } from '../../state/view-store';
import { sensorAt, shownValue } from '../result-cells';
import type { ChunkHit } from '../scene-chunks';
import type { Hover, ToolHost } from './host';

/** The sensor on whose target the pointer is. */
function sensorUnder(host: ToolHost, picked: ChunkHit): number | null {
  const { result } = host.now();
  return sensorAt(result.standing.result!, result.index, picked.point, currentProject().site.ground);
}

/** Plants a probe at the sensor of a result at a place, or chooses the one that is there. */
export function plantProbe(host: ToolHost, x: number, y: number): boolean {
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

/** What a result says at a place: null where it has no value there, undefined where there is none. */
export function readValue(host: ToolHost, x: number, y: number): Hover | null | undefined {
  const { result: shown, stage } = host.now();
  const found = shown.standing.result;
  const picked = stage === 'studies' && found ? host.view.pick(x, y) : null;
  const sensor = picked && sensorUnder(host, picked);
  if (!found || sensor === null) return undefined;
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
