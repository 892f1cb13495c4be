import type { TargetGlass } from '../flat-target';
import { FREE } from '../sensor-grid';
import { hemisphericalG } from './angular-g';
import type { WeighedAt } from './kind';

type Facing = Pick<WeighedAt, 'normals' | 'covered'>;

/** What a W/m² off open ground, with nothing in its way, brings onto a sensor, W/m²: nothing where something covers it. */
export function offOpenGround({ normals, covered }: Facing, sensor: number): number {
  return covered[sensor] === FREE ? (1 - normals[sensor * 3 + 2]!) / 2 : 0;
}

const hemispheres = new WeakMap<TargetGlass, number>();

/** What of it a pane there lets in, its frame among it, W/m². */
export function openGroundThrough(at: Facing, sensor: number, glass: TargetGlass): number {
  let through = hemispheres.get(glass);
  if (through === undefined) {
    through = glass.gValue * (1 - glass.frameShare) * hemisphericalG(glass);
    hemispheres.set(glass, through);
  }
  return offOpenGround(at, sensor) * through;
}
