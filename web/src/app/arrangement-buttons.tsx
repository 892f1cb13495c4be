import { Columns2, Grid2x2, Link2, Rows2, Square } from 'lucide-react';
import { setTied } from '../board/pane-registry';
import { arrange, type Arrangement, usePanes } from '../state/panes-store';

export const ARRANGEMENTS: {
  arrangement: Exclude<Arrangement, 'sheet'>;
  name: string;
  icon: typeof Square;
}[] = [
  { arrangement: 'one', name: 'One pane', icon: Square },
  { arrangement: 'beside', name: 'Two panes side by side', icon: Columns2 },
  { arrangement: 'above', name: 'Two panes, one above the other', icon: Rows2 },
  { arrangement: 'four', name: 'Four panes', icon: Grid2x2 },
];

/** How the board is divided. */
export function ArrangementButtons() {
  const now = usePanes((state) => state.arrangement);
  const tied = usePanes((state) => state.tied);
  return (
    <span className="arrangements" role="group" aria-label="Panes">
      {ARRANGEMENTS.map(({ arrangement, name, icon: Icon }) => (
        <button
          key={arrangement}
          className="btn-bare"
          title={name}
          aria-label={name}
          aria-pressed={arrangement === now}
          onClick={() => arrange(arrangement)}
        >
          <Icon size={15} strokeWidth={1.7} />
        </button>
      ))}
      {now !== 'one' && now !== 'sheet' && (
        <button
          className="btn-bare"
          title="All panes look from the same place"
          aria-label="Tie the cameras"
          aria-pressed={tied}
          onClick={() => setTied(!tied)}
        >
          <Link2 size={15} strokeWidth={1.7} />
        </button>
      )}
    </span>
  );
}
