import type { DeviceMake } from '@dial-shade/core';

/** What each kind of device is called, and how it is first hung. */
export const DEVICE_KINDS: Record<DeviceMake['kind'], { name: string; plain: DeviceMake }> = {
  overhang: {
    name: 'Overhang',
    plain: { kind: 'overhang', depthM: 0.8, aboveM: 0.1, sideM: 0.2, thicknessM: 0.08, tiltDeg: 0 },
  },
  fins: {
    name: 'Fins',
    plain: {
      kind: 'fins',
      depthM: 0.5,
      at: 'both',
      gapM: 0,
      aboveM: 0,
      belowM: 0,
      thicknessM: 0.05,
      turnDeg: 0,
    },
  },
  louvres: {
    name: 'Louvres',
    plain: {
      kind: 'louvres',
      lie: 'level',
      slatM: 0.2,
      spacingM: 0.2,
      tiltDeg: 20,
      thicknessM: 0.01,
      offM: 0.1,
      aroundM: 0.05,
    },
  },
  shelf: {
    name: 'Light shelf',
    plain: { kind: 'shelf', heightM: 1, outM: 0.6, inM: 0.4, thicknessM: 0.04 },
  },
  eggcrate: {
    name: 'Eggcrate',
    plain: { kind: 'eggcrate', depthM: 0.3, columnM: 0.6, rowM: 0.5, thicknessM: 0.03 },
  },
};
