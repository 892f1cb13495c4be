import type { ImportChoices, Source } from '@dial-shade/core';
import { CheckField, ChoiceField } from '../app/fields';

/** A file that was brought in before: whether it takes the place of what it brought in, and what changes then. */
export function ReadAgain({
  before,
  changes,
  choices,
  set,
}: {
  before: Source;
  changes: readonly string[] | null;
  choices: ImportChoices;
  set: (fields: Partial<ImportChoices>) => void;
}) {
  const isAgain = choices.again === before.id;
  return (
    <div className="read-again" role="group" aria-label="Brought in before">
      <p className="fw-semibold mb-1">“{before.file}” was brought in before.</p>
      <ChoiceField
        label="It comes in"
        value={isAgain ? 'again' : 'beside'}
        choices={[
          { value: 'again', name: 'again, in place of what it brought in' },
          { value: 'beside', name: 'beside that' },
        ]}
        commit={(way) =>
          set({ again: way === 'again' ? before.id : null, pinned: way === 'again' ? before.place : null })
        }
      />
      {isAgain && (
        <>
          <div role="status" aria-label="What changes">
            {changes === null && <p className="note">Comparing …</p>}
            {changes?.map((sentence) => (
              <p key={sentence} className="note">
                {sentence}
              </p>
            ))}
          </div>
          <CheckField
            label="Keep what the file no longer holds"
            checked={choices.keepGone ?? false}
            change={(keepGone) => set({ keepGone })}
          />
        </>
      )}
    </div>
  );
}
