import {
  clockAt,
  formatClock,
  momentsOf,
  type Option,
  type Project,
  SEASON_MARKS,
  seasons,
  type Study,
  STUDY_KINDS,
  TODAY,
} from '@dial-shade/core';
import { Image, Images, Square } from 'lucide-react';
import { useRef, useState } from 'react';
import { shortDate } from '../almanac/wording';
import { ChoiceField } from '../app/fields';
import { OptionLetter } from '../app/option-letter';
import { saveFile } from '../app/save-file';
import { type SheetAsked, sheetSvg } from '../pictures/contact-sheet';
import { pictureMaker } from '../pictures/picture-maker';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, useDocument } from '../state/project-store';
import { setMoment, setView, useView } from '../state/view-store';
import { useCompare } from './compare-store';
import { chosenMeasures, chosenOptions } from './compared';
import { readFigure } from './compare-table';
import { drawOptions, type PictureWish, useOptionPictures } from './option-pictures';
import { type ComparedCell, comparedStudies, isAgainstToday } from './use-compared';

/** Moments or studies of a wall at most; its pictures on screen and as they are saved, pixels. */
const MAX_COLUMNS = 8;
const SMALL = { width: 300, height: 190 };
const LARGE = { width: 900, height: 570 };
const STUDIES = 'studies';

/** A column of a wall: what each option's picture in it shows, and what a click on one brings. */
interface Column {
  key: string;
  name: string;
  wish: (option: Option) => PictureWish;
  show: (option: Option) => void;
  caption?: (option: Option) => string;
}

type Cells = ReadonlyMap<string, Record<string, ComparedCell>>;

/** Options × moments, or options × what studies found of them, as small pictures from where the board looks. */
export function OptionWall({ cells }: { cells: Cells }) {
  const project = useDocument();
  const { momentSets } = project;
  const [along, setAlong] = useState('noon');
  const { date, minutes } = useView();
  const options = chosenOptions(project);
  const studies = comparedStudies(project).slice(0, MAX_COLUMNS);
  const columns =
    along === STUDIES
      ? studies.map((study) => studyColumn(project, study, options, cells, { date, minutes }))
      : momentsAlong(project, along).map(momentColumn);
  const wishes = options.flatMap((option) => columns.map(({ wish }) => wish(option)));
  const urls = useOptionPictures(wishes, SMALL.width, SMALL.height);
  const grid = { gridTemplateColumns: `7rem repeat(${columns.length}, minmax(150px, 1fr))` };
  return (
    <aside className="compare-panel" aria-label="Wall of pictures" data-testid="wall">
      <div className="trade-fields">
        <ChoiceField
          label="Across"
          wide
          value={along}
          choices={[
            { value: 'noon', name: 'equinoxes and June solstice, at 12:00' },
            ...momentSets.map(({ id, name }) => ({ value: id, name })),
            ...(studies.length > 0 ? [{ value: STUDIES, name: 'what the studies compared found' }] : []),
          ]}
          commit={setAlong}
        />
        <SaveWall title={project.name} options={options} columns={columns} wishes={wishes} />
      </div>
      <div className="wall" style={grid}>
        <span />
        {columns.map(({ key, name }) => (
          <strong key={key}>{name}</strong>
        ))}
        {options.map((option, row) => [
          <span key={option.id} className="of">
            <OptionLetter option={option} /> {option.name}
          </span>,
          ...columns.map(({ key, name, show, caption }, column) => {
            const url = urls[row * columns.length + column];
            return (
              <button
                key={`${option.id}${key}`}
                className="btn-bare picture"
                aria-label={`${option.name}, ${name}: show it on the board`}
                onClick={() => show(option)}
              >
                {url ? <img src={url} alt="" {...SMALL} /> : <span className="waiting">…</span>}
                {caption && <span className="caption">{caption(option)}</span>}
              </button>
            );
          }),
        ])}
      </div>
    </aside>
  );
}

function momentsAlong({ momentSets, site }: Project, along: string): { date: string; minutes: number }[] {
  const chosen = momentSets.find(({ id }) => id === along);
  if (chosen) return momentsOf(chosen, site).slice(0, MAX_COLUMNS);
  return SEASON_MARKS.slice(0, 3).map((mark) => ({
    date: clockAt(seasons(site.year)[mark], site.place.zone).date,
    minutes: 720,
  }));
}

