import { formatClock, type Site } from '@dial-shade/core';
import { useEffect, useState } from 'react';
import { longDate } from '../almanac/wording';
import { ChoiceField, NumberField, TextField } from '../app/fields';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import {
  type FilmCourse,
  filmMoments,
  FRAME_RATES,
  type FilmKind,
  mostFrames,
  wrongFilmSize,
} from './film-plan';
import { type PictureStyle, wrongSize } from './picture';
import { usePanesAsked } from './picture-fields';
import { pictureMaker } from './picture-maker';
import { makeFilm } from './make-pictures';
import { usePictures } from './pictures-store';

const KIND_NAMES: Record<FilmKind, string> = { gif: 'GIF', webm: 'WebM', mp4: 'MP4' };

/** Which kinds of film this browser writes at a size. */
function useWritable({ width, height }: PictureStyle): Record<FilmKind, boolean> {
  const [found, setFound] = useState({ gif: true, webm: true, mp4: true });
  useEffect(() => {
    let isHere = true;
    const ask = (kind: FilmKind) => pictureMaker.bare().canWrite(kind, width, height);
    void Promise.all([ask('webm'), ask('mp4')]).then(
      ([webm, mp4]) => isHere && setFound({ gif: true, webm, mp4 }),
      () => isHere && setFound({ gif: true, webm: false, mp4: false }),
    );
    return () => {
      isHere = false;
    };
  }, [width, height]);
  return found;
}

/** A film of a day or of a season, from the pane with the focus or from all panes. */
export function FilmFields({ style }: { style: PictureStyle }) {
  const { site } = useDocument();
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const { views, field } = usePanesAsked();
  const [span, setSpan] = useState<FilmCourse['kind']>('day');
  const [everyMinutes, setEveryMinutes] = useState(10);
  const [everyDays, setEveryDays] = useState(2);
  const [from, setFrom] = useState(`${site.year}-01-01`);
  const [to, setTo] = useState(`${site.year}-12-31`);
  const [rate, setRate] = useState('10');
  const [kind, setKind] = useState<FilmKind>('mp4');
  const writable = useWritable(style);
  const isBusy = usePictures((state) => state.job !== null);

  const course: FilmCourse =
    span === 'day' ? { kind: span, date, everyMinutes } : { kind: span, from, to, minutes, everyDays };
  const { said, isPossible } = outlook(course, style, kind, Number(rate), writable[kind], site);
  return (
    <>
      {field}
      <ChoiceField
        label="Runs through"
        value={span}
        choices={[
          { value: 'day', name: `The day, ${longDate(date)}` },
          { value: 'season', name: `A season, at ${formatClock(minutes)}` },
        ]}
        commit={setSpan}
      />
      {span === 'day' ? (
        <NumberField
          label="A frame every"
          unit="min"
          digits={2}
          value={everyMinutes}
          commit={(next) => {
            if (next <= 0) return 'The step is more than 0 minutes.';
            setEveryMinutes(next);
            return null;
          }}
        />
      ) : (
        <>
          <DateField label="From" value={from} commit={setFrom} />
          <DateField label="Until" value={to} commit={setTo} />
          <NumberField
            label="A frame every"
            unit="days"
            digits={0}
            value={everyDays}
            commit={(next) => {
              if (!Number.isInteger(next) || next < 1) return 'The step is a whole number of days.';
              setEveryDays(next);
              return null;
            }}
          />
        </>
      )}
      <ChoiceField
        label="Frames per second"
        value={rate}
        choices={FRAME_RATES.map((one) => ({ value: String(one), name: String(one) }))}
        commit={setRate}
      />
      <ChoiceField
        label="Kind of film"
        value={kind}
        choices={(['mp4', 'webm', 'gif'] as const).map((one) => ({ value: one, name: KIND_NAMES[one] }))}
        commit={setKind}
      />
      <p className="visually-quiet mb-1" data-testid="film-estimate">
        {said}
      </p>
      <button
        className="btn btn-sunlit btn-sm"
        disabled={!isPossible || isBusy}
        onClick={() => void makeFilm(views(), style, kind, Number(rate), course)}
      >
        Make the film
      </button>
    </>
  );
}

/** What would come of a film, in a sentence, and whether it can be made. */
function outlook(
  course: FilmCourse,
  { width, height }: PictureStyle,
  kind: FilmKind,
  rate: number,
  isWritable: boolean,
  site: Site,
): { said: string; isPossible: boolean } {
  const wrong = wrongSize(width, height) ?? wrongFilmSize(kind, width, height);
  try {
    const { length } = filmMoments(course, site, mostFrames(kind, width, height));
    if (wrong) return { said: wrong, isPossible: false };
    return isWritable
      ? { said: `${length} frames, ${Number((length / rate).toFixed(2))} s.`, isPossible: true }
      : {
          said: `This browser cannot write ${KIND_NAMES[kind]} at this size; take GIF, or a set of PNG pictures.`,
          isPossible: false,
        };
  } catch (error) {
    return { said: (error as Error).message, isPossible: false };
  }
}

function DateField({
  label,
  value,
  commit,
}: {
  label: string;
  value: string;
  commit: (date: string) => void;
}) {
  return (
    <TextField
      label={label}
      type="date"
      value={value}
      commit={(text) => {
        if (!text) return 'Choose a date.';
        commit(text);
        return null;
      }}
    />
  );
}
