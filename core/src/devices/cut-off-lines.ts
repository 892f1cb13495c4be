import { RAD } from '../civil';
import type { DeviceMake } from '../project';
import { cutOffOf } from './cut-off';
import type { FramePoint, OpeningBox } from './device-boxes';

/** The ray of a sun that just reaches no glass any more, as a dimension: in an upright slice, or in plan. */
export interface CutOffLine {
  in: 'slice' | 'plan';
  /** From the edge of the device to what it just shades, in the frame of the opening. */
  from: FramePoint;
  to: FramePoint;
  deg: number;
}

/** Slats that are followed at the most: the dimension is of one gap. */
const MIDDLE = 2;

/**
 * The cut-off angles of a device at an opening (see `cutOffOf`) as lines to be drawn: in a slice through the middle of the
 * opening, and in plan half way up it.
 */
export function cutOffLines(make: DeviceMake, box: OpeningBox): CutOffLine[] {
  const { vsaDeg, hsaRightDeg, hsaLeftDeg } = cutOffOf(make, box);
  const [middle, level, pane] = [(box.u0 + box.u1) / 2, (box.v0 + box.v1) / 2, -box.revealM];
  const lines: CutOffLine[] = [];
  const slice = (from: FramePoint, to: FramePoint) =>
    vsaDeg !== null && lines.push({ in: 'slice', from, to, deg: vsaDeg });
  const plan = (deg: number | null, from: FramePoint, to: FramePoint) =>
    deg !== null && lines.push({ in: 'plan', from, to, deg });
  const sill: FramePoint = [middle, box.v0, pane];
  /** The outer edge of a fin on a side, and the jamb across. */
  const fins = (side: 1 | -1, gapM: number, depthM: number, turnDeg: number) => {
    const jamb = side > 0 ? box.u1 : box.u0;
    const edge = jamb + side * (gapM + depthM * Math.sin(turnDeg * RAD));
    plan(
      side > 0 ? hsaRightDeg : hsaLeftDeg,
      [edge, level, depthM * Math.cos(turnDeg * RAD)],
      [side > 0 ? box.u0 : box.u1, level, pane],
    );
  };
  switch (make.kind) {
    case 'overhang':
    case 'canopy':
    case 'awning': {
      const tilt = make.tiltDeg * RAD;
      slice(
        [middle, box.v1 + make.aboveM - make.depthM * Math.sin(tilt), make.depthM * Math.cos(tilt)],
        sill,
      );
      break;
    }
    case 'shelf': {
      const [tilt, reach] = [(make.tiltDeg ?? 0) * RAD, make.outM + box.revealM];
      const v = box.v0 + make.heightM - make.thicknessM - reach * Math.sin(tilt);
      slice([middle, v, reach * Math.cos(tilt) - box.revealM], sill);
      break;
    }
    case 'reveal':
      slice([middle, box.v1, make.depthM], sill);
      fins(1, 0, make.depthM, 0);
      break;
    case 'fins':
      if (make.at === 'between') {
        const halfWay = ((box.nextM ?? 0) - make.thicknessM) / 2;
        fins(1, halfWay, make.depthM, 0);
        break;
      }
      fins(1, make.gapM, make.depthM, make.turnDeg);
      fins(-1, make.gapM, make.depthM, make.turnDeg);
      break;
    case 'louvres': {
      const { lie, slatM, spacingM, thicknessM, tiltDeg, offM, aroundM } = make;
      const [sin, cos] = [Math.sin(tiltDeg * RAD), Math.cos(tiltDeg * RAD)];
      if (lie === 'level') {
        const v = box.v1 + aroundM - MIDDLE * spacingM;
        // From the lower side of one to the upper of the next.
        slice([middle, v - thicknessM - slatM * sin, offM + slatM * cos], [middle, v - spacingM, offM]);
      } else {
        const u = box.u0 - aroundM + MIDDLE * spacingM;
        const edge: FramePoint = [u + slatM * sin, level, offM + slatM * cos];
        plan(hsaRightDeg, edge, [u - spacingM + thicknessM, level, offM]);
        plan(hsaLeftDeg, [edge[0] + thicknessM, level, edge[2]], [u + spacingM, level, offM]);
      }
      break;
    }
    case 'eggcrate': {
      // From plate to plate, as they divide the opening evenly.
      const way = (span: number, spacingM: number) =>
        (span - make.thicknessM) / Math.max(1, Math.round(span / spacingM));
      const row = way(box.v1 - box.v0, make.rowM);
      const column = way(box.u1 - box.u0, make.columnM);
      slice([middle, box.v1 - make.thicknessM, make.depthM], [middle, box.v1 - row, 0]);
      plan(hsaRightDeg, [box.u1 - make.thicknessM, level, make.depthM], [box.u1 - column, level, 0]);
      break;
    }
    default:
  }
  return lines;
}
