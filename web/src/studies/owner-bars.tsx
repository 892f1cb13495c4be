import { OBSTRUCTION_COLOURS, OTHER_OBSTRUCTION } from '../theme/palette';
import type { ShownYear } from './use-probe-year';

/** Who takes the sun of a year, in the colours of the almanac. */
export function OwnerBars({ obstructions }: Pick<ShownYear, 'obstructions'>) {
  return (
    <div className="owner-bars">
      {obstructions.slice(0, 6).map((obstruction, i) => (
        <div key={obstruction.owner}>
          <span className="patch" style={{ background: OBSTRUCTION_COLOURS[i] ?? OTHER_OBSTRUCTION }} />
          <span>{obstruction.name}</span>
          <span>{Math.round(obstruction.hours).toLocaleString('en')} h</span>
        </div>
      ))}
      {obstructions.length > 6 && (
        <div>
          <span className="patch" style={{ background: OTHER_OBSTRUCTION }} />
          <span>{obstructions.length === 7 ? '1 other' : `${obstructions.length - 6} others`}</span>
          <span>
            {Math.round(obstructions.slice(6).reduce((sum, t) => sum + t.hours, 0)).toLocaleString('en')} h
          </span>
        </div>
      )}
    </div>
  );
}
