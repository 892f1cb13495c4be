/** What a sampled figure may be off by, small and grey behind it. */
export function PlusMinus({ error, digits = 1 }: { error: number; digits?: number }) {
  if (Number.isNaN(error)) return null;
  const least = 10 ** -digits;
  const text =
    error < least / 2
      ? `< ${least}`
      : Number(error.toFixed(digits)).toLocaleString('en', {
          minimumFractionDigits: digits,
          maximumFractionDigits: digits,
        });
  return (
    <small className="plus-minus" title="What it may be off by, told by what eighths of the points differ by">
      {' '}
      ± {text}
    </small>
  );
}
