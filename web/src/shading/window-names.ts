import type { GlassRow } from '../workers/glass-work';

/** What windows are called in a list: by body, storey and the way they face, and by their walls where these are the same. */
export function windowNames(
  rows: readonly Pick<GlassRow, 'key' | 'name' | 'face' | 'body' | 'storey' | 'sector'>[],
): Map<string, string> {
  const nameOf = ({ body, storey, sector, name }: (typeof rows)[number]) =>
    [[body, storey === null ? null : `storey ${storey + 1}`, sector].filter(Boolean).join(', '), name].join(
      ' · ',
    );
  const alike = new Map<string, string[]>();
  for (const row of rows) {
    const faces = alike.get(nameOf(row)) ?? [];
    if (!faces.includes(row.face)) alike.set(nameOf(row), [...faces, row.face]);
  }
  return new Map(
    rows.map((row) => {
      const faces = alike.get(nameOf(row))!;
      const wall = faces.length > 1 ? `, wall ${faces.indexOf(row.face) + 1} of ${faces.length}` : '';
      return [row.key, nameOf(row) + wall];
    }),
  );
}
