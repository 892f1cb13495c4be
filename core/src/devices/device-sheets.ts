import { RAD } from '../civil';
import type { Point2 } from '../geometry';
import type { DeviceMake } from '../project';
import type { FramePoint, OpeningBox } from './device-boxes';

/** A flat sheet that lets a share of the light pass. */
export interface DeviceSheet {
  corners: readonly [FramePoint, FramePoint, FramePoint, FramePoint];
  openness: number;
  /** Depth of its holes over their width. */
  holeDepth: number;
}

/** A screen lies at least so far before the pane, metres: in its plane it would shade nothing. */
const CLEAR_M = 0.02;

/** The sheets that a device has at an opening: a screen, a blind that is down, an awning that is out, the open rail of a balcony. */
export function deviceSheets(make: DeviceMake, box: OpeningBox): DeviceSheet[] {
  if (make.kind === 'screen') {
    const { openness, holeDepth, aroundM } = make;
    const offM = sheetOff(make, box);
    const [u0, u1] = [box.u0 - aroundM, box.u1 + aroundM];
    const [v0, v1] = [box.v0 - aroundM, box.v1 + aroundM];
    const corners = [
      [u0, v0, offM],
      [u1, v0, offM],
      [u1, v1, offM],
      [u0, v1, offM],
    ] as const;
    return [{ corners, openness, holeDepth }];
  }
  if (make.kind === 'blind') return blindSheets(make, box);
  if (make.kind === 'awning') return [awningSheet(make, box)];
  if (make.kind !== 'balcony' || make.railM === 0 || make.railOpenness === 0) return [];
  const [u0, u1, v] = [box.u0 - make.sideM, box.u1 + make.sideM, box.v0 - make.belowM];
  const top = v + make.railM;
  const upright = (from: readonly [number, number], to: readonly [number, number]): DeviceSheet => ({
    corners: [
      [from[0], v, from[1]],
      [to[0], v, to[1]],
      [to[0], top, to[1]],
      [from[0], top, from[1]],
    ],
    openness: make.railOpenness,
    holeDepth: 0,
  });
  const out = make.depthM;
  return [upright([u0, out], [u1, out]), upright([u0, 0], [u0, out]), upright([u1, out], [u1, 0])];
}

/** How far a sheet hangs off the face, outwards; never in the plane of the pane. */
function sheetOff(
  { side, offM }: { side?: 'outside' | 'inside' | undefined; offM: number },
  { revealM }: Pick<OpeningBox, 'revealM'>,
): number {
  return side === 'inside' ? -revealM - Math.max(offM, CLEAR_M) : Math.max(offM, CLEAR_M - revealM);
}

/** A blind as it hangs when it is down: over the opening itself, closed all round to the wall, or to the pane inside. */
function blindSheets(
  { side, offM, openness }: Extract<DeviceMake, { kind: 'blind' }>,
  { u0, v0, u1, v1, revealM }: OpeningBox,
): DeviceSheet[] {
  const from = side === 'outside' ? 0 : -revealM;
  const w = sheetOff({ side, offM }, { revealM });
  const corners = [
    [u0, v0],
    [u1, v0],
    [u1, v1],
    [u0, v1],
  ] as const;
  const sheet = (quad: readonly FramePoint[]): DeviceSheet => ({
    corners: quad as unknown as DeviceSheet['corners'],
    openness,
    holeDepth: 0,
  });
  const front = sheet(corners.map(([u, v]): FramePoint => [u, v, w]));
  if (side === 'outside' && w <= 0) return [front];
  const round = corners.map((a, k) => {
    const b = corners[(k + 1) % 4]!;
    return sheet([
      [...a, from],
      [...b, from],
      [...b, w],
      [...a, w],
    ]);
  });
  return [front, ...round];
}

/** An awning as it is let out. */
function awningSheet(
  { depthM, aboveM, sideM, tiltDeg, openness }: Extract<DeviceMake, { kind: 'awning' }>,
  { u0, u1, v1 }: OpeningBox,
): DeviceSheet {
  const [left, right, v] = [u0 - sideM, u1 + sideM, v1 + aboveM];
  const [out, low] = [depthM * Math.cos(tiltDeg * RAD), v - depthM * Math.sin(tiltDeg * RAD)];
  const corners = [
    [left, low, out],
    [right, low, out],
    [right, v, 0],
    [left, v, 0],
  ] as const;
  return { corners, openness, holeDepth: 0 };
}

/** A flat solid of any outline: its corners on one side, and how far away the other lies. */
export interface DevicePrism {
  /** Its outline and the holes in it. */
  rings: FramePoint[][];
  /** The same in the plane of the plate: x along u, y outwards. */
  flat: Point2[][];
  /** From the lower side to the upper, square to both. */
  rise: FramePoint;
}

/** The solids that a plate of its own outline is at an opening. */
export function platePrisms(make: DeviceMake, box: OpeningBox): DevicePrism[] {
  if (make.kind !== 'plate') return [];
  const tilt = make.tiltDeg * RAD;
  const middle = (box.u0 + box.u1) / 2;
  const at = ([x, y]: Point2): FramePoint => [
    middle + x,
    box.v1 + make.aboveM - y * Math.sin(tilt),
    make.offM + y * Math.cos(tilt),
  ];
  const rise: FramePoint = [0, make.thicknessM * Math.cos(tilt), make.thicknessM * Math.sin(tilt)];
  return make.outlines.map(({ outer, holes }) => {
    const flat = [outer, ...holes];
    return { flat, rings: flat.map((ring) => ring.map(at)), rise };
  });
}
