import { netWorth, type WorthMap, worthOutline } from '@dial-shade/core';
import { useMemo } from 'react';
import { RAMPS } from '../theme/palette';

/** The map of worth in its plane: the facade above, outwards down; what is worth shading within the line. */
export function WorthPicture({ map, lambda }: { map: WorthMap; lambda: number }) {
  const { columns, rows, cellM, x0 } = map;
  const { net, most } = useMemo(() => {
    const values = netWorth(map, lambda);
    return { net: values, most: values.reduce((best, one) => Math.max(best, Math.abs(one)), 0) || 1 };
  }, [map, lambda]);
  const outline = useMemo(() => worthOutline(map, lambda, 'smooth'), [map, lambda]);
  const path = outline
    .flatMap(({ outer, holes }) => [outer, ...holes])
    .map((ring) => `M${ring.map(([x, y]) => `${x - x0} ${y}`).join('L')}Z`)
    .join('');
  const perM2 = most / (cellM * cellM);
  const stops = Array.from({ length: 9 }, (_, i) => RAMPS.change(1 - i / 8)).join(', ');
  const read = perM2 < 10 ? perM2.toFixed(1) : perM2.toFixed(0);
  return (
    <figure className="m-0 mb-1">
      <svg
        className="climate-chart"
        viewBox={`0 0 ${columns * cellM} ${rows * cellM}`}
        role="img"
        aria-label="Where shade is worth having, seen square to the plane"
      >
        {Array.from(net, (value, i) =>
          value === 0 ? null : (
            <rect
              key={i}
              x={(i % columns) * cellM}
              y={Math.floor(i / columns) * cellM}
              width={cellM * 1.02}
              height={cellM * 1.02}
              fill={RAMPS.change(0.5 - value / most / 2)}
            />
          ),
        )}
        <path d={path} fill="none" stroke="var(--ink)" strokeWidth={cellM / 5} />
        <line x1={0} x2={columns * cellM} y1={0} y2={0} stroke="var(--ink)" strokeWidth={cellM / 2} />
      </svg>
      <div className="tone-strip">
        sun pays <i style={{ background: `linear-gradient(to right, ${stops})` }} /> shade pays, up to {read}{' '}
        {map.unit}/m²
      </div>
    </figure>
  );
}
