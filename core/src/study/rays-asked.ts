import { InputError } from '../errors';
import { minus } from '../geometry';
import type { OwnerRef } from '../project';
import type { Reflecting, Strip } from './ray-shapes';

/** A wall that the sun falls on outside and that throws it into the room. */
export interface ReflectingWall extends Reflecting {
  owner: OwnerRef;
  /** Key of the face. */
  face: string;
}

export interface RaysAsked {
  /** Key of the room. */
  room: string;
  /** The opening that the sun comes through; all of the room's where null. */
  opening: string | null;
  /** Distance between rays on the opening and on the strip, metres. */
  spacingM: number;
  /** Reflections that are followed, 0 to 3. */
  bounces: number;
  surfaces: Reflecting;
  strip: Strip | null;
  wall: ReflectingWall | null;
}

export const MAX_BOUNCES = 3;

/** A checked request. Throws InputError `rays` for what cannot be traced. */
export function checkRays({ spacingM, bounces, surfaces, strip, wall }: RaysAsked): void {
  const share = (value: number, what: string) => {
    if (!(value >= 0 && value <= 1)) throw new InputError('rays', `${what} goes from 0 to 1.`);
  };
  if (!(spacingM >= 0.02 && spacingM <= 5))
    throw new InputError('rays', 'The spacing of rays goes from 0.02 to 5 m.');
  if (!Number.isInteger(bounces) || bounces < 0 || bounces > MAX_BOUNCES)
    throw new InputError('rays', `0 to ${MAX_BOUNCES} reflections are followed.`);
  for (const one of [surfaces, strip, wall]) {
    if (!one) continue;
    share(one.reflectance, 'A reflectance');
    share(one.mirror, 'The mirror-like share');
  }
  if (!strip) return;
  if (!(strip.widthM > 0 && strip.widthM <= 100))
    throw new InputError('rays', 'The strip is up to 100 m wide.');
  if (Math.hypot(...minus(strip.to, strip.from)) < 0.01)
    throw new InputError('rays', 'The strip needs two ends that are at least 1 cm apart.');
}
