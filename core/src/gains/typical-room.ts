import { faceAzimuthDeg } from '../form';
import { areaInSpace, areaWithHoles } from '../geometry';
import { sectorOf } from '../openings';
import { type Sector, SECTORS } from '../project';
import type { Room } from '../shade';

/** Which way a room faces by most of its glass in walls, and its glass over its floor; null without any. */
function facing(room: Room, trueNorthDeg: number): { sector: Sector; ratio: number } | null {
  const glass = new Map<Sector, number>();
  for (const { face, pane } of room.openings) {
    const azimuth = face.host.on === 'wall' ? faceAzimuthDeg(face.normal, trueNorthDeg) : null;
    if (azimuth === null) continue;
    const sector = sectorOf(azimuth);
    glass.set(sector, (glass.get(sector) ?? 0) + areaInSpace(pane));
  }
  let best: Sector | null = null;
  for (const sector of SECTORS)
    if (glass.has(sector) && (best === null || glass.get(sector)! > glass.get(best)!)) best = sector;
  if (best === null) return null;
  const whole = [...glass.values()].reduce((sum, area) => sum + area, 0);
  return { sector: best, ratio: whole / areaWithHoles(room.shape) };
}

/**
 * One room for each way that rooms face by most of their glass: that whose glass over floor is the middle one of them all;
 * of an even number the lesser of the two.
 */
export function typicalRooms(rooms: readonly Room[], trueNorthDeg: number): { sector: Sector; room: Room }[] {
  const all = rooms.flatMap((room) => {
    const found = facing(room, trueNorthDeg);
    return found ? [{ room, ...found }] : [];
  });
  return SECTORS.flatMap((sector) => {
    const same = all.filter((one) => one.sector === sector).sort((a, b) => a.ratio - b.ratio);
    const middle = same[Math.floor((same.length - 1) / 2)];
    return middle ? [{ sector, room: middle.room }] : [];
  });
}
