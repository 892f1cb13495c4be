const flat = (value: unknown): number[] => (Array.isArray(value) ? value.flatMap(flat) : [value as number]);

/** As many numbers, however they are put into lists, each within 10⁻⁹ of the one wanted. */
export function expectNear(found: unknown, wanted: unknown): void {
  const [a, b] = [flat(found), flat(wanted)];
  expect(a).toHaveLength(b.length);
  a.forEach((value, i) => expect(value).toBeCloseTo(b[i]!, 9));
}
