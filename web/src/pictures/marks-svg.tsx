import type { Mark } from './marks';

/** Marks as parts of an SVG element of the page. */
export function MarksSvg({ marks }: { marks: readonly Mark[] }) {
  return marks.map((mark, i) => {
    if (mark.kind === 'text')
      return (
        <text
          key={i}
          x={mark.x}
          y={mark.y}
          fontSize={mark.size}
          fontWeight={mark.weight}
          fill={mark.fill}
          textAnchor={mark.anchor}
        >
          {mark.text}
        </text>
      );
    const paint = { fill: mark.fill ?? 'none', stroke: mark.stroke, strokeWidth: mark.strokeWidth };
    if (mark.kind === 'path') {
      const d = `M${mark.points.map((p) => p.join()).join('L')}${mark.closed ? 'Z' : ''}`;
      return <path key={i} d={d} {...paint} />;
    }
    return (
      <rect key={i} x={mark.x} y={mark.y} width={mark.width} height={mark.height} {...paint}>
        {mark.title && <title>{mark.title}</title>}
      </rect>
    );
  });
}
