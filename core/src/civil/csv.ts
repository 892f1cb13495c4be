import { csvParseRows, dsvFormat } from 'd3-dsv';

/**
 * Rows as comma-separated text (RFC 4180, lines ended by a line feed, decimal point): quoted where a value has a comma, a
 * quote or a line end. Text that a spreadsheet would take for a formula, since it begins with = + - @, a tab or a return and
 * is no number, has an apostrophe before it.
 */
export function csvText(rows: readonly (readonly (string | number | null)[])[]): string {
  return `${csv.formatRows(rows.map((row) => row.map(csvCell)))}\n`;
}

const csv = dsvFormat(',');

/** Text that is a number, as columns of figures have it. */
const NUMBER = /^[-+]?(\d+(\.\d*)?|\.\d+)(e[-+]?\d+)?$/i;

function csvCell(value: string | number | null): string {
  const text = value === null ? '' : String(value);
  return /^[=+\-@\t\r]/.test(text) && !NUMBER.test(text) && typeof value === 'string' ? `'${text}` : text;
}

/** As it is documented; or for spreadsheets, with a byte-order mark, parted by commas or by semicolons. */
export const CSV_FORMS = ['plain', 'comma', 'semicolon'] as const;
export type CsvForm = (typeof CSV_FORMS)[number];

/** Text of `csvText` in another form. Figures keep their decimal point. */
export function csvAs(text: string, form: CsvForm): string {
  if (form === 'plain') return text;
  const rows = csvParseRows(text);
  return `\uFEFF${dsvFormat(form === 'comma' ? ',' : ';').formatRows(rows)}\n`;
}

/** The same parted by tabs, to be pasted into a table. */
export function tabsOf(text: string): string {
  return `${dsvFormat('\t').formatRows(csvParseRows(text))}\n`;
}
