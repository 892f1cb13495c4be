import { ChoiceField } from '../app/fields';
import { OwnerBars } from '../studies/owner-bars';
import type { RoomFound, YearOf } from '../workers/room-work';
import { useRooms } from './rooms-store';

const valueOf = (what: YearOf | null): string =>
  what === null ? '' : what.kind === 'opening' ? `opening/${what.id}` : `furniture/${what.index}`;

/** Which pane or table of a room stands on the almanac with its year, and who takes its sun. */
export function YearOfField({ room: { openings, pieces } }: { room: RoomFound }) {
  const { yearOf, year } = useRooms();
  const choices: { what: YearOf | null; name: string }[] = [
    { what: null, name: 'nothing' },
    ...openings.map((id, i) => ({
      what: { kind: 'opening', id } as const,
      name: `the glass of opening ${i + 1}`,
    })),
    ...pieces.map((name, index) => ({
      what: { kind: 'furniture', index } as const,
      name: `the top of ${name}`,
    })),
  ];
  return (
    <div className="mt-2">
      <ChoiceField
        label="Year on the almanac"
        value={valueOf(yearOf)}
        choices={choices.map(({ what, name }) => ({ value: valueOf(what), name }))}
        commit={(value) =>
          useRooms.setState({
            yearOf: choices.find(({ what }) => valueOf(what) === value)?.what ?? null,
            year: null,
          })
        }
      />
      {yearOf && year && (
        <div data-testid="surface-year">
          <p className="visually-quiet mb-1">
            {year.year.sunHours.toFixed(0)} h of sun a year; otherwise in the shade of
          </p>
          <OwnerBars obstructions={year.obstructions} />
        </div>
      )}
    </div>
  );
}
