/** Something flat that is drawn over a picture or in the page, in pixels from the upper left corner. */
export type Mark =
  | {
      kind: 'rect';
      x: number;
      y: number;
      width: number;
      height: number;
      fill: string;
      stroke?: string;
      strokeWidth?: number;
      title?: string;
    }
  | {
      kind: 'text';
      x: number;
      /** Of the line that letters stand on. */
      y: number;
      text: string;
      size: number;
      fill: string;
      weight?: number;
      anchor?: 'start' | 'middle' | 'end';
    }
  | {
      kind: 'path';
      points: readonly (readonly [number, number])[];
      closed?: boolean;
      stroke?: string;
      strokeWidth?: number;
      fill?: string;
    };

/** The typeface of the page. */
export const FONT = '"Public Sans Variable", sans-serif';

/** Either kind of two-dimensional context. */
export type Context2d = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Draws marks onto a canvas, moved by (x, y) and enlarged. */
export function paintMarks(context: Context2d, marks: readonly Mark[], x = 0, y = 0, scale = 1): void {
  context.save();
  context.translate(x, y);
  context.scale(scale, scale);
  for (const mark of marks) paintMark(context, mark);
  context.restore();
}

function paintMark(context: Context2d, mark: Mark): void {
  if (mark.kind === 'text') {
    context.font = `${mark.weight ?? 400} ${mark.size}px ${FONT}`;
    context.textAlign = mark.anchor === 'middle' ? 'center' : (mark.anchor ?? 'start');
    context.textBaseline = 'alphabetic';
    context.fillStyle = mark.fill;
    context.fillText(mark.text, mark.x, mark.y);
    return;
  }
  context.beginPath();
  if (mark.kind === 'rect') context.rect(mark.x, mark.y, mark.width, mark.height);
  else {
    mark.points.forEach(([px, py], i) => (i ? context.lineTo(px, py) : context.moveTo(px, py)));
    if (mark.closed) context.closePath();
  }
  if (mark.fill) {
    context.fillStyle = mark.fill;
    context.fill();
  }
  if (mark.stroke) {
    context.strokeStyle = mark.stroke;
    context.lineWidth = mark.strokeWidth ?? 1;
    context.stroke();
  }
}
