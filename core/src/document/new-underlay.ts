import type { Point2 } from '../geometry';
import type { Project, Underlay } from '../project';
import { newId } from './ids';

/** How wide a picture lies on the ground before its scale is told, metres. */
const FIRST_WIDTH_M = 100;

/**
 * A picture that is laid on the ground with its middle at a place, named apart from those that lie there.
 * @param picture what it is called, the SHA-256 of its bytes, its size in pixels, and how much of the ground a pixel covers
 * where that is known
 */
export function newUnderlay(
  { underlays }: Pick<Project, 'underlays'>,
  picture: Pick<Underlay, 'name' | 'picture' | 'widthPx' | 'heightPx'> & { metresPerPixel?: number },
  at: Point2,
): Underlay {
  const { name, metresPerPixel, ...rest } = picture;
  const names = new Set(underlays.map((one) => one.name));
  let own = name;
  for (let n = 2; names.has(own); n++) own = `${name.slice(0, 74)} (${n})`;
  return {
    ...rest,
    id: newId('underlay'),
    name: own,
    at: [at[0], at[1]],
    metresPerPixel: metresPerPixel ?? FIRST_WIDTH_M / picture.widthPx,
    scaled: metresPerPixel !== undefined,
    turnDeg: 0,
    opacity: 0.7,
    locked: false,
    shown: true,
  };
}
