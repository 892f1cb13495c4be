import {
  readingOrder,
  readMeasure,
  sensorsCsv,
  shownMeasure,
  shownValues,
  measuresIn,
  type StudyResult,
  summaryRows,
} from '@dial-shade/core';
import { Download } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { saveCsv } from '../app/save-file';
import { useDocument } from '../state/project-store';

/** Points that are listed one by one, at most; the file has all. */
const LISTED = 300;

type Order = 'least' | 'most' | 'place';

/** A result in figures: by target, and point by point; taken out as CSV. */
export function ResultTable({
  result,
  atLeast,
  onHide,
}: {
  result: StudyResult;
  atLeast: number;
  onHide: () => void;
}) {
  const { options } = useDocument();
  const option = options.find(({ id }) => id === result.summary.option);
  const [order, setOrder] = useState<Order>('least');
  const { grid, summary } = result;
  const values = shownValues(result);
  const points = useMemo(() => {
    const all = Array.from(readingOrder(grid)).filter((i) => !Number.isNaN(values[i]!));
    if (order !== 'place') {
      const way = order === 'least' ? 1 : -1;
      all.sort((a, b) => way * (values[a]! - values[b]!));
    }
    return all;
  }, [grid, values, order]);
  const save = () => saveCsv(sensorsCsv(summary.kind, grid, result.values), 'sensors.csv');
  return (
    <Modal show onHide={onHide} animation={false} size="xl" scrollable aria-labelledby="table-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="table-title" className="h6">
          {result.summary.study}
          {option && ` – ${option.letter} ${option.name}`}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <TargetRows result={result} atLeast={atLeast} />
        <div className="d-flex align-items-center gap-2 mt-3 mb-1">
          <label htmlFor="table-order">Points by</label>
          <select
            id="table-order"
            className="form-select w-auto"
            value={order}
            onChange={(event) => setOrder(event.target.value as Order)}
          >
            <option value="least">least first</option>
            <option value="most">most first</option>
            <option value="place">place, row by row</option>
          </select>
          <span className="visually-quiet">
            {points.length > LISTED
              ? `${LISTED} of ${points.length.toLocaleString('en')}; the file has all`
              : `${points.length} points`}
          </span>
        </div>
        <PointRows result={result} points={points.slice(0, LISTED)} />
      </Modal.Body>
      <Modal.Footer>
        <button className="btn btn-quiet" onClick={save}>
          <Download size={14} /> Save as CSV
        </button>
        <button className="btn btn-sunlit" onClick={onHide}>
          Close
        </button>
      </Modal.Footer>
    </Modal>
  );
}

/** A line for each target. */
function TargetRows({ result, atLeast }: { result: StudyResult; atLeast: number }) {
  const { targets, grid, summary } = result;
  const measure = shownMeasure(result);
  const rows = summaryRows({ targets, grid, values: shownValues(result) }, atLeast);
  return (
    <table className="figures" data-testid="result-table">
      <thead>
        <tr>
          <th>Target</th>
          <th>Points</th>
          <th>Area m²</th>
          <th>Least {measure.unit}</th>
          <th>Mean {measure.unit}</th>
          <th>Most {measure.unit}</th>
          {summary.energy && <th>kWh</th>}
          <th>
            At least {atLeast} {measure.unit}
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id}>
            <td>{row.name}</td>
            <td>{row.sensors.toLocaleString('en')}</td>
            <td>{row.areaM2.toFixed(1)}</td>
            <td>{readMeasure(measure, row.min)}</td>
            <td>{readMeasure(measure, row.mean)}</td>
            <td>{readMeasure(measure, row.max)}</td>
            {summary.energy && (
              <td>
                {Math.round(summary.targets.find(({ id }) => id === row.id)?.energy?.kWh ?? 0).toLocaleString(
                  'en',
                )}
              </td>
            )}
            <td>{(row.share * 100).toFixed(1)} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A line for each of some points. */
function PointRows({ result, points }: { result: StudyResult; points: readonly number[] }) {
  const { units } = useDocument();
  const { grid, values, targets, summary } = result;
  const measures = measuresIn(summary.kind, values).filter(({ series }) => !series);
  const coordinate = (value: number) => (units === 'metric' ? value : value / 0.3048).toFixed(2);
  return (
    <table className="figures">
      <thead>
        <tr>
          <th>Target</th>
          <th>x, y, z {units === 'metric' ? 'm' : 'ft'}</th>
          {measures.map(({ key, label, unit, reads, definition }) => (
            <th key={key} title={definition}>
              {label} {!reads && unit}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {points.map((i) => (
          <tr key={i}>
            <td>{targets[grid.target[i]!]!.name}</td>
            <td>{[0, 1, 2].map((k) => coordinate(grid.positions[i * 3 + k]!)).join(', ')}</td>
            {measures.map((measure) => (
              <td key={measure.key}>{readMeasure(measure, values[measure.key]![i]!)}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
