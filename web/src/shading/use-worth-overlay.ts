import { netWorth, type Point3, worthOutline } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry, DoubleSide, Mesh, MeshBasicMaterial } from 'three';
import { polyline, segments } from '../board/overlay-lines';
import type { PaneView } from '../board/pane-view';
import { useLayer } from '../board/use-layer';
import { useView } from '../state/view-store';
import { RAMPS, rampRgb, SCENE } from '../theme/palette';
import type { WorthFound } from '../workers/sweep-work';
import { useWorth } from './worth-store';

/** The map of worth as coloured cells on its plane, and the line about what is worth shading. */
export function useWorthOverlay(view: PaneView, optionId: string): void {
  const theme = useView((v) => v.theme);
  const { isShown, found, wish, lambda } = useWorth();
  const shown = isShown && found && 'map' in found && wish?.optionId === optionId ? found : null;
  const make = () => (shown ? [cells(shown, lambda), ...contour(shown, lambda, SCENE[theme].ink)] : []);
  useLayer(view, make, [shown, lambda, theme]);
}

function place({ origin, along, out }: WorthFound, x: number, y: number): Point3 {
  return [0, 1, 2].map((k) => origin[k]! + x * along[k]! + y * out[k]!) as unknown as Point3;
}

/** Cells by what they are worth: shade that pays is indigo, sun that pays marigold, nothing paper. */
function cells(found: WorthFound, lambda: number): Mesh {
  const { columns, rows, cellM } = found.map;
  const net = netWorth(found.map, lambda);
  const most = net.reduce((best, value) => Math.max(best, Math.abs(value)), 0) || 1;
  const [position, colour]: number[][] = [[], []];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const value = net[row * columns + column]!;
      if (value === 0) continue;
      const tone = rampRgb(RAMPS.change, 0.5 - value / most / 2);
      const corner = (dx: number, dy: number) => place(found, (column + dx) * cellM, (row + dy) * cellM);
      const [a, b, c, d] = [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)];
      for (const p of [a, b, c, a, c, d]) {
        position!.push(...p);
        colour!.push(...tone);
      }
    }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(position!), 3));
  geometry.setAttribute('color', new BufferAttribute(Float32Array.from(colour!), 3));
  const material = new MeshBasicMaterial({
    vertexColors: true,
    side: DoubleSide,
    transparent: true,
    opacity: 0.85,
    depthWrite: false,
  });
  return new Mesh(geometry, material);
}

function contour(found: WorthFound, lambda: number, ink: string) {
  return worthOutline(found.map, lambda, 'smooth').flatMap(({ outer, holes }) =>
    [outer, ...holes].map((ring) =>
      segments(
        polyline([...ring, ring[0]!].map(([x, y]) => place(found, x - found.map.x0, y))),
        ink,
        1,
        12,
        true,
      ),
    ),
  );
}
