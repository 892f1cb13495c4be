import { type CutPlane, type Polygon, type Scene, sectionOf, triangulate } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry, DoubleSide, Mesh, MeshBasicMaterial, type Object3D } from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import { SCENE } from '../theme/palette';
import { sharedMaterial } from './overlay-lines';

/** Width of the lines round what is cut, CSS pixels. */
const HEAVY_PX = 2.4;
/** How far the faces of a cut lie on the side that is seen, metres. */
const BEHIND_M = 0.002;

/** The faces of a cut, filled, and the lines of all that is cut, heavier than what lies beyond. */
export function sectionObjects(
  scene: Scene,
  hidden: ReadonlySet<number>,
  plane: CutPlane,
  theme: 'light' | 'dark',
): Object3D[] {
  const { origin, u, v, n } = plane;
  const inSpace = (a: number, b: number): [number, number, number] => [
    origin[0] + a * u[0] + b * v[0] - n[0] * BEHIND_M,
    origin[1] + a * u[1] + b * v[1] - n[1] * BEHIND_M,
    origin[2] + a * u[2] + b * v[2] - n[2] * BEHIND_M,
  ];
  const corners: number[] = [];
  const lines: number[] = [];
  scene.pieces.forEach((piece, owner) => {
    if (hidden.has(owner)) return;
    const section = sectionOf(piece, plane);
    for (const face of section.faces) for (const [a, b] of filled(face)) corners.push(...inSpace(a, b));
    for (let i = 0; i < section.lines.length; i += 2)
      lines.push(...inSpace(section.lines[i]!, section.lines[i + 1]!));
  });
  const objects: Object3D[] = [];
  if (corners.length) objects.push(faceMesh(corners, theme));
  if (lines.length) objects.push(heavyLines(lines, theme));
  return objects;
}

function filled({ outer, holes }: Polygon): (readonly [number, number])[] {
  const points = [...outer, ...holes.flat()];
  return triangulate([outer, ...holes]).map((i) => points[i]!);
}

function faceMesh(corners: number[], theme: 'light' | 'dark'): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(corners), 3));
  const mesh = new Mesh(
    geometry,
    sharedMaterial(
      `cut/${theme}`,
      () =>
        new MeshBasicMaterial({
          color: SCENE[theme].cut,
          side: DoubleSide,
          depthTest: false,
          transparent: true,
        }),
    ),
  );
  mesh.renderOrder = 11;
  mesh.frustumCulled = false;
  return mesh;
}

function heavyLines(points: number[], theme: 'light' | 'dark'): LineSegments2 {
  const geometry = new LineSegmentsGeometry();
  geometry.setPositions(points);
  const lines = new LineSegments2(
    geometry,
    sharedMaterial(
      `heavy/${theme}`,
      () =>
        new LineMaterial({
          color: SCENE[theme].ink,
          linewidth: HEAVY_PX,
          depthTest: false,
          transparent: true,
        }),
    ),
  );
  lines.renderOrder = 12;
  lines.frustumCulled = false;
  return lines;
}
