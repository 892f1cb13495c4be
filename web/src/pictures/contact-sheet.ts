import { escapeXml, toBase64 } from '@dial-shade/core';
import { SCENE } from '../theme/palette';
import { type Context2d, FONT, type Mark, paintMarks } from './marks';
import type { PictureStyle } from './picture';

/** A picture in its place on a contact sheet. */
export interface SheetCell {
  picture: Blob;
  row: number;
  column: number;
  /** Written into its foot. */
  caption?: string;
}

/** Pictures in rows and columns, each row and column named. */
export interface SheetAsked {
  title: string;
  rows: readonly string[];
  columns: readonly string[];
  cells: readonly SheetCell[];
  /** Size of a picture in pixels before it is made to fit. */
  picture: { width: number; height: number };
}

/** Longest side of a sheet, and widest of a picture on it, pixels. */
const MAX_SIDE_PX = 8192;
const CELL_PX = 640;

/** How large a sheet is, the pictures on it, and what stands round them; letters grow with the pictures. */
export function sheetLayout({ rows, columns, picture }: SheetAsked) {
  const aspect = picture.height / picture.width;
  const of = (scale: number) => {
    const [gap, margin, head, side] = [14, 36, 86, 150].map((px) => Math.round(px * scale)) as [
      number,
      number,
      number,
      number,
    ];
    const across = (MAX_SIDE_PX - margin * 2 - side) / columns.length - gap;
    const down = ((MAX_SIDE_PX - margin * 2 - head) / rows.length - gap) / aspect;
    const width = Math.max(8, Math.floor(Math.min(CELL_PX, picture.width, across, down)));
    return {
      scale,
      gap,
      margin,
      head,
      side,
      cell: { width, height: Math.max(8, Math.round(width * aspect)) },
    };
  };
  const plain = of(1);
  const { cell, ...room } = of(Math.max(0.5, Math.min(2, plain.cell.width / 320)));
  const { gap, margin, head, side } = room;
  return {
    ...room,
    cell,
    width: margin * 2 + side + columns.length * (cell.width + gap),
    height: margin * 2 + head + rows.length * (cell.height + gap),
  };
}

/** Draws a contact sheet; pictures are decoded one after another. */
export async function paintSheet(asked: SheetAsked, paper: PictureStyle['paper']): Promise<Blob> {
  const { width, height, cell, scale, gap, margin, head, side } = sheetLayout(asked);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  const { ink } = SCENE.light;
  context.fillStyle = paper === 'white' ? '#ffffff' : SCENE.light.paper;
  context.fillRect(0, 0, width, height);
  const title: Mark = { kind: 'text', x: 0, y: 24, text: asked.title, size: 26, weight: 700, fill: ink };
  paintMarks(context, [title], margin, margin, scale);
  const xOf = (column: number) => margin + side + column * (cell.width + gap);
  const yOf = (row: number) => margin + head + row * (cell.height + gap);
  context.textBaseline = 'middle';
  const write = (text: string, x: number, y: number, room: number, align: 'center' | 'left') =>
    fitted(context, text, { x, y, room, align, scale });
  asked.columns.forEach((name, i) =>
    write(name, xOf(i) + cell.width / 2, margin + head - 20 * scale, cell.width, 'center'),
  );
  asked.rows.forEach((name, i) => write(name, margin, yOf(i) + cell.height / 2, side - 12 * scale, 'left'));
  for (const { picture, row, column, caption } of asked.cells) {
    const image = await createImageBitmap(picture, {
      resizeWidth: cell.width,
      resizeHeight: cell.height,
      resizeQuality: 'high',
    });
    context.drawImage(image, xOf(column), yOf(row));
    image.close();
    if (caption) paintMarks(context, captionMarks(caption, cell), xOf(column), yOf(row), 1);
    context.strokeStyle = '#cfc7b6';
    context.lineWidth = 1;
    context.strokeRect(xOf(column) + 0.5, yOf(row) + 0.5, cell.width - 1, cell.height - 1);
  }
  return canvas.convertToBlob({ type: 'image/png' });
}