function momentColumn({ date, minutes }: { date: string; minutes: number }): Column {
  return {
    key: `${date}${minutes}`,
    name: `${shortDate(date)} ${formatClock(minutes)}`,
    wish: ({ id }) => ({ optionId: id, date, minutes }),
    show: ({ id }) => {
      setView({ optionId: id });
      setMoment(date, minutes);
      useCompare.setState({ show: 'board' });
    },
  };
}

function studyColumn(
  project: Project,
  study: Study,
  options: readonly Option[],
  cells: Cells,
  moment: { date: string; minutes: number },
): Column {
  const measure = chosenMeasures(project).find(({ source }) => source === study.id)!;
  const beside = options.map(({ id }) => id);
  return {
    key: study.id,
    name: study.name,
    wish: ({ id }) => ({ optionId: id, ...moment, study: { id: study.id, beside } }),
    show: ({ id }) => {
      setView({ optionId: id, activeStudy: study.id });
      useCompare.setState({ show: 'board', onBoard: true });
    },
    caption: ({ id }) => {
      const cell = cells.get(id)?.[measure.key];
      if (!cell || cell.value === null)
        return isAgainstToday(measure.key) && id === TODAY ? '–' : 'not worked out';
      const stale = cell.changes.length > 0 ? ', out of date' : '';
      const held = cell.passes === undefined ? '' : cell.passes ? ', passes' : ', fails';
      const name = measure.name || STUDY_KINDS[study.kind].name;
      const figure = `${readFigure(measure, cell.value)} ${measure.unit}`.trim();
      return `${name}: ${figure}${held}${stale}`;
    },
  };
}

/** Saves the wall, drawn larger, as one picture or as an SVG. */
function SaveWall({
  title,
  options,
  columns,
  wishes,
}: {
  title: string;
  options: readonly Option[];
  columns: readonly Column[];
  wishes: readonly PictureWish[];
}) {
  const meshes = useMeshes((state) => state.meshes);
  const [done, setDone] = useState<number | null>(null);
  const isStopped = useRef(false);
  const save = async (kind: 'png' | 'svg') => {
    isStopped.current = false;
    setDone(0);
    try {
      const pictures: Blob[] = [];
      await drawOptions(wishes, LARGE, currentProject(), meshes, (at, picture) => {
        pictures[at] = picture;
        setDone(at + 1);
        return !isStopped.current;
      });
      if (isStopped.current) return;
      const asked: SheetAsked = {
        title: `${title}: options`,
        rows: options.map(({ letter, name }) => `${letter} ${name}`),
        columns: columns.map(({ name }) => name),
        picture: LARGE,
        cells: pictures.map((picture, i) => {
          const [row, column] = [Math.floor(i / columns.length), i % columns.length];
          const caption = columns[column]!.caption?.(options[row]!);
          return { picture, row, column, ...(caption !== undefined && { caption }) };
        }),
      };
      if (kind === 'svg') saveFile(await sheetSvg(asked), 'options.svg', 'image/svg+xml');
      else
        saveFile(
          await pictureMaker.with(currentProject(), meshes).sheet(asked, 'white'),
          'options.png',
          'image/png',
        );
    } catch (error) {
      notify(`The wall could not be saved: ${(error as Error).message}`, true);
    } finally {
      setDone(null);
    }
  };
  if (done !== null)
    return (
      <span className="d-flex gap-2 align-items-center" role="status">
        Drawing {Math.min(done + 1, wishes.length)} of {wishes.length} …
        <button className="btn btn-quiet btn-sm" onClick={() => (isStopped.current = true)}>
          <Square size={12} /> Stop
        </button>
      </span>
    );
  return (
    <span className="d-flex gap-1">
      <button
        className="btn btn-quiet btn-sm"
        disabled={wishes.length === 0}
        onClick={() => void save('png')}
      >
        <Image size={13} /> PNG
      </button>
      <button
        className="btn btn-quiet btn-sm"
        disabled={wishes.length === 0}
        onClick={() => void save('svg')}
      >
        <Images size={13} /> SVG
      </button>
    </span>
  );
}
