import { formatClock, readingOrder, sensorsCsv, type SunHoursResult, summaryRows } from '@dial-shade/core';
import { Download } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { saveFile } from '../app/save-file';
import { useDocument } from '../state/project-store';

/** Points that are listed one by one, at most; the file has all. */
const LISTED = 300;

type Order = 'least' | 'most' | 'place';

/** A result in figures: by target, and point by point; taken out as CSV. */
export function ResultTable({
  result,
  atLeastH,
  onHide,
}: {
  result: SunHoursResult;
  atLeastH: number;
  onHide: () => void;
}) {
  const { options } = useDocument();
  const option = options.find(({ id }) => id === result.summary.option);
  const [order, setOrder] = useState<Order>('least');
  const { grid, values } = result;
  const points = useMemo(() => {
    const all = Array.from(readingOrder(grid)).filter((i) => !Number.isNaN(values.hours[i]!));
    if (order !== 'place') {
      const way = order === 'least' ? 1 : -1;
      all.sort((a, b) => way * (values.hours[a]! - values.hours[b]!));
    }
    return all;
  }, [grid, values, order]);
  const save = () => saveFile(sensorsCsv(grid, values), 'sensors.csv', 'text/csv');
  return (
    <Modal show onHide={onHide} animation={false} size="lg" scrollable aria-labelledby="table-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="table-title" className="h6">
          {result.summary.study}
          {option && ` – ${option.letter} ${option.name}`}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <TargetRows result={result} atLeastH={atLeastH} />
        <div className="d-flex align-items-center gap-2 mt-3 mb-1">
          <label htmlFor="table-order">Points by</label>
          <select
            id="table-order"
            className="form-select w-auto"
            value={order}
            onChange={(event) => setOrder(event.target.value as Order)}
          >
            <option value="least">least sun first</option>
            <option value="most">most sun first</option>
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
function TargetRows({ result, atLeastH }: { result: SunHoursResult; atLeastH: number }) {
  const rows = useMemo(() => summaryRows(result, atLeastH), [result, atLeastH]);
  return (
    <table className="figures" data-testid="result-table">
      <thead>
        <tr>
          <th>Target</th>
          <th>Points</th>
          <th>Area m²</th>
          <th>Least h</th>
          <th>Mean h</th>
          <th>Most h</th>
          <th>At least {atLeastH} h</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id}>
            <td>{row.name}</td>
            <td>{row.sensors.toLocaleString('en')}</td>
            <td>{row.areaM2.toFixed(1)}</td>
            <td>{row.minH.toFixed(2)}</td>
            <td>{row.meanH.toFixed(2)}</td>
            <td>{row.maxH.toFixed(2)}</td>
            <td>{(row.share * 100).toFixed(1)} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A line for each of some points. */
function PointRows({ result, points }: { result: SunHoursResult; points: readonly number[] }) {
  const { units } = useDocument();
  const { grid, values, targets } = result;
  const clock = (minutes: number) => (Number.isNaN(minutes) ? '–' : formatClock(minutes));
  const coordinate = (value: number) => (units === 'metric' ? value : value / 0.3048).toFixed(2);
  return (
    <table className="figures">
      <thead>
        <tr>
          <th>Target</th>
          <th>x, y, z {units === 'metric' ? 'm' : 'ft'}</th>
          <th>Sun h</th>
          <th>Longest h</th>
          <th>First</th>
          <th>Last</th>
        </tr>
      </thead>
      <tbody>
        {points.map((i) => (
          <tr key={i}>
            <td>{targets[grid.target[i]!]!.name}</td>
            <td>{[0, 1, 2].map((k) => coordinate(grid.positions[i * 3 + k]!)).join(', ')}</td>
            <td>{values.hours[i]!.toFixed(2)}</td>
            <td>{values.longest[i]!.toFixed(2)}</td>
            <td>{clock(values.first[i]!)}</td>
            <td>{clock(values.last[i]!)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
