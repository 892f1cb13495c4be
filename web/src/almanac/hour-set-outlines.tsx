import { useMemo } from 'react';
import { useClimate } from '../climate/use-climate';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { HOUR_SET_COLOURS } from '../theme/palette';
import type { ChartScale } from './chart-scale';

/**
 * The sets of hours that are shown, as outlines over the days and the clock.
 * @param all whether those of unwanted and of wanted sun are shown whatever was chosen
 */
export function HourSetOutlines({ scale, all }: { scale: ChartScale; all: boolean }) {
  const { hourSets } = useDocument();
  const shown = useView((view) => view.hourSets);
  const wanted = hourSets.filter(({ id, use }) => shown.has(id) || (all && use !== 'other'));
  const found = useClimate((worker) => worker.hourSets(), [hourSets, shown]);
  const paths = useMemo(
    () => (found ?? []).map(({ id, isIn }) => ({ id, path: outline(isIn, scale) })),
    [found, scale],
  );
  return (
    <g pointerEvents="none">
      {wanted.map(({ id, use, name }) => {
        const path = paths.find((one) => one.id === id)?.path;
        return (
          path && (
            <path
              key={id}
              d={path}
              fill="none"
              stroke={HOUR_SET_COLOURS[use]}
              strokeWidth={1.3}
              data-testid="hour-set-outline"
            >
              <title>{name}</title>
            </path>
          )
        );
      })}
    </g>
  );
}

/** Where hours of a set meet hours that are not of it. */
function outline(isIn: Uint8Array, { x, y, days }: ChartScale): string {
  const at = (day: number, hour: number) =>
    day >= 0 && day < days && hour >= 0 && hour < 24 ? isIn[day * 24 + hour]! : 0;
  const parts: string[] = [];
  for (let day = 0; day <= days; day++)
    for (let hour = 0; hour <= 24; hour++) {
      if (at(day, hour) !== at(day - 1, hour)) parts.push(`M${x(day)} ${y(hour * 60)}V${y((hour + 1) * 60)}`);
      if (at(day, hour) !== at(day, hour - 1)) parts.push(`M${x(day)} ${y(hour * 60)}H${x(day + 1)}`);
    }
  return parts.join('');
}
