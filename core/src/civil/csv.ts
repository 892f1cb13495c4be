/** Rows as comma-separated text (RFC 4180, lines ended by a line feed): quoted where a value has a comma, a quote or a line end. */
export function csvText(rows: readonly (readonly (string | number | null)[])[]): string {
  return `${rows.map((row) => row.map(csvCell).join(',')).join('\n')}\n`;
}

function csvCell(value: string | number | null): string {
  const text = value === null ? '' : String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
