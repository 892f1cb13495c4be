import type { Device, Scheme } from '@dial-shade/core';

/** The sunny sides of the clinic: its treatment rooms face south-west. */
const SUNNY: Device['scope'] = { owners: null, sectors: ['south', 'west'], storeys: null };

const device = (id: string, name: string, make: Device['make']): Device => ({
  id,
  name,
  scope: SUNNY,
  openings: null,
  make,
});

function shelf(id: string, outM: number, inM: number): Device {
  return device(id, 'Light shelf', {
    kind: 'shelf',
    heightM: 1,
    outM,
    inM,
    thicknessM: 0.04,
    tiltDeg: 0,
    reflectance: 0.8,
    mirror: 0.3,
  });
}

/** What may keep the sun off the rooms of the bar; none stands when the sample is opened. */
export const BAR_SCHEMES: Scheme[] = [
  {
    id: 'overhangs',
    name: 'Overhangs',
    devices: [
      device('overhang', 'Overhang', {
        kind: 'overhang',
        depthM: 0.8,
        aboveM: 0.1,
        sideM: 0.2,
        thicknessM: 0.08,
        tiltDeg: 0,
      }),
    ],
  },
  {
    id: 'fins',
    name: 'Fins',
    devices: [
      device('fin', 'Fins', {
        kind: 'fins',
        depthM: 0.5,
        at: 'both',
        gapM: 0.02,
        aboveM: 0,
        belowM: 0,
        thicknessM: 0.05,
        turnDeg: 0,
      }),
    ],
  },
  {
    id: 'louvres',
    name: 'Louvres',
    devices: [
      device('louvre', 'Louvres', {
        kind: 'louvres',
        lie: 'level',
        slatM: 0.2,
        spacingM: 0.2,
        tiltDeg: 20,
        thicknessM: 0.01,
        offM: 0.1,
        aroundM: 0.05,
      }),
    ],
  },
  { id: 'shelf-outside', name: 'Shelf outside', devices: [shelf('shelf-out', 0.6, 0)] },
  { id: 'shelf-inside', name: 'Shelf inside', devices: [shelf('shelf-in', 0, 0.4)] },
  { id: 'shelves', name: 'Both shelves', devices: [shelf('shelf', 0.6, 0.4)] },
  {
    id: 'blinds',
    name: 'Blinds by the sun',
    devices: [
      device('blind', 'Blind', {
        kind: 'blind',
        side: 'outside',
        offM: 0.08,
        openness: 0.05,
        lowered: { overWm2: 150, fromMinutes: 0, untilMinutes: 1440, fromMonth: 4, untilMonth: 10 },
      }),
    ],
  },
];
