import { dayOfYear } from '@dial-shade/core';
import { useMomentSet } from '../sun/use-moment-set';
import { useDocument } from '../state/project-store';
import type { ChartScale } from './chart-scale';

/** The moments of the chosen set, as small marks. */
export function MomentMarks({ scale }: { scale: ChartScale }) {
  const { site } = useDocument();
  const { moments } = useMomentSet();
  return (
    <g className="moment-marks" data-testid="moment-marks">
      {moments
        .filter(({ date }) => date.startsWith(String(site.year)))
        .map(({ date, minutes }, i) => (
          <circle key={i} cx={scale.x(dayOfYear(date) + 0.5)} cy={scale.y(minutes)} r={2.6} />
        ))}
    </g>
  );
}
