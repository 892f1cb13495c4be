export const RAD = Math.PI / 180;
export const DEG = 180 / Math.PI;

/** Angle brought into 0 ≤ a < 360 degrees. */
export function wrap360(deg: number): number {
  const a = deg % 360;
  return a < 0 ? a + 360 : a;
}

/** Angle brought into −180 < a ≤ 180 degrees. */
export function wrap180(deg: number): number {
  const a = wrap360(deg);
  return a > 180 ? a - 360 : a;
}
