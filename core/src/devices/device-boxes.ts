import { RAD } from '../civil';
import type { DeviceMake } from '../project';

/** The box of an opening in the frame of its face, metres, and how far its pane stands back from the face. */
export interface OpeningBox {
  u0: number;
  v0: number;
  u1: number;
  v1: number;
  revealM: number;
  /** From its right jamb to the next opening of the wall that the device hangs on; null or left out: none. */
  nextM?: number | null;
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

/** The solids of six faces that a device is at an opening; a plate of its own outline is none, see `platePrisms`. */
export function deviceBoxes(make: DeviceMake, box: OpeningBox): DeviceBox[] {
  if (make.kind === 'overhang') {
    const { depthM, aboveM, sideM, thicknessM, tiltDeg, slats } = make;
    const span = [box.u0 - sideM, box.u1 + sideM] as const;
    const at = [0, box.v1 + aboveM] as const;
    if (!slats) return [levelPlate(span, at, depthM, tiltDeg, thicknessM)];
    return overhangSlats(make, slats).map((along) => slat(span, at, along, tiltDeg, slats, thicknessM));
  }
  if (make.kind === 'canopy') return canopy(make, box);
  if (make.kind === 'balcony') return balcony(make, box);
  if (make.kind === 'plate' || isSheet(make)) return [];
  if (make.kind === 'reveal') return reveal(make, box);
  if (make.kind === 'fins') {
    const { depthM, at, gapM, aboveM, belowM, thicknessM, turnDeg } = make;
    const span = [box.v0 - belowM, box.v1 + aboveM] as const;
    if (at === 'between') {
      const { nextM } = box;
      if (nextM === null || nextM === undefined) return [];
      return [uprightPlate(span, [0, box.u1 + (nextM - thicknessM) / 2], depthM, turnDeg, thicknessM)];
    }
    return [
      ...(at === 'right' ? [] : [uprightPlate(span, [0, box.u0 - gapM], depthM, -turnDeg, -thicknessM)]),
      ...(at === 'left' ? [] : [uprightPlate(span, [0, box.u1 + gapM], depthM, turnDeg, thicknessM)]),
    ];
  }
  if (make.kind === 'louvres') return louvres(make, box);
  if (make.kind === 'shelf') {
    const { heightM, outM, inM, thicknessM, tiltDeg = 0 } = make;
    const [glass, v] = [-box.revealM, box.v0 + heightM - thicknessM];
    const span = [box.u0, box.u1] as const;
    const inner = [glass - inM * Math.cos(tiltDeg * RAD), v + inM * Math.sin(tiltDeg * RAD)] as const;
    return [
      ...(outM > 0 ? [levelPlate(span, [glass, v], outM + box.revealM, tiltDeg, thicknessM)] : []),
      ...(inM > 0 ? [levelPlate(span, inner, inM, tiltDeg, thicknessM)] : []),
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
  if (make.kind === 'overhang') return make.slats ? overhangSlats(make, make.slats).length : 1;
  if (make.kind === 'canopy') return canopy(make, box).length;
  if (make.kind === 'balcony') return make.railM > 0 && make.railOpenness === 0 ? 4 : 1;
  if (make.kind === 'plate' || isSheet(make)) return 1;
  if (make.kind === 'reveal') return 4;
  if (make.kind === 'fins') {
    if (make.at === 'between') return box.nextM === null || box.nextM === undefined ? 0 : 1;
    return make.at === 'both' ? 2 : 1;
  }
  if (make.kind === 'louvres') return slatCount(make, box);
  if (make.kind === 'shelf') return Number(make.outM > 0) + Number(make.inM > 0);
  return fieldCount(box.v0, box.v1, make.rowM) + fieldCount(box.u0, box.u1, make.columnM) + 2;
}

/** Devices that are one sheet and nothing else. */
function isSheet(make: DeviceMake): make is Of<'screen' | 'blind' | 'awning'> {
  return make.kind === 'screen' || make.kind === 'blind' || make.kind === 'awning';
}

type Of<K extends DeviceMake['kind']> = Extract<DeviceMake, { kind: K }>;
type Slats = NonNullable<Of<'overhang'>['slats']>;

/** How far out along the depth of an overhang the middles of its slats lie: from the inner edge on, as many as fit. */
function overhangSlats({ depthM }: Of<'overhang'>, { slatM, spacingM }: Slats): number[] {
  const count = Math.max(1, Math.floor((depthM - slatM) / spacingM + 1e-9) + 1);
  return Array.from({ length: count }, (_, k) => slatM / 2 + k * spacingM);
}

/** A slat of an overhang, turned about the middle of its underside; upright at 90 degrees. */
function slat(
  span: readonly [number, number],
  [w, v]: readonly [number, number],
  along: number,
  tiltDeg: number,
  { slatM, turnDeg }: Slats,
  thicknessM: number,
): DeviceBox {
  const [middleW, middleV] = [w + along * Math.cos(tiltDeg * RAD), v - along * Math.sin(tiltDeg * RAD)];
  const turn = tiltDeg + turnDeg;
  const [halfW, halfV] = [(slatM / 2) * Math.cos(turn * RAD), (slatM / 2) * Math.sin(turn * RAD)];
  const inner = [middleW - halfW, middleV + halfV] as const;
  const outer = [middleW + halfW, middleV - halfV] as const;
  // The thickness stands square to the slat, so that an upright one has it too; and outwards, never into the wall.
  const side = turn < 0 ? -1 : 1;
  const acrossW = side * thicknessM * Math.sin(turn * RAD);
  const acrossV = side * thicknessM * Math.cos(turn * RAD);
  const profile = (u: number): [FramePoint, FramePoint, FramePoint, FramePoint] => [
    [u, inner[1], inner[0]],
    [u, outer[1], outer[0]],
    [u, outer[1] + acrossV, outer[0] + acrossW],
    [u, inner[1] + acrossV, inner[0] + acrossW],
  ];
  return [...profile(span[0]), ...profile(span[1])];
}

/** A plate and two posts, from its underside down. */
function canopy(make: Of<'canopy'>, box: OpeningBox): DeviceBox[] {
  const { depthM, aboveM, sideM, thicknessM, tiltDeg, postM, downM } = make;
  const [u0, u1] = [box.u0 - sideM, box.u1 + sideM];
  const plate = levelPlate([u0, u1], [0, box.v1 + aboveM], depthM, tiltDeg, thicknessM);
  const out = depthM * Math.cos(tiltDeg * RAD);
  const top = (w: number) => box.v1 + aboveM - w * Math.tan(tiltDeg * RAD);
  const foot = box.v0 - downM;
  if (top(out) <= foot || out <= postM) return [plate];
  const post = (u: number): DeviceBox => {
    const profile = (w: number): [FramePoint, FramePoint, FramePoint, FramePoint] => [
      [u, foot, w],
      [u + postM, foot, w],
      [u + postM, top(w), w],
      [u, top(w), w],
    ];
    return [...profile(out - postM), ...profile(out)];
  };
  return [plate, post(u0), post(u1 - postM)];
}

/** How thick a solid rail is, metres. */
const RAIL_M = 0.04;

/** A slab and, where its rail blocks, three plates on it. */
function balcony(make: Of<'balcony'>, box: OpeningBox): DeviceBox[] {
  const { depthM, belowM, sideM, thicknessM, railM, railOpenness } = make;
  const [u0, u1, v] = [box.u0 - sideM, box.u1 + sideM, box.v0 - belowM];
  const slab = levelPlate([u0, u1], [0, v - thicknessM], depthM, 0, thicknessM);
  if (railM === 0 || railOpenness > 0) return [slab];
  const rail = [v, v + railM] as const;
  // Never thicker than half of a shallow slab.
  const thick = Math.min(RAIL_M, depthM / 2);
  return [
    slab,
    levelPlate([u0, u1], [depthM - thick, v], thick, 0, railM),
    uprightPlate(rail, [0, u0], depthM - thick, 0, thick),
    uprightPlate(rail, [0, u1 - thick], depthM - thick, 0, thick),
  ];
}

/** Plates over, under and beside the opening. */
function reveal({ depthM, thicknessM }: Of<'reveal'>, box: OpeningBox): DeviceBox[] {
  const across = [box.u0 - thicknessM, box.u1 + thicknessM] as const;
  const up = [box.v0, box.v1] as const;
  return [
    levelPlate(across, [0, box.v1], depthM, 0, thicknessM),
    levelPlate(across, [0, box.v0 - thicknessM], depthM, 0, thicknessM),
    uprightPlate(up, [0, box.u0 - thicknessM], depthM, 0, thicknessM),
    uprightPlate(up, [0, box.u1], depthM, 0, thicknessM),
  ];
}

type Louvres = Of<'louvres'>;

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
