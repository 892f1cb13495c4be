import type { Project } from '@dial-shade/core';
import { SCENE } from '../theme/palette';
import type { Mark } from './marks';
import { type PictureView, scaleBarLength, stripTexts } from './picture';

/** Height of the strip at a scale of one, pixels. */
export const STRIP_PX = 46;
const SOFT = '#6c675c';

/** What a strip needs to know of its picture at a scale of one. */
export interface StripAsked {
  width: number;
  /** Metres that a pixel stands for, where the view has a scale; null otherwise. */
  metresPerPixel: number | null;
  /** Way to true north in the picture, radians clockwise from up, where it is seen from above; null otherwise. */
  northUp: number | null;
}

/** The strip below a picture: project, place, option, viewpoint, moment, sun, north and scale. */
export function stripMarks(
  project: Project,
  views: readonly PictureView[],
  { width, metresPerPixel, northUp }: StripAsked,
): Mark[] {
  const { ink } = SCENE.light;
  const marks: Mark[] = [
    {
      kind: 'path',
      points: [
        [0, 0.5],
        [width, 0.5],
      ],
      stroke: ink,
      strokeWidth: 1,
    },
  ];
  const right = width - 12 - (northUp === null ? 0 : 34) - (metresPerPixel === null ? 0 : width * 0.14);
  const texts = stripTexts(project, views);
  const columns = [12, 12 + (right - 12) * 0.3, 12 + (right - 12) * 0.54];
  texts.forEach(([first, second], i) => {
    const x = columns[i]!;
    marks.push({ kind: 'text', x, y: 19, text: first, size: 13, fill: ink, weight: i === 2 ? 600 : 650 });
    marks.push({ kind: 'text', x, y: 35, text: second, size: 11, fill: SOFT });
  });
  if (metresPerPixel !== null) {
    const length = scaleBarLength(width * metresPerPixel);
    const px = length / metresPerPixel;
    const x = width - 12 - (northUp === null ? 0 : 34) - px;
    for (let i = 0; i < 2; i++)
      marks.push({
        kind: 'rect',
        x: x + (i * px) / 2,
        y: 26,
        width: px / 2,
        height: 5,
        fill: i ? '#ffffff' : ink,
        stroke: ink,
        strokeWidth: 0.8,
      });
    marks.push({ kind: 'text', x: x + px, y: 20, text: `${length} m`, size: 11, fill: ink, anchor: 'end' });
    marks.push({ kind: 'text', x, y: 20, text: '0', size: 11, fill: ink });
  }
  if (northUp !== null) marks.push(...northArrow(width - 24, 23, northUp));
  return marks;
}

function northArrow(x: number, y: number, angle: number): Mark[] {
  const at = (along: number, across: number): [number, number] => [
    x + along * Math.sin(angle) + across * Math.cos(angle),
    y - along * Math.cos(angle) + across * Math.sin(angle),
  ];
  const { ink } = SCENE.light;
  const [tx, ty] = at(17, 0);
  return [
    { kind: 'path', points: [at(-12, 0), at(10, 0)], stroke: ink, strokeWidth: 1.2 },
    { kind: 'path', points: [at(11, 0), at(3, -4), at(3, 4)], closed: true, fill: ink },
    { kind: 'text', x: tx, y: ty + 4, text: 'N', size: 11, weight: 700, fill: ink, anchor: 'middle' },
  ];
}
