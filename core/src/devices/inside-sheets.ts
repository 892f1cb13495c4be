import type { DeviceMake } from '../project';
import { type FaceAxes, type MovedBy, positionAt } from './device-moves';

/**
 * What a sheet inside leaves of the solar gain of the glass alone where nothing else is said: g_t / g = 1 − g ρ − α G/30,
 * G = 1/(1/U + 1/30) (EN 13363-1, simple) is 0.69 for a light sheet (ρ 0.5, α 0.4) behind insulating glass (g 0.6, U 1.1).
 */
export const INSIDE_G_FACTOR = 0.7;

/** Whether a device is a sheet that hangs inside. */
export function isInsideSheet(make: DeviceMake): make is Extract<DeviceMake, { kind: 'blind' | 'screen' }> {
  return (make.kind === 'blind' || make.kind === 'screen') && make.side === 'inside';
}

/**
 * What a sheet inside leaves of what comes in through its opening: its factor where it is a screen or is down, else all.
 * @param by the moment; null: at rest
 */
export function insideFactor(make: DeviceMake, face: FaceAxes, by: MovedBy | null): number {
  if (!isInsideSheet(make)) return 1;
  const isThere = make.kind === 'screen' || (by !== null && positionAt(make, face, by) > 0);
  return isThere ? (make.gFactor ?? INSIDE_G_FACTOR) : 1;
}
