import { formatLength, type MomentReading, momentsCsv, tabsOf, wrap360 } from '@dial-shade/core';
import { Clipboard, Download } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { ChoiceField, LengthField } from '../app/fields';
import { saveCsv } from '../app/save-file';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { computeWith } from '../workers/compute';
import { useMomentSet } from './use-moment-set';

const degrees = (value: number | null) => (value === null ? '–' : `${value.toFixed(1).replace('-', '−')}°`);

/** The chosen set as a table: sun, shadow angles of the chosen wall, length of a shadow, sun at a probe. */
export function MomentTable({ onHide }: { onHide: () => void }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const { set } = useMomentSet();
  const optionId = useView((view) => view.optionId);
  const bearing = useView((view) => view.selection?.wallBearingDeg ?? null);
  const [stickM, setStick] = useState(1);
  const [probeId, setProbe] = useState('');
  const [found, setFound] = useState<{ readings: MomentReading[]; owners: string[] } | null>(null);
  const probe = project.probes.find(({ id }) => id === probeId) ?? null;
  const facade = bearing === null ? null : wrap360(bearing - project.site.north.trueNorthDeg);

  useEffect(() => {
    if (!set) return;
    let isWanted = true;
    void computeWith(project, meshes)
      .moments(optionId, set.id, { facadeAzimuthDeg: facade, stickM, probe: probe?.id ?? null })
      .then((made) => {
        if (!isWanted) return;
        if ('refused' in made) notify(made.refused, true);
        else setFound(made);
      });
    return () => void (isWanted = false);
  }, [project, meshes, optionId, set, facade, stickM, probe]);

  const csv = () => momentsCsv(found?.readings ?? [], (owner) => found!.owners[owner]!);
  const copy = () =>
    navigator.clipboard.writeText(tabsOf(csv())).then(
      () => notify('The table is copied; paste it into any text or sheet.'),
      () => notify('The browser does not let the page copy; save the table instead.', true),
    );
  return (
    <Modal show onHide={onHide} animation={false} size="xl" scrollable aria-labelledby="moments-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="moments-title" className="h6">
          {set?.name}, times {set?.basis === 'solar' ? 'by the sun' : 'by the clock'}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <div className="d-flex gap-4 flex-wrap">
          <LengthField
            label="Height of the stick"
            value={stickM}
            commit={(next) => {
              if (!(next > 0 && next <= 1000)) return 'The stick is between 0 and 1,000 m high.';
              setStick(next);
              return null;
            }}
          />
          {project.probes.length > 0 && (
            <ChoiceField
              label="Sun at"
              value={probeId}
              choices={[
                { value: '', name: 'no point' },
                ...project.probes.map(({ id, number }) => ({ value: id, name: `Probe ${number}` })),
              ]}
              commit={setProbe}
            />
          )}
          <span className="visually-quiet align-self-center">
            {facade === null
              ? 'Choose a wall on the board for its shadow angles.'
              : `Shadow angles of the chosen wall, which faces ${degrees(facade)}.`}
          </span>
        </div>
        {found && <Rows {...found} hasFacade={facade !== null} hasPoint={probe !== null} />}
      </Modal.Body>
      <Modal.Footer>
        <button className="btn btn-quiet" disabled={!found} onClick={() => void copy()}>
          <Clipboard size={14} /> Copy as text
        </button>
        <button className="btn btn-quiet" disabled={!found} onClick={() => saveCsv(csv(), 'moments.csv')}>
          <Download size={14} /> Save as CSV
        </button>
        <button className="btn btn-sunlit" onClick={onHide}>
          Close
        </button>
      </Modal.Footer>
    </Modal>
  );
}

function Rows({
  readings,
  owners,
  hasFacade,
  hasPoint,
}: {
  readings: MomentReading[];
  owners: string[];
  hasFacade: boolean;
  hasPoint: boolean;
}) {
  const { units } = useDocument();
  const hasNote = readings.some(({ note }) => note);
  return (
    <table className="figures" data-testid="moment-table">
      <thead>
        <tr>
          <th>Date</th>
          <th>Clock</th>
          <th>Solar</th>
          <th>Altitude</th>
          <th>Azimuth</th>
          {hasFacade && <th>HSA</th>}
          {hasFacade && <th>VSA</th>}
          <th>Shadow</th>
          {hasPoint && <th>Sun there</th>}
          {hasNote && <th>Note</th>}
        </tr>
      </thead>
      <tbody>
        {readings.map((r, i) => (
          <tr key={i}>
            <td>{r.date}</td>
            <td>{r.clock}</td>
            <td>{r.solar}</td>
            <td>{degrees(r.altitudeDeg)}</td>
            <td>{degrees(r.azimuthDeg)}</td>
            {hasFacade && <td>{degrees(r.hsaDeg)}</td>}
            {hasFacade && <td>{degrees(r.vsaDeg)}</td>}
            <td>{r.shadowM === null ? '–' : formatLength(r.shadowM, units, 2)}</td>
            {hasPoint && <td>{sunThere(r, owners)}</td>}
            {hasNote && <td>{r.note ?? ''}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function sunThere({ sun, owner, altitudeDeg }: MomentReading, owners: string[]): string {
  if (altitudeDeg <= 0) return '–';
  const by = owner === null ? '' : `, ${owners[owner]}`;
  if (sun === 1) return 'sun';
  return sun! > 0 ? `${Math.round(sun! * 100)} %${by}` : `shade${by}`;
}
