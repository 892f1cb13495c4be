import type { WindowOfTime } from '@dial-shade/core';

/** Windows longer at either end, within the day; those of which less than half an hour is left are gone. */
export function longer(windows: readonly WindowOfTime[], byMinutes: number): WindowOfTime[] {
  return windows
    .map((one) => ({
      ...one,
      startMinutes: Math.max(0, one.startMinutes - byMinutes),
      endMinutes: Math.min(1440, one.endMinutes + byMinutes),
    }))
    .filter((one) => one.endMinutes - one.startMinutes >= 30);
}
