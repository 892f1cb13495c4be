import { RAD } from '../civil';
import type { DeviceMake } from '../project';
import type { OpeningBox } from './device-boxes';

/** Angles from which on an endless device of these sizes keeps all direct sun off the glass, degrees; null where none does. */
export interface CutOff {
  /** Vertical shadow angle: of the sun square to the facade, or seen along it. */
  vsaDeg: number | null;
  /** Horizontal shadow angle towards the right and the left, seen from outside. */
  hsaRightDeg: number | null;
  hsaLeftDeg: number | null;
}

const NONE: CutOff = { vsaDeg: null, hsaRightDeg: null, hsaLeftDeg: null };
const deg = (rise: number, run: number) => Math.atan2(rise, run) / RAD;

/**
 * Closed forms for devices that run on without end, the glass in the plane of the pane (design: shading arithmetic): an
 * overhang of depth D, y above the head, for a height H: tan VSA = (H + y)/D; a fin of depth F, a gap g from the jamb, for a
 * width W: tan HSA = (W + g)/F; slats of depth d, thickness t, spacing s, the outer edge d sin β lower:
 * tan VSA = (s − t − d sin β)/(d cos β).
 */
export function cutOffOf(make: DeviceMake, box: OpeningBox): CutOff {
  const [width, height] = [box.u1 - box.u0, box.v1 - box.v0];
  const back = box.revealM;
  if (make.kind === 'overhang' || make.kind === 'canopy' || make.kind === 'awning') {
    if (make.kind === 'overhang' && make.slats) return NONE;
    const tilt = make.tiltDeg * RAD;
    const [out, drop] = [make.depthM * Math.cos(tilt) + back, make.depthM * Math.sin(tilt)];
    return { ...NONE, vsaDeg: Math.max(0, deg(height + make.aboveM - drop, out)) };
  }
  if (make.kind === 'reveal') {
    const out = make.depthM + back;
    return { vsaDeg: deg(height, out), hsaRightDeg: deg(width, out), hsaLeftDeg: deg(width, out) };
  }
  if (make.kind === 'fins') {
    if (make.at === 'between') return betweenFins(make, box);
    const turn = make.turnDeg * RAD;
    const [out, aside] = [make.depthM * Math.cos(turn) + back, make.depthM * Math.sin(turn)];
    const hsa = deg(width + make.gapM + aside, out);
    return {
      ...NONE,
      hsaRightDeg: make.at === 'left' ? null : hsa,
      hsaLeftDeg: make.at === 'right' ? null : hsa,
    };
  }
  if (make.kind === 'louvres') {
    const tilt = make.tiltDeg * RAD;
    const clear = make.spacingM - make.thicknessM;
    const gap = clear - make.slatM * Math.sin(tilt);
    const angle = Math.max(0, deg(gap, make.slatM * Math.cos(tilt)));
    if (make.lie === 'level') return { ...NONE, vsaDeg: angle };
    // Turned to the right they are open to the right: there the slats lie along the rays.
    const against = Math.max(0, deg(clear + make.slatM * Math.sin(tilt), make.slatM * Math.cos(tilt)));
    return { ...NONE, hsaRightDeg: against, hsaLeftDeg: angle };
  }
  if (make.kind === 'shelf') {
    if (make.outM === 0) return NONE;
    const tilt = (make.tiltDeg ?? 0) * RAD;
    const length = make.outM + back;
    const edge = make.heightM - make.thicknessM - length * Math.sin(tilt);
    return { ...NONE, vsaDeg: Math.max(0, deg(edge, length * Math.cos(tilt))) };
  }
  if (make.kind !== 'eggcrate') return NONE;
  const field = (span: number, spacingM: number) =>
    (span - make.thicknessM) / Math.max(1, Math.round(span / spacingM)) - make.thicknessM;
  const hsa = deg(field(width, make.columnM), make.depthM);
  return { vsaDeg: deg(field(height, make.rowM), make.depthM), hsaRightDeg: hsa, hsaLeftDeg: hsa };
}

/** Fins midway to the next opening on both sides: as fins with a gap of half the way. */
function betweenFins(
  { depthM, thicknessM, turnDeg }: Extract<DeviceMake, { kind: 'fins' }>,
  { u0, u1, revealM, nextM }: OpeningBox,
): CutOff {
  if (nextM === null || nextM === undefined || turnDeg !== 0) return NONE;
  const hsa = deg(u1 - u0 + (nextM - thicknessM) / 2, depthM + revealM);
  return { vsaDeg: null, hsaRightDeg: hsa, hsaLeftDeg: hsa };
}

/**
 * The depth that an endless overhang, or an endless fin on the side of the sun, needs to shade so much of the opening at a
 * sun before it: D = (s H + y)/tan VSA, F = (s W + g)/tan |HSA|; null for other devices, and where no depth does it.
 */
export function endlessDepth(
  make: DeviceMake,
  box: OpeningBox,
  { hsaDeg, vsaDeg }: { hsaDeg: number; vsaDeg: number | null },
  goal: number,
): number | null {
  if (vsaDeg === null) return null;
  if (make.kind === 'canopy' || (make.kind === 'overhang' && !make.slats)) {
    const needed = (goal * (box.v1 - box.v0) + make.aboveM) / Math.tan(vsaDeg * RAD) - box.revealM;
    return Math.max(0, needed);
  }
  if (make.kind !== 'fins' || make.at === 'between') return null;
  // A sun to the right of the normal (seen from outside: to the left) is kept off by the fin on its side.
  const side = hsaDeg > 0 ? 'left' : 'right';
  if (make.at !== 'both' && make.at !== side) return null;
  const tan = Math.tan(Math.abs(hsaDeg) * RAD);
  if (tan < 1e-9) return null;
  return Math.max(0, (goal * (box.u1 - box.u0) + make.gapM) / tan - box.revealM);
}
