import { RAD } from '../civil';
import type { DeviceMake } from '../project';
import type { FramePoint, OpeningBox } from './device-boxes';

/** A place of a device that is taken hold of to change one of its numbers. */
export interface DeviceHandle {
  /** Key of the number in the project file. */
  number: string;
  name: string;
  /** In the frame of the opening, metres; and the way it is dragged along, a unit vector there. */
  at: FramePoint;
  axis: FramePoint;
  /** The number when it is dragged so far along. */
  valueAt: (alongM: number) => number;
  /** What it snaps to, in the unit of the number. */
  step: number;
}

/** Lengths snap to 5 cm, angles to 5 degrees. */
const STEP_M = 0.05;
const STEP_DEG = 5;

/** A length that grows with the way it is dragged. */
function length(
  number: string,
  name: string,
  now: number,
  at: FramePoint,
  axis: FramePoint,
  perM = 1,
): DeviceHandle {
  return { number, name, at, axis, valueAt: (along) => now + along * perM, step: STEP_M };
}

/** The end of a plate of a depth, which is turned about its beginning: how far its end has come down, or aside. */
function turn(
  number: string,
  name: string,
  depthM: number,
  deg: number,
  at: FramePoint,
  axis: FramePoint,
): DeviceHandle {
  const sine = Math.sin(deg * RAD);
  const valueAt = (along: number) => Math.asin(Math.max(-1, Math.min(1, sine + along / depthM))) / RAD;
  return { number, name, at, axis, valueAt, step: STEP_DEG };
}

const turned = (deg: number) => [Math.sin(deg * RAD), Math.cos(deg * RAD)] as const;
const middleOf = ({ u0, u1, v0, v1 }: OpeningBox) => [(u0 + u1) / 2, (v0 + v1) / 2] as const;

type MakeOf<K extends DeviceMake['kind']> = Extract<DeviceMake, { kind: K }>;

/** The handles of a device at an opening, or along what it runs along: those of one of its plates. */
export function deviceHandles(make: DeviceMake, box: OpeningBox): DeviceHandle[] {
  const [middle, level] = middleOf(box);
  switch (make.kind) {
    case 'overhang':
    case 'awning':
    case 'canopy':
      return handlesOverHead(make, box);
    case 'fins':
      return handlesOfFins(make, box);
    case 'louvres':
      return handlesOfLouvres(make, box);
    case 'shelf':
      return handlesOfShelf(make, box);
    case 'eggcrate':
    case 'reveal':
      return [length('depthM', 'depth', make.depthM, [middle, box.v1, make.depthM], [0, 0, 1])];
    case 'screen':
    case 'blind':
      return [sheetHandle(make, box, [middle, level])];
    case 'balcony': {
      const v = box.v0 - make.belowM;
      const rail: FramePoint = [box.u1 + make.sideM, v + make.railM, make.depthM];
      return [
        length('depthM', 'depth', make.depthM, [middle, v, make.depthM], [0, 0, 1]),
        length('railM', 'height of the rail', make.railM, rail, [0, 1, 0]),
      ];
    }
    case 'plate': {
      const v = box.v1 + make.aboveM;
      return [
        length('aboveM', 'over the head', make.aboveM, [middle, v, make.offM], [0, 1, 0]),
        length('offM', 'off the face', make.offM, [middle + 0.25, v, make.offM], [0, 0, 1]),
      ];
    }
  }
}

function handlesOverHead(
  { depthM, aboveM, sideM, tiltDeg }: MakeOf<'overhang' | 'awning' | 'canopy'>,
  box: OpeningBox,
): DeviceHandle[] {
  const [sin, cos] = turned(tiltDeg);
  const [middle] = middleOf(box);
  const v = box.v1 + aboveM;
  const edge = (u: number): FramePoint => [u, v - depthM * sin, depthM * cos];
  const end: FramePoint = [box.u1 + sideM, v - (depthM * sin) / 2, (depthM * cos) / 2];
  return [
    length('depthM', 'depth', depthM, edge(middle), [0, -sin, cos]),
    length('aboveM', 'over the head', aboveM, [middle, v, 0.02], [0, 1, 0]),
    length('sideM', 'beyond the jambs', sideM, end, [1, 0, 0]),
    turn('tiltDeg', 'tilt', depthM, tiltDeg, edge(box.u0 + (box.u1 - box.u0) / 4), [0, -1, 0]),
  ];
}

