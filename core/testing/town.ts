/** Boxes and slats on a square of 100 m, somewhere far from the origin. */
export function town(rand: () => number, at: readonly [number, number, number]): Float64Array {
  const list: number[] = [];
  for (let b = 0; b < 40; b++) {
    const [x, y] = [at[0] + rand() * 100, at[1] + rand() * 100];
    const [w, d, h] = [4 + rand() * 12, 0.2 + rand() * 12, 0.1 + rand() * 20];
    const corner = (i: number) => [x + (i & 1 ? w : 0), y + (i & 2 ? d : 0), at[2] + (i & 4 ? h : 0)];
    for (const [p, q, r, s] of [
      [0, 1, 5, 4],
      [3, 2, 6, 7],
      [2, 0, 4, 6],
      [1, 3, 7, 5],
      [4, 5, 7, 6],
    ] as const)
      list.push(...[p, q, r, p, r, s].flatMap(corner));
  }
  return Float64Array.from(list);
}

/** Directions that rise, at random. */
export function upwards(count: number, rand: () => number): Float64Array {
  const out = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    const z = rand();
    const turn = rand() * 2 * Math.PI;
    const r = Math.sqrt(1 - z * z);
    out.set([r * Math.cos(turn), r * Math.sin(turn), z], i * 3);
  }
  return out;
}
