import {
  BufferAttribute,
  BufferGeometry,
  type Group,
  LineSegments,
  type Object3D,
  type ShaderMaterial,
} from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import { disposeOwn } from './overlay-lines';
import { lineMaterial, setLineColour } from './shade-materials';

/** What ink lines are drawn with: all lines of one pen have one colour and one strength. */
export interface Pen {
  /** Line segments from point to point, six numbers a segment. */
  draw(points: Float32Array): Object3D;
  setColour(colour: string): void;
  /** From 0, none, to 1. */
  setStrength(strength: number): void;
}

/** Lines as thin as the screen has them: what the live board draws. */
export function thinPen(colour: string): Pen {
  const material = lineMaterial(colour);
  return {
    draw(points) {
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(points, 3));
      return new LineSegments(geometry, material);
    },
    setColour: (next) => setLineColour(material, next),
    setStrength(strength) {
      material.uniforms.opacity!.value = strength;
      material.visible = strength > 0;
    },
  };
}

const towardsEye = { polygonOffset: true, polygonOffsetFactor: -1.5, polygonOffsetUnits: -8 } as const;

/** Lines of a width in pixels: what a picture larger than the screen needs. */
export function broadPen(colour: string, widthPx: number): Pen {
  const material = new LineMaterial({
    color: colour,
    linewidth: widthPx,
    transparent: true,
    depthWrite: false,
    ...towardsEye,
  });
  return {
    draw: (points) => broadLines(points, material),
    setColour: (next) => void material.color.set(next),
    // Stronger lines are broader too: half the width when faint, half as much again in full.
    setStrength(strength) {
      material.opacity = Math.min(1, 0.3 + strength);
      material.linewidth = widthPx * (0.5 + strength);
      material.visible = strength > 0;
    },
  };
}

function broadLines(points: Float32Array, material: LineMaterial): LineSegments2 {
  const geometry = new LineSegmentsGeometry();
  if (points.length) geometry.setPositions(points);
  const lines = new LineSegments2(geometry, material);
  lines.visible = points.length > 0;
  lines.frustumCulled = false;
  return lines;
}

/** Gives all lines of a group a width: thin ones become lines of `widthPx`, broad ones are enlarged by `scale`. */
export function broaden(group: Group, widthPx: number, scale: number): void {
  const thin: LineSegments<BufferGeometry, ShaderMaterial>[] = [];
  group.traverse((object) => {
    if (object instanceof LineSegments) thin.push(object as (typeof thin)[number]);
    else if (object instanceof LineSegments2) {
      // Others may draw with the same material at their own size.
      object.material = object.material.clone();
      object.material.userData.isShared = false;
      object.material.linewidth *= scale;
    }
  });
  for (const lines of thin) {
    const { ink, opacity } = lines.material.uniforms;
    const material = new LineMaterial({
      color: ink!.value as number,
      linewidth: widthPx,
      transparent: true,
      opacity: opacity!.value as number,
      depthWrite: false,
      depthTest: lines.material.depthTest,
      ...towardsEye,
    });
    const broad = broadLines(lines.geometry.getAttribute('position').array as Float32Array, material);
    broad.renderOrder = lines.renderOrder;
    lines.parent!.add(broad);
    lines.parent!.remove(lines);
    lines.geometry.dispose();
    disposeOwn(lines.material);
  }
}
