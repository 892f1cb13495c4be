import type { Camera } from '@dial-shade/core';
import { useMemo } from 'react';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { roomsShown, useRooms } from '../sun/rooms-store';
import type { Label } from './label-layer';
import type { PaneView } from './pane-view';
import { roomObjects } from './room-objects';
import { useLayer } from './use-layer';

const NOTHING = { lines: [], labels: [] as Label[] };

/** Sunlit outlines of the rooms that are measured, and the limiting ray of the chosen one with the fan of the set. */
export function useRoomSun(view: PaneView, camera: Camera | null, isShown: boolean): Label[] {
  const { site, units } = useDocument();
  const theme = useView((v) => v.theme);
  const sun = useRooms();
  const { trueNorthDeg } = site.north;
  const drawn = useMemo(() => {
    const shown = isShown ? roomsShown(sun, trueNorthDeg) : null;
    return shown ? roomObjects(shown, camera, units, theme) : NOTHING;
  }, [isShown, sun, trueNorthDeg, camera, units, theme]);
  useLayer(view, () => drawn.lines, [drawn]);
  return drawn.labels;
}
