import { clockAt, formatClock, instantOf, type Project, TODAY, type WeatherField } from '@dial-shade/core';
import { create } from 'zustand';
import { currentProject, useProject } from './project-store';

export type Stage =
  | 'site'
  | 'climate'
  | 'form'
  | 'envelope'
  | 'openings'
  | 'sun'
  | 'studies'
  | 'shading'
  | 'compare';

/** What a drawn outline, line or point becomes. */
export type DrawPurpose =
  | 'target'
  | 'mass'
  | 'boundary'
  | 'area'
  | 'court'
  | 'neighbour'
  | 'partition'
  | 'wall'
  | 'fence'
  | 'mirror'
  | 'array'
  | 'section'
  | 'tree'
  | 'furniture'
  | 'buildable'
  | 'no-build';

/** What the pointer does on the board. */
export type Tool =
  | { kind: 'select' }
  | { kind: 'move' }
  /** Put the eye of the pane where one clicks, so high above what is clicked. */
  | { kind: 'stand'; heightM: number }
  /** Draw a strip in a section, for rays. */
  | { kind: 'strip' }
  /** Draw a line over a result, to read it along. */
  | { kind: 'profile' }
  /** Tell the scale of a picture on the ground by two points and the distance between them. */
  | { kind: 'scale-underlay'; underlay: string }
  /** Set a point of a picture on the ground where it belongs, and turn it by another. */
  | { kind: 'fit-underlay'; underlay: string }
  /** Push and pull faces: the wall through all storeys, or only from the storey that was touched upwards, or only there. */
  | { kind: 'push'; scope: 'wall' | 'above' | 'storey' }
  /** Drag corners of the chosen body. */
  | { kind: 'corners' }
  | {
      kind: 'draw';
      shape: 'rectangle' | 'polygon' | 'path' | 'point';
      purpose: DrawPurpose;
      /** Level on which is drawn; the ground where there is none. */
      levelM?: number;
      /** Storey that a partition or a piece of furniture belongs to. */
      storey?: number;
    };

/** What is chosen on the board: an owner, and which of its faces was touched. */
export interface Selection {
  id: string;
  optionId: string | null;
  layer: 'neighbours' | 'today' | 'option';
  /** Azimuth of the face's outward normal, clockwise from drawing north, when it is a wall. */
  wallBearingDeg: number | null;
  /** Key of the face that was touched, on a mass or building. */
  face?: string | null;
}

/** What the almanac is toned by. */
export type AlmanacTone = 'sun' | WeatherField;

export type Play = 'day' | 'season' | null;

interface View {
  optionId: string;
  date: string;
  minutes: number;
  tool: Tool;
  selection: Selection | null;
  /** What is chosen together with the selection. */
  also: Selection[];
  /** Things that are not drawn, by the key of their owner; they still cast their shade. */
  hidden: ReadonlySet<string>;
  /** Things that the pointer does not take hold of. */
  locked: ReadonlySet<string>;
  /** The opening that is being worked on. */
  opening: string | null;
  play: Play;
  /** Minutes of a day, or days of a season, that one step of playing takes. */
  playStep: { day: number; season: number };
  theme: 'light' | 'dark';
  activeStudy: string | null;
  /** The moment set that is chosen. */
  momentSet: string | null;
  activeProbe: string | null;
  /** Whether dragging on the almanac sets the moment or the window of the active study. */
  almanacMode: 'moment' | 'window';
  almanacTone: AlmanacTone;
  /** Sets of hours that the almanac outlines, by their ids. */
  hourSets: ReadonlySet<string>;
  /** By study: the key of the measure that is looked at, where that is not the first. */
  shownMeasure: Readonly<Record<string, string>>;
  /** The option that results are compared with; null: none. */
  before: string | null;
  /** Whether the board shows the change against it. */
  showsChange: boolean;
  /** The place (window, area) that is pointed at in a comparison. */
  place: string | null;
  /** A small study follows every change by itself. */
  live: boolean;
}

/** What belongs to a project, before anything of it was looked at. */
const PLAIN: Omit<View, 'optionId' | 'date' | 'minutes' | 'play' | 'playStep' | 'theme'> = {
  tool: { kind: 'select' },
  selection: null,
  also: [],
  hidden: new Set(),
  locked: new Set(),
  opening: null,
  activeStudy: null,
  momentSet: null,
  activeProbe: null,
  almanacMode: 'moment',
  almanacTone: 'sun',
  hourSets: new Set(),
  shownMeasure: {},
  before: null,
  showsChange: false,
  place: null,
  live: false,
};

export const useView = create<View>(() => ({
  ...PLAIN,
  optionId: TODAY,
  date: '2026-03-21',
  minutes: 720,
  play: null,
  playStep: { day: 10, season: 2 },
  theme: (localStorage.getItem('dial-shade:theme') as 'light' | 'dark' | null) ?? 'light',
}));

export const setView = useView.setState;

/** Looks at a project as at first: at its first proposal at noon of an equinox; nothing of another is carried over. */
export function beginView(project: Project): void {
  setView({
    ...PLAIN,
    optionId: optionsInOrder(project)[0]!.id,
    activeStudy: project.studies[0]?.id ?? null,
    date: `${project.site.year}-03-21`,
    minutes: 720,
  });
}

/** The moment as an instant, epoch ms. */
export function useMoment(): number {
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const zone = useProject((state) => state.project!.site.place.zone);
  return instantOf(date, minutes, zone);
}

/** Moves the crosshair; minutes outside of a day roll over to the next or the last one, within the year of the site. */
export function setMoment(date: string, minutes: number): void {
  const { site } = currentProject();
  const { zone } = site.place;
  if (minutes >= 0 && minutes < 1440) setView({ date, minutes });
  else {
    const rolled = clockAt(instantOf(date, minutes, zone), zone);
    setView({ date: `${site.year}${rolled.date.slice(4)}`, minutes: Math.round(rolled.minutes) });
  }
}

/** The moment as it stands in an address: 2026-03-21T12:00. */
export function momentText(date: string, minutes: number): string {
  return `${date}T${formatClock(minutes)}`;
}

/** Reads a moment from an address, or null. */
export function momentFrom(text: string | null): { date: string; minutes: number } | null {
  const match = /^(\d{4}-\d{2}-\d{2})T(\d{2}):(\d{2})$/.exec(text ?? '');
  if (!match || Number.isNaN(Date.parse(match[1]!))) return null;
  const minutes = Number(match[2]) * 60 + Number(match[3]);
  return minutes < 1440 ? { date: match[1]!, minutes } : null;
}

/** The options in the order of the header: proposals first, Today last. */
export function optionsInOrder(project: Project) {
  return [...project.options.filter((o) => o.id !== TODAY), ...project.options.filter((o) => o.id === TODAY)];
}
