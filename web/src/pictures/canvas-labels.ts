import type { Label, LabelMaker } from '../board/label-layer';
import { SCENE } from '../theme/palette';
import { type Context2d, FONT } from './marks';

interface Drawn {
  label: Label;
  place: { x: number; y: number } | null;
}

const isOf = (label: Label, name: string) => label.className?.split(' ').includes(name) ?? false;
const sizeOf = (label: Label) => (isOf(label, 'north') ? 15.2 : isOf(label, 'value') ? 10.2 : 12.2);

/** Labels as text on a canvas, enlarged by a scale; `paint` draws those that have a place. */
export function canvasLabels(
  context: Context2d,
  scale: number,
): LabelMaker<Drawn> & { paint: (x: number, y: number) => void } {
  const drawn = new Set<Drawn>();
  const setFont = (label: Label) =>
    (context.font = `${isOf(label, 'north') ? 750 : 450} ${sizeOf(label) * scale}px ${FONT}`);
  return {
    make(label) {
      const mark: Drawn = { label, place: null };
      drawn.add(mark);
      return mark;
    },
    sizeOf({ label }) {
      setFont(label);
      return { width: context.measureText(label.text).width, height: sizeOf(label) * 1.35 * scale };
    },
    put: (mark, place) => void (mark.place = place),
    remove: (mark) => void drawn.delete(mark),
    paint(x, y) {
      context.textAlign = 'center';
      context.textBaseline = 'middle';
      for (const { label, place } of drawn) {
        if (!place) continue;
        setFont(label);
        const isProbe = isOf(label, 'probe');
        if (isProbe) {
          context.beginPath();
          context.arc(x + place.x, y + place.y, 8.5 * scale, 0, Math.PI * 2);
          context.fillStyle = SCENE.light.accent;
          context.fill();
        }
        const isDimension = isOf(label, 'dimension');
        if (isDimension) {
          const { width } = context.measureText(label.text);
          const [w, h] = [width + 10 * scale, sizeOf(label) * 1.45 * scale];
          context.fillStyle = SCENE.light.ink;
          context.fillRect(x + place.x - w / 2, y + place.y - h / 2, w, h);
        }
        context.fillStyle = isDimension
          ? '#fffdf8'
          : isProbe
            ? '#fff'
            : isOf(label, 'north')
              ? '#8a5a00'
              : isOf(label, 'value')
                ? SCENE.light.ink
                : '#5d584e';
        context.fillText(label.text, x + place.x, y + place.y);
      }
    },
  };
}
