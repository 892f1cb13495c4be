import { csvParseRows, dsvFormat } from 'd3-dsv';
import fc from 'fast-check';
import { csvAs, csvText, tabsOf } from './csv';

test('no text opens as a formula, and figures stay figures', () => {
  const names = [
    '=1+1',
    '+cmd',
    '-x',
    '@SUM(A1)',
    '\t=1',
    '\r=1',
    '=HYPERLINK("x","y")',
    '-',
    '-1-1',
    '+1 m',
  ];
  for (const row of csvParseRows(csvText(names.map((name) => [name, 'a'])))) expect(row[0]).toMatch(/^'/);
  const figures = [-1.5, '-1.5', '+3', '-0.25e-3', '.5', 'Hall', '−3', '', null, "it's"];
  expect(csvText([figures])).toBe("-1.5,-1.5,+3,-0.25e-3,.5,Hall,−3,,,it's\n");
});

test('any text comes back from each form, but for the apostrophe before what would be a formula', () => {
  const table = fc.array(fc.array(fc.string(), { minLength: 2, maxLength: 4 }), { minLength: 1 });
  fc.assert(
    fc.property(table, (rows) => {
      const text = csvText(rows);
      const guarded = rows.map((row) =>
        row.map((cell) => (/^[=+\-@\t\r]/.test(cell) && Number.isNaN(Number(cell)) ? `'${cell}` : cell)),
      );
      const plain = csvParseRows(text);
      expect(plain.map((row) => row.map((cell) => cell.replace(/^'(?=[=+\-@\t\r])/, '')))).toEqual(
        guarded.map((row) => row.map((cell) => cell.replace(/^'(?=[=+\-@\t\r])/, ''))),
      );
      for (const [form, mark] of [
        ['comma', ','],
        ['semicolon', ';'],
      ] as const) {
        const bytes = csvAs(text, form);
        expect(bytes.startsWith('\uFEFF')).toBe(true);
        expect(dsvFormat(mark).parseRows(bytes.slice(1))).toEqual(plain);
      }
      expect(dsvFormat('\t').parseRows(tabsOf(text))).toEqual(plain);
      expect(csvAs(text, 'plain')).toBe(text);
    }),
  );
});

test('semicolons leave the decimal point and quote what has one', () => {
  const text = csvText([
    ['name', 'area'],
    ['Garden; south, "old"', 12.5],
  ]);
  expect(csvAs(text, 'semicolon')).toBe('\uFEFFname;area\n"Garden; south, ""old""";12.5\n');
});