/** A caption in the foot of a picture. */
function captionMarks(text: string, { width, height }: { width: number; height: number }): Mark[] {
  const size = Math.max(9, height * 0.06);
  const { ink, paper } = SCENE.light;
  return [
    { kind: 'rect', x: 0, y: height - size * 1.8, width, height: size * 1.8, fill: paper },
    { kind: 'text', x: size * 0.6, y: height - size * 0.6, text, size, weight: 600, fill: ink },
  ];
}

const DOTS_PER_INCH = 150;

/** A contact sheet as an SVG in millimetres, the pictures within it. */
export async function sheetSvg(asked: SheetAsked): Promise<string> {
  const { width, height, cell, scale, gap, margin, head, side } = sheetLayout(asked);
  const { ink } = SCENE.light;
  const mm = (px: number) => ((px * 25.4) / DOTS_PER_INCH).toFixed(1);
  const xOf = (column: number) => margin + side + column * (cell.width + gap);
  const yOf = (row: number) => margin + head + row * (cell.height + gap);
  const text = (x: number, y: number, words: string, size: number, more = '') =>
    `<text x="${x}" y="${y}" font-size="${size.toFixed(1)}" ${more}>${escapeXml(words)}</text>`;
  const images = await Promise.all(
    asked.cells.map(async ({ picture, row, column, caption }) => {
      const [x, y] = [xOf(column), yOf(row)];
      const foot = (caption ? captionMarks(caption, cell) : []).map((mark) =>
        mark.kind === 'text'
          ? text(x + mark.x, y + mark.y, mark.text, mark.size, 'font-weight="600"')
          : mark.kind === 'rect'
            ? `<rect x="${x}" y="${y + mark.y}" width="${mark.width}" height="${mark.height}" fill="${mark.fill}"/>`
            : '',
      );
      const box = `x="${x}" y="${y}" width="${cell.width}" height="${cell.height}"`;
      const data = toBase64(new Uint8Array(await picture.arrayBuffer()));
      return [
        `<image ${box} href="data:image/png;base64,${data}"/>`,
        ...foot,
        `<rect ${box} fill="none" stroke="#cfc7b6"/>`,
      ].join('');
    }),
  );
  const size = 17 * scale;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(width)}mm" height="${mm(height)}mm" viewBox="0 0 ${width} ${height}" font-family="${escapeXml(FONT)}" fill="${ink}">`,
    `<rect width="${width}" height="${height}" fill="#ffffff"/>`,
    text(margin, margin + 24 * scale, asked.title, 26 * scale, 'font-weight="700"'),
    ...asked.columns.map((name, i) =>
      text(
        xOf(i) + cell.width / 2,
        margin + head - 14 * scale,
        name,
        Math.min(size, (cell.width / name.length) * 1.7),
        'text-anchor="middle" font-weight="600"',
      ),
    ),
    ...asked.rows.map((name, i) =>
      text(
        margin,
        yOf(i) + cell.height / 2,
        name,
        Math.min(size, ((side - 12 * scale) / name.length) * 1.7),
        'font-weight="600"',
      ),
    ),
    ...images,
    '</svg>\n',
  ].join('\n');
}

/** A text as large as goes into a width, in up to two lines at its comma. */
function fitted(
  context: Context2d,
  text: string,
  {
    x,
    y,
    room,
    align,
    scale,
  }: { x: number; y: number; room: number; align: 'center' | 'left'; scale: number },
): void {
  context.fillStyle = SCENE.light.ink;
  context.textAlign = align;
  const size = 17 * scale;
  const setSize = (px: number) => (context.font = `600 ${px}px ${FONT}`);
  setSize(size);
  const comma = text.indexOf(', ');
  const lines =
    context.measureText(text).width > room && comma > 0
      ? [text.slice(0, comma + 1), text.slice(comma + 2)]
      : [text];
  const widest = Math.max(...lines.map((line) => context.measureText(line).width));
  if (widest > room) setSize(Math.max(8, (size * room) / widest));
  lines.forEach((line, i) => context.fillText(line, x, y + (i - (lines.length - 1) / 2) * size * 1.25));
}