function handlesOfFins({ depthM, at, gapM, turnDeg }: MakeOf<'fins'>, box: OpeningBox): DeviceHandle[] {
  const [sin, cos] = turned(turnDeg);
  const [, level] = middleOf(box);
  if (at === 'between') {
    const u = box.u1 + (box.nextM ?? 0) / 2;
    return box.nextM === null || box.nextM === undefined
      ? []
      : [length('depthM', 'depth', depthM, [u + depthM * sin, level, depthM * cos], [sin, 0, cos])];
  }
  const way = at === 'left' ? -1 : 1;
  const u = way > 0 ? box.u1 + gapM : box.u0 - gapM;
  const edge = (v: number): FramePoint => [u + way * depthM * sin, v, depthM * cos];
  return [
    length('depthM', 'depth', depthM, edge(level), [way * sin, 0, cos]),
    length('gapM', 'gap from the jamb', gapM, [u, level, 0.02], [way, 0, 0]),
    turn('turnDeg', 'turn', depthM, turnDeg, edge(level + (box.v1 - box.v0) / 4), [way, 0, 0]),
  ];
}

function handlesOfLouvres(
  { lie, slatM, spacingM, tiltDeg, offM, aroundM }: MakeOf<'louvres'>,
  box: OpeningBox,
): DeviceHandle[] {
  const [sin, cos] = turned(tiltDeg);
  const [middle, level] = middleOf(box);
  const along: FramePoint = lie === 'level' ? [0, -1, 0] : [1, 0, 0];
  const first: FramePoint =
    lie === 'level' ? [middle, box.v1 + aroundM, offM] : [box.u0 - aroundM, level, offM];
  // The slat in the middle is held; a longer way between slats moves it by as many.
  const extent = (lie === 'level' ? box.v1 - box.v0 : box.u1 - box.u0) + 2 * aroundM;
  const k = Math.max(1, Math.round(extent / spacingM / 2));
  const inner = first.map((value, i) => value + along[i]! * k * spacingM) as unknown as FramePoint;
  const outer = (aside: number): FramePoint => {
    const end = inner.map((value, i) => value + along[i]! * slatM * sin + (i === 2 ? slatM * cos : 0));
    end[lie === 'level' ? 0 : 1]! += aside;
    return end as unknown as FramePoint;
  };
  const axis = along.map((value, i) => value * sin + (i === 2 ? cos : 0)) as unknown as FramePoint;
  const aside = (lie === 'level' ? box.u1 - box.u0 : box.v1 - box.v0) / 4;
  return [
    length('slatM', 'depth of a slat', slatM, outer(0), axis),
    { ...length('spacingM', 'spacing', spacingM, inner, along, 1 / k), step: 0.01 },
    turn('tiltDeg', 'tilt', slatM, tiltDeg, outer(-aside), along),
  ];
}

function handlesOfShelf(
  { heightM, outM, inM, tiltDeg = 0 }: MakeOf<'shelf'>,
  box: OpeningBox,
): DeviceHandle[] {
  const [sin, cos] = turned(tiltDeg);
  const [middle] = middleOf(box);
  const v = box.v0 + heightM;
  const at = (along: number): FramePoint => [middle, v - along * sin, along * cos - box.revealM];
  const reach = outM + box.revealM;
  const aside: FramePoint = [box.u0 + (box.u1 - box.u0) / 4, at(reach)[1], at(reach)[2]];
  return [
    length('outM', 'depth outside', outM, at(reach), [0, -sin, cos]),
    length('inM', 'depth inside', inM, at(-inM), [0, sin, -cos]),
    length('heightM', 'over the sill', heightM, [box.u1, v, outM / 2], [0, 1, 0]),
    ...(outM > 0 ? [turn('tiltDeg', 'tilt', reach, tiltDeg, aside, [0, -1, 0])] : []),
  ];
}

/** The handle of a sheet before the opening: how far it hangs off. */
function sheetHandle(
  { side, offM }: Extract<DeviceMake, { kind: 'screen' | 'blind' }>,
  { revealM }: OpeningBox,
  [u, v]: readonly [number, number],
): DeviceHandle {
  const isInside = side === 'inside';
  return {
    number: 'offM',
    name: 'off the opening',
    at: [u, v, isInside ? -revealM - offM : offM],
    axis: [0, 0, isInside ? -1 : 1],
    valueAt: (along) => offM + along,
    step: STEP_M,
  };
}

/** A device with one number dragged: snapped to its step, never below what the device can have. */
export function withHandle(
  make: DeviceMake,
  { number, valueAt, step }: DeviceHandle,
  alongM: number,
): DeviceMake {
  const snapped = Math.round(valueAt(alongM) / step) * step;
  const least = number === 'tiltDeg' || number === 'turnDeg' ? -80 : (MIN_OF[number] ?? 0);
  const most = number === 'tiltDeg' || number === 'turnDeg' ? 80 : 20;
  const value = Number(Math.min(most, Math.max(least, snapped)).toFixed(4));
  return { ...make, [number]: value } as DeviceMake;
}

/** Numbers that may not be nothing. */
const MIN_OF: Record<string, number> = { depthM: 0.05, slatM: 0.05, spacingM: 0.05, heightM: 0.05 };
