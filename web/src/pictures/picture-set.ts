import { formatClock, type Project, type SetMoment, type Viewpoint } from '@dial-shade/core';
import { longDate } from '../almanac/wording';
import type { SheetAsked, SheetCell } from './contact-sheet';
import { optionOf, type PictureStyle, type PictureView } from './picture';
import { viewFrom } from './views-now';

/** A picture of a set: what it shows, and its place in each dimension of the set. */
export interface SetPicture {
  view: PictureView;
  option: number;
  viewpoint: number;
  moment: number;
}

/** Pictures that a set may have; above `ASK_FROM` it is asked about first. */
export const MAX_IN_SET = 2000;
export const ASK_FROM = 60;

type View = Pick<Viewpoint, 'name' | 'camera' | 'drawing' | 'hidden'>;

/** Moments × options × viewpoints, viewpoint by viewpoint of each option. */
export function pictureSet(
  options: readonly string[],
  viewpoints: readonly View[],
  moments: readonly Pick<SetMoment, 'date' | 'minutes'>[],
): SetPicture[] {
  return options.flatMap((optionId, option) =>
    viewpoints.flatMap((from, viewpoint) =>
      moments.map((at, moment) => ({ view: viewFrom(from, optionId, at), option, viewpoint, moment })),
    ),
  );
}

/** The dimension of a set that runs along its contact sheet; the other two run down. */
export type SheetAlong = 'option' | 'viewpoint' | 'moment';
const DIMENSIONS = ['option', 'viewpoint', 'moment'] as const;

/** A contact sheet of a set. Rows and columns are named by what tells them apart. */
export function sheetOf(
  project: Project,
  pictures: readonly (SetPicture & { picture: Blob })[],
  along: SheetAlong,
  { width, height }: PictureStyle,
): SheetAsked {
  const down = DIMENSIONS.filter((dimension) => dimension !== along);
  const differs = (dimension: SheetAlong) => new Set(pictures.map((one) => one[dimension])).size > 1;
  const named = down.filter(differs);
  const nameIn = ({ view }: SetPicture, dimension: SheetAlong): string => {
    if (dimension === 'viewpoint') return view.viewpoint;
    if (dimension === 'moment') return `${longDate(view.date)}, ${formatClock(view.minutes)}`;
    const { letter, name } = optionOf(project, view.optionId);
    return `${letter} ${name}`;
  };
  const rows: string[] = [];
  const columns: string[] = [];
  const rowOf = new Map<string, number>();
  const columnOf = new Map<number, number>();
  const cells: SheetCell[] = pictures.map((one) => {
    const key = down.map((dimension) => one[dimension]).join('/');
    if (!rowOf.has(key)) {
      rowOf.set(key, rows.length);
      rows.push(
        (named.length ? named : down.slice(0, 1)).map((dimension) => nameIn(one, dimension)).join(', '),
      );
    }
    if (!columnOf.has(one[along])) {
      columnOf.set(one[along], columns.length);
      columns.push(nameIn(one, along));
    }
    return { picture: one.picture, row: rowOf.get(key)!, column: columnOf.get(one[along])! };
  });
  return { title: project.name, rows, columns, cells, picture: { width, height } };
}
