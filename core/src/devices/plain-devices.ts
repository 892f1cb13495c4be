import type { DeviceMake, LoweredWhen } from '../project';

/** A number of a device that may be free, by its key, and between what. */
export interface FreeNumber {
  number: string;
  name: string;
  /** At the head of a column. */
  short: string;
  from: number;
  to: number;
}

/** Lowered while more than 200 W/m² of beam fall on the glass, all day and all year. */
const IN_STRONG_SUN: LoweredWhen = {
  overWm2: 200,
  fromMinutes: 0,
  untilMinutes: 1440,
  fromMonth: 1,
  untilMonth: 12,
};

/** What each kind of device is called, how it is first hung, and which of its numbers may be free, the likeliest first. */
export const DEVICE_KINDS: Record<
  DeviceMake['kind'],
  { name: string; plain: DeviceMake; free: readonly FreeNumber[] }
> = {
  overhang: {
    name: 'Overhang',
    plain: { kind: 'overhang', depthM: 0.8, aboveM: 0.1, sideM: 0.2, thicknessM: 0.08, tiltDeg: 0 },
    free: [
      { number: 'depthM', name: 'the depth', short: 'depth', from: 0.05, to: 3 },
      { number: 'sideM', name: 'the extension beyond the jambs', short: 'beyond jambs', from: 0, to: 3 },
      { number: 'tiltDeg', name: 'the tilt', short: 'tilt', from: 0, to: 60 },
      { number: 'aboveM', name: 'the height over the head', short: 'over head', from: 0, to: 1 },
    ],
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
    free: [
      { number: 'depthM', name: 'the depth', short: 'depth', from: 0.05, to: 2 },
      { number: 'turnDeg', name: 'the turn', short: 'turn', from: -60, to: 60 },
      { number: 'gapM', name: 'the gap from the jamb', short: 'gap', from: 0, to: 0.5 },
    ],
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
    free: [
      { number: 'slatM', name: 'the depth of a slat', short: 'slat', from: 0.03, to: 0.6 },
      { number: 'spacingM', name: 'the spacing', short: 'spacing', from: 0.08, to: 0.6 },
      { number: 'tiltDeg', name: 'the tilt', short: 'tilt', from: 0, to: 80 },
      { number: 'offM', name: 'the distance from the face', short: 'off face', from: 0, to: 1 },
    ],
  },
  shelf: {
    name: 'Light shelf',
    plain: {
      kind: 'shelf',
      heightM: 1,
      outM: 0.6,
      inM: 0.4,
      thicknessM: 0.04,
      tiltDeg: 0,
      reflectance: 0.8,
      mirror: 0.3,
    },
    free: [
      { number: 'outM', name: 'the depth outside', short: 'outside', from: 0.05, to: 2 },
      { number: 'heightM', name: 'the height over the sill', short: 'over sill', from: 0.3, to: 2 },
      { number: 'tiltDeg', name: 'the tilt', short: 'tilt', from: 0, to: 40 },
    ],
  },
  eggcrate: {
    name: 'Eggcrate',
    plain: { kind: 'eggcrate', depthM: 0.3, columnM: 0.6, rowM: 0.5, thicknessM: 0.03 },
    free: [
      { number: 'depthM', name: 'the depth', short: 'depth', from: 0.05, to: 1.5 },
      { number: 'columnM', name: 'the spacing of upright plates', short: 'upright every', from: 0.2, to: 2 },
      { number: 'rowM', name: 'the spacing of level plates', short: 'level every', from: 0.2, to: 2 },
    ],
  },
  reveal: {
    name: 'Reveal',
    plain: { kind: 'reveal', depthM: 0.3, thicknessM: 0.05 },
    free: [{ number: 'depthM', name: 'the depth', short: 'depth', from: 0.05, to: 1.5 }],
  },
  screen: {
    name: 'Screen',
    plain: { kind: 'screen', openness: 0.4, holeDepth: 0.5, offM: 0.15, aroundM: 0.1 },
    free: [
      { number: 'openness', name: 'the openness', short: 'open', from: 0, to: 0.9 },
      { number: 'holeDepth', name: 'the depth of its holes', short: 'holes', from: 0, to: 2 },
    ],
  },
  blind: {
    name: 'Blind',
    plain: { kind: 'blind', side: 'outside', offM: 0.08, openness: 0, lowered: IN_STRONG_SUN },
    free: [{ number: 'openness', name: 'the openness', short: 'open', from: 0, to: 0.9 }],
  },
  awning: {
    name: 'Awning',
    plain: {
      kind: 'awning',
      depthM: 1.2,
      aboveM: 0.1,
      sideM: 0.2,
      tiltDeg: 20,
      openness: 0,
      lowered: IN_STRONG_SUN,
    },
    free: [
      { number: 'depthM', name: 'the depth', short: 'depth', from: 0.1, to: 4 },
      { number: 'tiltDeg', name: 'the tilt', short: 'tilt', from: 0, to: 75 },
      { number: 'sideM', name: 'the extension beyond the jambs', short: 'beyond jambs', from: 0, to: 2 },
    ],
  },
  canopy: {
    name: 'Canopy on posts',
    plain: {
      kind: 'canopy',
      depthM: 2,
      aboveM: 0.4,
      sideM: 0.5,
      thicknessM: 0.12,
      tiltDeg: 4,
      postM: 0.1,
      downM: 0.9,
    },
    free: [
      { number: 'depthM', name: 'the depth', short: 'depth', from: 0.2, to: 5 },
      { number: 'sideM', name: 'the extension beyond the jambs', short: 'beyond jambs', from: 0, to: 4 },
      { number: 'aboveM', name: 'the height over the head', short: 'over head', from: 0, to: 2 },
    ],
  },
  balcony: {
    name: 'Balcony',
    plain: {
      kind: 'balcony',
      depthM: 1.4,
      belowM: 0.9,
      sideM: 0.5,
      thicknessM: 0.2,
      railM: 1.1,
      railOpenness: 0.6,
    },
    free: [{ number: 'depthM', name: 'the depth', short: 'depth', from: 0.3, to: 3 }],
  },
  plate: {
    name: 'Plate of its own outline',
    plain: {
      kind: 'plate',
      aboveM: 0.2,
      offM: 0,
      tiltDeg: 0,
      thicknessM: 0.04,
      outlines: [
        {
          outer: [
            [-1.2, 0],
            [1.2, 0],
            [1.2, 0.8],
            [-1.2, 0.8],
          ],
          holes: [],
        },
      ],
    },
    free: [
      { number: 'tiltDeg', name: 'the tilt', short: 'tilt', from: 0, to: 60 },
      { number: 'aboveM', name: 'the height over the head', short: 'over head', from: 0, to: 1 },
    ],
  },
};
