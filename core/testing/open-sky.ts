import type { Scene } from '../src/scene';
import { DirectionSet, isOpen, MaskKernel, maskWords, sceneObstacles } from '../src/trace';

/** How many of so many rays, spread evenly over all directions, nothing blocks on their way from a place. */
export function openRays(scene: Scene, at: readonly [number, number, number], rays = 400): number {
  const directions = new Float64Array(rays * 3);
  for (let i = 0; i < rays; i++) {
    const z = 1 - (2 * i + 1) / rays;
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    const r = Math.sqrt(1 - z * z);
    directions.set([r * Math.cos(turn), r * Math.sin(turn), z], i * 3);
  }
  const mask = new Uint32Array(maskWords(rays));
  new MaskKernel(sceneObstacles(scene).tree).trace(
    Float64Array.from(at),
    null,
    0,
    1,
    new DirectionSet(directions),
    mask,
  );
  let open = 0;
  for (let d = 0; d < rays; d++) if (isOpen(mask, maskWords(rays), 0, d)) open++;
  return open;
}
