import {
  BufferAttribute,
  BufferGeometry,
  Group,
  LineSegments,
  type Material,
  Mesh,
  MeshBasicMaterial,
  SphereGeometry,
} from 'three';
import { lineMaterial } from './shade-materials';

export type Point3 = readonly [number, number, number];

/** Line segments between consecutive points. */
export function polyline(points: readonly Point3[], closed = false): number[] {
  const out: number[] = [];
  for (let i = 0; i + 1 < points.length + (closed ? 1 : 0); i++)
    out.push(...points[i]!, ...points[(i + 1) % points.length]!);
  return out;
}

/** A polyline cut into dashes of about `dash` metres. */
export function dashed(points: readonly Point3[], dash: number, closed = false): number[] {
  const out: number[] = [];
  const whole = polyline(points, closed);
  for (let i = 0; i < whole.length; i += 6) {
    const [ax, ay, az, bx, by, bz] = whole.slice(i, i + 6) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const n = Math.max(1, Math.round(Math.hypot(bx - ax, by - ay, bz - az) / dash / 2)) * 2 + 1;
    const at = (t: number) => [ax + (bx - ax) * t, ay + (by - ay) * t, az + (bz - az) * t];
    for (let k = 0; k < n; k += 2) out.push(...at(k / n), ...at((k + 1) / n));
  }
  return out;
}

const kept = new Map<string, Material>();

/**
 * A material for all that is drawn alike. It is never disposed of: what lies over the scene is made anew with every moment,
 * and a program that nothing uses for an instant would be compiled anew each time.
 */
export function sharedMaterial<M extends Material>(key: string, make: () => M): M {
  let material = kept.get(key);
  if (!material) {
    material = make();
    material.userData.isShared = true;
    kept.set(key, material);
  }
  return material as M;
}

/** Disposes of a material unless others may use it. */
export function disposeOwn(material: Material | undefined): void {
  if (material && material.userData.isShared !== true) material.dispose();
}

export function segments(
  points: number[],
  colour: string,
  opacity = 1,
  order = 8,
  onTop = false,
): LineSegments {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(points), 3));
  const material = sharedMaterial(`lines/${colour}/${opacity}/${onTop}`, () => {
    const made = lineMaterial(colour, opacity, 0.0016);
    made.depthTest = !onTop;
    return made;
  });
  const lines = new LineSegments(geometry, material);
  lines.renderOrder = order;
  lines.frustumCulled = false;
  return lines;
}

export function ball(at: Point3, radius: number, colour: string): Mesh {
  const material = sharedMaterial(`ball/${colour}`, () => new MeshBasicMaterial({ color: colour }));
  const mesh = new Mesh(new SphereGeometry(radius, 24, 16), material);
  mesh.position.set(...at);
  mesh.renderOrder = 9;
  return mesh;
}

/** Takes everything out of a group and frees it. */
export function empty(group: Group): void {
  for (const child of [...group.children]) {
    if (child instanceof Group) empty(child);
    const { geometry, material } = child as Mesh;
    geometry?.dispose();
    disposeOwn(material as Material | undefined);
    group.remove(child);
  }
}
