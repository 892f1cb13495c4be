/** What a sampled figure may be off by, small and grey behind it; nothing where that is less than its last digit shows. */
export function PlusMinus({ error, digits = 1 }: { error: number; digits?: number }) {
  const text = error.toFixed(digits);
  if (!(Number(text) > 0)) return null;
  return (
    <small className="plus-minus" title="What it may be off by, told by what eighths of the points differ by">
      {' '}
      ± {Number(text).toLocaleString('en', { minimumFractionDigits: digits, maximumFractionDigits: digits })}
    </small>
  );
}
