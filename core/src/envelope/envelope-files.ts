import { clockAt, csvText, formatClock } from '../civil';
import { type EnvelopeField, placeOf } from './envelope-field';

/** `x,y,height_m,decided_by,at`, a line for each point that may be built on; no height where nothing limits it. */
export function envelopeCsv(field: EnvelopeField, zone: string): string {
  const rows: (string | number)[][] = [['x', 'y', 'height_m', 'decided_by', 'at']];
  field.levelM.forEach((level, i) => {
    if (Number.isNaN(level)) return;
    const [x, y] = placeOf(field, i);
    const by = field.decidedBy[i]!;
    rows.push([
      Number(x.toFixed(4)),
      Number(y.toFixed(4)),
      level === Infinity ? '' : Number(level.toFixed(4)),
      by < 0 ? '' : field.reasons[by]!,
      momentText(field.atMs[i]!, zone),
    ]);
  });
  return csvText(rows);
}

function momentText(atMs: number, zone: string): string {
  if (Number.isNaN(atMs)) return '';
  const { date, minutes } = clockAt(atMs, zone);
  return `${date}T${formatClock(minutes)}`;
}

/**
 * The surface of a field as Wavefront OBJ, metres, z up: two triangles between the middles of each four cells that are
 * limited, so that it lies within what may be built on; an `o` with the envelope's name.
 */
export function envelopeObj(field: EnvelopeField, name: string): string {
  const { columns, rows, levelM } = field;
  const numbers = new Map<number, number>();
  const lines: string[] = [`o ${name.replaceAll(/\s+/g, '_')}`];
  const isLimited = (i: number) => Number.isFinite(levelM[i]!);
  levelM.forEach((level, i) => {
    if (!Number.isFinite(level)) return;
    numbers.set(i, numbers.size + 1);
    const [x, y] = placeOf(field, i);
    lines.push(`v ${x.toFixed(4)} ${y.toFixed(4)} ${level.toFixed(4)}`);
  });
  for (let row = 0; row + 1 < rows; row++)
    for (let column = 0; column + 1 < columns; column++) {
      const i = row * columns + column;
      const quad = [i, i + 1, i + columns + 1, i + columns];
      if (!quad.every(isLimited)) continue;
      const [a, b, c, d] = quad.map((one) => numbers.get(one)!);
      lines.push(`f ${a} ${b} ${c}`, `f ${a} ${c} ${d}`);
    }
  return `${lines.join('\n')}\n`;
}
