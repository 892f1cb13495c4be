import { clockAt, formatClock, momentsOf, SEASON_MARKS, seasons } from '@dial-shade/core';
import { useState } from 'react';
import { shortDate } from '../almanac/wording';
import { ChoiceField } from '../app/fields';
import { OptionLetter } from '../app/option-letter';
import { useDocument } from '../state/project-store';
import { setMoment, setView } from '../state/view-store';
import { chosenOptions, useCompare } from './compare-store';
import { type PictureWish, useOptionPictures } from './option-pictures';

/** Moments of a wall at most; pictures of it, pixels. */
const MOST_MOMENTS = 8;
const [WIDTH, HEIGHT] = [300, 190];

/** Options × moments as small pictures from where the board looks; a click shows one of them. */
export function OptionWall() {
  const project = useDocument();
  const { site, momentSets } = project;
  const [set, setSet] = useState('noon');
  const chosen = momentSets.find(({ id }) => id === set);
  const moments = chosen
    ? momentsOf(chosen, project.site)
        .slice(0, MOST_MOMENTS)
        .map(({ date, minutes }) => ({ date, minutes }))
    : SEASON_MARKS.slice(0, 3).map((mark) => ({
        date: clockAt(seasons(site.year)[mark], site.place.zone).date,
        minutes: 720,
      }));
  const options = chosenOptions(project);
  const wishes = options.flatMap(({ id }) => moments.map((at): PictureWish => ({ optionId: id, ...at })));
  const urls = useOptionPictures(wishes, WIDTH, HEIGHT);
  const columns = { gridTemplateColumns: `7rem repeat(${moments.length}, minmax(150px, 1fr))` };
  return (
    <aside className="compare-panel" aria-label="Wall of pictures" data-testid="wall">
      <ChoiceField
        label="Moments"
        value={chosen?.id ?? 'noon'}
        choices={[
          { value: 'noon', name: 'equinoxes and June solstice, at 12:00' },
          ...momentSets.map(({ id, name }) => ({ value: id, name })),
        ]}
        commit={setSet}
      />
      <div className="wall" style={columns}>
        <span />
        {moments.map(({ date, minutes }) => (
          <strong key={`${date}${minutes}`}>
            {shortDate(date)}, {formatClock(minutes)}
          </strong>
        ))}
        {options.map((option, row) => [
          <span key={option.id} className="of">
            <OptionLetter option={option} /> {option.name}
          </span>,
          ...moments.map(({ date, minutes }, column) => {
            const url = urls[row * moments.length + column];
            return (
              <button
                key={`${option.id}${date}${minutes}`}
                className="btn-bare picture"
                aria-label={`${option.name}, ${shortDate(date)} ${formatClock(minutes)}: show it on the board`}
                onClick={() => {
                  setView({ optionId: option.id });
                  setMoment(date, minutes);
                  useCompare.setState({ show: 'board' });
                }}
              >
                {url ? (
                  <img src={url} alt="" width={WIDTH} height={HEIGHT} />
                ) : (
                  <span className="waiting">…</span>
                )}
              </button>
            );
          }),
        ])}
      </div>
    </aside>
  );
}
