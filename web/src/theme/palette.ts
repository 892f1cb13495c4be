import { RAMPS } from '@dial-shade/core';
import { interpolateLab, piecewise, rgb } from 'd3';

/** Hue and hatch of options, by their index in the document; the last is Today. */
export const OPTION_HUES = [
  '#2f7a68',
  '#8a4a6b',
  '#96652a',
  '#456a94',
  '#6b7a33',
  '#a5523f',
  '#6a56a0',
  '#6d6a63',
] as const;

/** Tint of an option's hue for its surfaces in the scene: pale on paper, dusky at night. */
export function optionTint(hue: number, theme: 'light' | 'dark'): string {
  return theme === 'light'
    ? interpolateLab('#fdfaf2', OPTION_HUES[hue]!)(0.24)
    : interpolateLab('#9a9a9e', OPTION_HUES[hue]!)(0.4);
}

/** CSS background with an option's hatch over its hue. */
export function optionHatch(hue: number): string {
  const colour = OPTION_HUES[hue]!;
  if (hue === 7) return colour;
  const angle = (hue * 45 + 45) % 180;
  return `repeating-linear-gradient(${angle}deg, ${colour} 0 3px, color-mix(in srgb, ${colour} 82%, white) 3px 5px)`;
}

/** Colours of owners who take the light from a probe, strongest first; formatCount with colour-vision deficiency. */
export const OBSTRUCTION_COLOURS = [
  '#39406f',
  '#b5651d',
  '#2f7a68',
  '#8a4a6b',
  '#7d8ba6',
  '#6b7a33',
] as const;
/** Colour of all further owners. */
export const OTHER_OBSTRUCTION = '#8d877b';

/** Radiation in charts: of the sun and of the sky. */
export const HEAT = { beam: '#d07630', sky: '#7d939c' } as const;

/** Outlines of sets of hours by what they are for. */
export const HOUR_SET_COLOURS = { unwanted: '#b3261e', wanted: '#2f7a68', other: '#26241f' } as const;

/** Temperature: cold slate over paper to ember. */
export const temperatureRamp = piecewise(interpolateLab, [
  '#2c3f63',
  '#6f8fb0',
  '#dfe0d6',
  '#dca25c',
  '#8a2f22',
]);

export { RAMPS };

/** A ramp as red, green and blue from 0 to 1. */
export function rampRgb(ramp: (t: number) => string, t: number): [number, number, number] {
  const colour = rgb(ramp(Math.max(0, Math.min(1, t))));
  return [colour.r / 255, colour.g / 255, colour.b / 255];
}

const night = piecewise(interpolateLab, ['#1a1c3c', '#2b2f5c']);
const twilight = piecewise(interpolateLab, ['#2b2f5c', '#7a6f93']);
const day = piecewise(interpolateLab, ['#c9a26a', '#e9cd83', '#f7e7b0', '#fdf8e2']);

/** Tones by tenths of a degree, the horizon itself as night: a picture of the year asks for a hundred thousand. */
const tones = new Map<number, readonly [number, number, number]>();

/** Tone of the almanac for a sun altitude in degrees: night dark, day lighter with altitude. */
export function almanacTone(altitudeDeg: number): readonly [number, number, number] {
  const tenths = Math.ceil(altitudeDeg * 10);
  let tone = tones.get(tenths);
  if (!tone) tones.set(tenths, (tone = toneAt(tenths / 10)));
  return tone;
}

function toneAt(altitudeDeg: number): [number, number, number] {
  const tone =
    altitudeDeg > 0
      ? day(Math.min(1, altitudeDeg / 65))
      : altitudeDeg > -8
        ? twilight(1 + altitudeDeg / 8)
        : night(Math.max(0, 1 + (altitudeDeg + 8) / 30));
  const { r, g, b } = rgb(tone);
  return [r, g, b];
}

/** Surfaces that are drawn in a colour of their own whoever owns them. */
export const PART_COLOURS: Record<'light' | 'dark', Partial<Record<string, string>>> = {
  light: {
    glazing: '#bccfd6',
    door: '#b59b7c',
    bar: '#6f6a60',
    crown: '#cdd6b8',
    trunk: '#b3a288',
    fence: '#d9cfba',
    partition: '#f2ece0',
    furniture: '#d8b98c',
  },
  dark: {
    glazing: '#54707c',
    door: '#8a7358',
    bar: '#3b3a38',
    crown: '#66704f',
    trunk: '#6d604d',
    fence: '#7d7565',
    partition: '#85858c',
    furniture: '#8f7750',
  },
};

/** Kinds of face when a model is checked; they differ in lightness as well as in hue. */
export const KIND_COLOURS: Partial<Record<string, string>> = {
  roof: '#c98f6b',
  wall: '#f1e8d3',
  ground: '#dcdec6',
  party: '#7b5c86',
  glazing: '#4f86a0',
  door: '#8c6a3f',
  bar: '#57534b',
  reveal: '#d9cdb0',
  floor: '#9aa58c',
  partition: '#cfc6e0',
  furniture: '#d8b98c',
  crown: '#a9bd83',
  trunk: '#93805f',
  fence: '#b8a36b',
  mesh: '#b9b4a8',
};

/** The kinds in the order of their legend, with their names. */
export const KIND_NAMES: [string, string][] = [
  ['wall', 'Facade'],
  ['party', 'Party wall'],
  ['glazing', 'Glazing'],
  ['door', 'Opaque door'],
  ['roof', 'Roof'],
  ['floor', 'Floor, underside'],
  ['mesh', 'Imported mesh'],
  ['ground', 'Ground'],
];

/** Colours of the drawn scene in each theme. */
export interface ScenePalette {
  paper: string;
  ground: string;
  neighbour: string;
  today: string;
  mesh: string;
  ink: string;
  shade: [number, number, number];
  sun: string;
  accent: string;
  garden: string;
  /** Faces of a cut. */
  cut: string;
}

export const SCENE: Record<'light' | 'dark', ScenePalette> = {
  light: {
    paper: '#f5f0e6',
    ground: '#fbf7ec',
    neighbour: '#f6f1e6',
    today: '#ded6c5',
    mesh: '#ece6da',
    ink: '#3a362e',
    shade: [0.63, 0.655, 0.76],
    sun: '#e8a11c',
    accent: '#39406f',
    garden: '#4d7346',
    cut: '#b9b1a0',
  },
  dark: {
    paper: '#16171d',
    ground: '#5d5f69',
    neighbour: '#74767f',
    today: '#6b675f',
    mesh: '#6c6e78',
    ink: '#0e0f14',
    shade: [0.4, 0.42, 0.54],
    sun: '#f0b03c',
    accent: '#9aa2e0',
    garden: '#9dc48f',
    cut: '#2a2b33',
  },
};
