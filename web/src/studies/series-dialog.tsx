import { csvText, type Series, seriesMeans, seriesSvg, type StudyResult } from '@dial-shade/core';
import { Download } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { savePng } from '../app/save-chart';
import { saveCsv, saveFile } from '../app/save-file';
import { useDocument } from '../state/project-store';

/** A result month by month, or hour by hour: small maps on one scale. */
export function SeriesDialog({
  result,
  series,
  title,
  onHide,
}: {
  result: StudyResult;
  series: Series;
  title: string;
  onHide: () => void;
}) {
  const project = useDocument();
  const text = useMemo(() => seriesSvg(project, result, series), [project, result, series]);
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    const made = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }));
    // An address is made and given back with the picture it shows; nothing else can hold it.
    // oxlint-disable-next-line react/set-state-in-effect
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [text]);
  const { summary } = result;
  const name = `${summary.study}_${summary.option}_${series}s`.replaceAll(/[^\p{L}\p{N}_-]+/gu, '-');
  const csv = () => {
    const means = seriesMeans(result, series);
    return csvText([
      [series, `mean (${means[0]!.measure.unit})`],
      ...means.map(({ measure, mean }) => [measure.label, Number(mean.toFixed(4))]),
    ]);
  };
  const png = () =>
    savePng(
      new DOMParser().parseFromString(text, 'image/svg+xml').documentElement as unknown as SVGSVGElement,
      name,
      3200,
    );
  const button = (kind: string, save: () => void) => (
    <button className="btn btn-quiet btn-sm" onClick={save}>
      <Download size={12} /> {kind}
    </button>
  );
  return (
    <Modal show onHide={onHide} animation={false} size="xl" scrollable aria-labelledby="series-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="series-title" className="h6">
          {summary.study} – {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {url && <img className="series-maps" src={url} alt={`Small maps of ${summary.study}, ${title}`} />}
      </Modal.Body>
      <Modal.Footer>
        {button('SVG', () => saveFile(text, `${name}.svg`, 'image/svg+xml'))}
        {button('PNG', () => void png())}
        {button('Means as CSV', () => saveCsv(csv(), `${name}.csv`))}
      </Modal.Footer>
    </Modal>
  );
}
