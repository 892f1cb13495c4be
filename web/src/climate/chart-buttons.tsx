import { Download } from 'lucide-react';
import type { RefObject } from 'react';
import { savePng, saveSvg } from '../app/save-chart';
import { saveCsv } from '../app/save-file';

/** Takes a chart out, as a drawing, as a picture, or in figures. */
export function ChartButtons({
  svg,
  name,
  csv,
}: {
  svg: RefObject<SVGSVGElement | null>;
  /** Name of the files, without ending. */
  name: string;
  csv: () => string;
}) {
  const button = (kind: string, save: () => void) => (
    <button className="btn btn-quiet btn-sm" aria-label={`${name} as ${kind}`} onClick={save}>
      <Download size={12} /> {kind}
    </button>
  );
  return (
    <div className="d-flex gap-1 mb-2">
      {button('SVG', () => saveSvg(svg.current!, name))}
      {button('PNG', () => void savePng(svg.current!, name))}
      {button('CSV', () => saveCsv(csv(), `${name}.csv`))}
    </div>
  );
}
