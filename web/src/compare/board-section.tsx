import { CheckField, ChoiceField, Section } from '../app/fields';
import { focusedView, setTied } from '../board/pane-registry';
import { activeStudyOf } from '../state/active-study';
import { arrange, arrangeOptions, usePanes } from '../state/panes-store';
import { useDocument } from '../state/project-store';
import { optionsInOrder, setView, useView } from '../state/view-store';
import { useCompare } from './compare-store';
import { chosenOptions } from './compared';

/** Options side by side on the board, from one place, with a result or its change on them. */
export function BoardSection() {
  const project = useDocument();
  const { studies } = project;
  const arrangement = usePanes((state) => state.arrangement);
  const tied = usePanes((state) => state.tied);
  const onBoard = useCompare((state) => state.onBoard);
  const study = activeStudyOf(
    project,
    useView((view) => view.activeStudy),
  );
  const showsChange = useView((view) => view.showsChange);
  const before = useView((view) => view.before);
  const options = chosenOptions(project);
  const all = optionsInOrder(project);
  const sideBySide = (count: number) =>
    arrangeOptions(
      options.slice(0, count).map(({ id }) => id),
      focusedView()?.look.camera ?? null,
    );
  const counts = [2, 3, 4].filter((count) => count <= options.length);
  return (
    <Section title="Side by side" name="options on the board">
      <div className="d-flex gap-1 mb-2 flex-wrap">
        <button
          className="btn btn-quiet btn-sm"
          aria-pressed={arrangement === 'one'}
          onClick={() => arrange('one')}
        >
          One
        </button>
        {counts.map((count) => (
          <button key={count} className="btn btn-quiet btn-sm" onClick={() => sideBySide(count)}>
            {count} options
          </button>
        ))}
      </div>
      {arrangement !== 'one' && (
        <>
          <CheckField label="Seen from the same place" checked={tied} change={setTied} />
          <p className="visually-quiet mb-1">
            Click a pane and press a number key, or choose above, to see another option in it.
          </p>
        </>
      )}
      <ChoiceField
        label="On it"
        wide
        value={onBoard && study ? study.id : ''}
        choices={[{ value: '', name: 'no result' }, ...studies.map(({ id, name }) => ({ value: id, name }))]}
        commit={(id) => {
          useCompare.setState({ onBoard: id !== '' });
          if (id) setView({ activeStudy: id });
        }}
      />
      {onBoard && (
        <ChoiceField
          label="As the change from"
          value={showsChange ? (before ?? '') : ''}
          choices={[
            { value: '', name: 'no other: as it is' },
            ...all.map(({ id, letter, name }) => ({ value: id, name: `${letter} ${name}` })),
          ]}
          commit={(id) => setView({ showsChange: id !== '', before: id || null })}
        />
      )}
    </Section>
  );
}
