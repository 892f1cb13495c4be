import { notify } from '../state/notice-store';
import { saveFile } from './save-file';

/** A chart as it stands on the page, with the colours of its theme written into it. */
function svgText(svg: SVGSVGElement): string {
  const style = getComputedStyle(document.documentElement);
  const [, , width, height] = svg.getAttribute('viewBox')!.split(' ').map(Number);
  const copy = svg.cloneNode(true) as SVGSVGElement;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', `${width}mm`);
  copy.setAttribute('height', `${height}mm`);
  copy.setAttribute('font-family', 'sans-serif');
  copy.removeAttribute('class');
  return new XMLSerializer()
    .serializeToString(copy)
    .replaceAll(/var\((--[\w-]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim() || '#000');
}

/** Saves a chart as an SVG file. */
export function saveSvg(svg: SVGSVGElement, name: string): void {
  saveFile(svgText(svg), `${name}.svg`, 'image/svg+xml');
}

/** Saves a chart as a PNG file of a width in pixels, on the paper of the theme. */
export async function savePng(svg: SVGSVGElement, name: string, widthPx = 1600): Promise<void> {
  const [, , width, height] = svg.getAttribute('viewBox')!.split(' ').map(Number) as [0, 0, number, number];
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgText(svg))}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = widthPx;
  canvas.height = Math.round((widthPx * height) / width);
  const context = canvas.getContext('2d')!;
  context.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--sheet').trim() || '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (blob) saveFile(blob, `${name}.png`, 'image/png');
  else notify('The browser could not make the picture; save it as SVG instead.', true);
}
