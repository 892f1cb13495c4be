import { type Ground, groundLevel, type Point2, type Underlay, underlayPoint } from '@dial-shade/core';

/** Where a picture on the ground is taken hold of: in its middle to move it, beside its right edge to turn it. */
export interface UnderlayHandle {
  kind: 'move' | 'turn';
  at: [number, number, number];
}

/** How far beside the right edge the handle for turning stands, as a share of the width. */
const BESIDE = 0.05;

export function underlayHandles(underlay: Underlay, ground: Ground): UnderlayHandle[] {
  const { widthPx: w, heightPx: h } = underlay;
  const at = (p: Point2): [number, number, number] => {
    const [x, y] = underlayPoint(underlay, p);
    return [x, y, groundLevel(ground, [x, y])];
  };
  return [
    { kind: 'move', at: at([w / 2, h / 2]) },
    { kind: 'turn', at: at([(1 + BESIDE) * w, h / 2]) },
  ];
}
