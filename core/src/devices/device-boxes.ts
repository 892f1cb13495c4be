import { RAD } from '../civil';
import type { DeviceMake } from '../project';

/** The box of an opening in the frame of its face, metres, and how far its pane stands back from the face. */
export interface OpeningBox {
  u0: number;
  v0: number;
  u1: number;
  v1: number;
  revealM: number;
}

/** A point in the frame of an opening: u to the right seen from outside, v upwards, w outwards. */
export type FramePoint = readonly [u: number, v: number, w: number];

/** A closed solid of six flat faces: four corners of one side, and the four that face them on the other. */
export type DeviceBox = readonly [
  FramePoint,
  FramePoint,
  FramePoint,
  FramePoint,
  FramePoint,
  FramePoint,
  FramePoint,
  FramePoint,
];

/** The solids that a device is at an opening. */
export function deviceBoxes(make: DeviceMake, box: OpeningBox): DeviceBox[] {
  if (make.kind === 'overhang') {
    const { depthM, aboveM, sideM, thicknessM, tiltDeg } = make;
    return [levelPlate([box.u0 - sideM, box.u1 + sideM], [0, box.v1 + aboveM], depthM, tiltDeg, thicknessM)];
  }
  if (make.kind === 'fins') {
    const { depthM, at, gapM, aboveM, belowM, thicknessM, turnDeg } = make;
    const span = [box.v0 - belowM, box.v1 + aboveM] as const;
    return [
      ...(at === 'right' ? [] : [uprightPlate(span, [0, box.u0 - gapM], depthM, -turnDeg, -thicknessM)]),
      ...(at === 'left' ? [] : [uprightPlate(span, [0, box.u1 + gapM], depthM, turnDeg, thicknessM)]),
    ];
  }
  if (make.kind === 'louvres') return louvres(make, box);
  if (make.kind === 'shelf') {
    const { heightM, outM, inM, thicknessM } = make;
    const [glass, v] = [-box.revealM, box.v0 + heightM - thicknessM];
    const span = [box.u0, box.u1] as const;
    return [
      ...(outM > 0 ? [levelPlate(span, [glass, v], outM + box.revealM, 0, thicknessM)] : []),
      ...(inM > 0 ? [levelPlate(span, [glass - inM, v], inM, 0, thicknessM)] : []),
    ];
  }
  const { depthM, columnM, rowM, thicknessM } = make;
  return [
    ...evenly(box.v0, box.v1, rowM, thicknessM).map((v) =>
      levelPlate([box.u0, box.u1], [0, v], depthM, 0, thicknessM),
    ),
    ...evenly(box.u0, box.u1, columnM, thicknessM).map((u) =>
      uprightPlate([box.v0, box.v1], [0, u], depthM, 0, thicknessM),
    ),
  ];
}

/** How many solids `deviceBoxes` makes, told without making them. */
export function boxCount(make: DeviceMake, box: OpeningBox): number {
  if (make.kind === 'overhang') return 1;
  if (make.kind === 'fins') return make.at === 'both' ? 2 : 1;
  if (make.kind === 'louvres') return slatCount(make, box);
  if (make.kind === 'shelf') return Number(make.outM > 0) + Number(make.inM > 0);
  return fieldCount(box.v0, box.v1, make.rowM) + fieldCount(box.u0, box.u1, make.columnM) + 2;
}

type Louvres = Extract<DeviceMake, { kind: 'louvres' }>;

function slatCount({ lie, spacingM, aroundM }: Louvres, box: OpeningBox): number {
  const extent = (lie === 'level' ? box.v1 - box.v0 : box.u1 - box.u0) + 2 * aroundM;
  return Math.ceil(extent / spacingM - 1e-9) + 1;
}

function fieldCount(from: number, to: number, spacingM: number): number {
  return Math.max(1, Math.round((to - from) / spacingM));
}

/**
 * Slats from the upper (the left) end on, one spacing apart, until no gap is left: their inner edges stand at the end of the
 * extent and every spacing from there, the last at or beyond the other end.
 */
function louvres(make: Louvres, box: OpeningBox): DeviceBox[] {
  const { lie, slatM, spacingM, tiltDeg, thicknessM, offM, aroundM } = make;
  const [u0, u1] = [box.u0 - aroundM, box.u1 + aroundM];
  const [v0, v1] = [box.v0 - aroundM, box.v1 + aroundM];
  return Array.from({ length: slatCount(make, box) }, (_, k) =>
    lie === 'level'
      ? levelPlate([u0, u1], [offM, v1 - k * spacingM], slatM, tiltDeg, thicknessM)
      : uprightPlate([v0, v1], [offM, u0 + k * spacingM], slatM, tiltDeg, thicknessM),
  );
}

/** Where plates of a thickness stand so that fields of about one spacing are equal, the outer ones along the edges. */
function evenly(from: number, to: number, spacingM: number, thicknessM: number): number[] {
  const fields = fieldCount(from, to, spacingM);
  return Array.from({ length: fields + 1 }, (_, i) => from + (i * (to - from - thicknessM)) / fields);
}

/**
 * A plate along u. Its underside runs from the inner edge, at w and v, outwards by its depth and down by its tilt; its top
 * is the thickness above that.
 */
function levelPlate(
  [u0, u1]: readonly [number, number],
  [w, v]: readonly [number, number],
  depthM: number,
  tiltDeg: number,
  thicknessM: number,
): DeviceBox {
  const outW = w + depthM * Math.cos(tiltDeg * RAD);
  const outV = v - depthM * Math.sin(tiltDeg * RAD);
  const profile = (u: number): [FramePoint, FramePoint, FramePoint, FramePoint] => [
    [u, v, w],
    [u, outV, outW],
    [u, outV + thicknessM, outW],
    [u, v + thicknessM, w],
  ];
  return [...profile(u0), ...profile(u1)];
}

/** A plate along v: its near face runs from w and u outwards by its depth and to the right by its turn. */
function uprightPlate(
  [v0, v1]: readonly [number, number],
  [w, u]: readonly [number, number],
  depthM: number,
  turnDeg: number,
  thicknessM: number,
): DeviceBox {
  const outW = w + depthM * Math.cos(turnDeg * RAD);
  const outU = u + depthM * Math.sin(turnDeg * RAD);
  const profile = (v: number): [FramePoint, FramePoint, FramePoint, FramePoint] => [
    [u, v, w],
    [outU, v, outW],
    [outU + thicknessM, v, outW],
    [u + thicknessM, v, w],
  ];
  return [...profile(v0), ...profile(v1)];
}
