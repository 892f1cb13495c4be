import type { Passing } from './piece';

/** How much less a pane passes at this cosine of the angle of incidence than at right angles (Rivero 1958). */
export function glassFactor(cosine: number): number {
  const sine = Math.sqrt(Math.max(0, 1 - cosine * cosine));
  return Math.min(1, 1.018 * cosine * (1 + sine * sine * sine));
}

/**
 * How much less a screen passes at this cosine of the angle of incidence than at right angles: 1 − (depth/width) tan θ, as
 * the walls of square holes shade them under a sun square to one of their sides.
 */
export function screenFactor(cosine: number, holeDepth: number): number {
  if (holeDepth === 0) return 1;
  const tangent = Math.sqrt(Math.max(0, 1 - cosine * cosine)) / Math.max(1e-9, cosine);
  return Math.max(0, 1 - holeDepth * tangent);
}

/** A day of the year, MM-DD, as month × 100 + day. */
export function dayNumber(monthDay: string): number {
  return Number(monthDay.slice(-5, -3)) * 100 + Number(monthDay.slice(-2));
}

/** Whether a crown is in leaf on a day; seasons may run over the new year. */
export function isInLeaf(day: number, from: number, until: number): boolean {
  return from <= until ? day >= from && day <= until : day >= from || day <= until;
}

/**
 * Share of the sun that passes something, once.
 * @param cosine of the angle of incidence, for panes and screens
 * @param day month × 100 + day, for crowns
 */
export function passedShare(passing: Passing, cosine: number, day: number): number {
  if (passing.through === 'glass') return passing.share * glassFactor(cosine);
  if (passing.through === 'fence') return passing.share;
  if (passing.through === 'screen') return passing.share * screenFactor(cosine, passing.holeDepth);
  return isInLeaf(day, dayNumber(passing.from), dayNumber(passing.until)) ? passing.leaf : passing.bare;
}
