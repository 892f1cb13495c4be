import { isOpen, maskWords } from '../trace';
import type { OpenDirections } from './kinds';

type Row = NonNullable<OpenDirections['shares']>[number];

const NOTHING: Row = { direction: new Uint32Array(), share: new Float32Array() };

/** What is let through in the directions that a mask has open. */
function whereOpen({ direction, share }: Row, mask: Uint32Array, words: number, sensor: number): Row {
  const open = direction.filter((d) => isOpen(mask, words, sensor, d));
  if (open.length === direction.length) return { direction, share };
  return { direction: open, share: share.filter((_, i) => isOpen(mask, words, sensor, direction[i]!)) };
}

/** What is open past two sets of obstacles: where it is open past both, with what both let through. */
export function openTogether(a: OpenDirections, b: OpenDirections, count: number): OpenDirections {
  const mask = new Uint32Array(a.mask.length);
  for (let w = 0; w < mask.length; w++) mask[w] = a.mask[w]! & b.mask[w]!;
  if (!a.shares && !b.shares) return { ...a, mask, shares: null };
  const words = maskWords(count);
  const shares = Array.from({ length: a.sensors }, (_, s): Row => {
    const rows = [a.shares?.[s], b.shares?.[s]].filter((row) => row && row.direction.length > 0) as Row[];
    if (rows.length < 2) return whereOpen(rows[0] ?? NOTHING, mask, words, s);
    const through = new Map<number, number>();
    for (const row of rows)
      row.direction.forEach((d, i) => {
        if (isOpen(mask, words, s, d)) through.set(d, (through.get(d) ?? 1) * row.share[i]!);
      });
    return { direction: Uint32Array.from(through.keys()), share: Float32Array.from(through.values()) };
  });
  return { ...a, mask, shares };
}
