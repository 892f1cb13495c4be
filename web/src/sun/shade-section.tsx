import { formatArea, formatClock, type SetMoment, type ShadeOn } from '@dial-shade/core';
import { Download } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { shortDate } from '../almanac/wording';
import { CheckField, ChoiceField, Section } from '../app/fields';
import { saveCsv, saveFile } from '../app/save-file';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { useDocument } from '../state/project-store';
import { useMoment, useView } from '../state/view-store';
import { computeWith } from '../workers/compute';
import type { ShadowsFound } from '../workers/compute-worker';
import { measureShade, useShade } from './shade-store';
import { useMomentSet } from './use-moment-set';

const CHOICES: { value: ShadeOn | 'none'; name: string }[] = [
  { value: 'none', name: 'Not measured' },
  { value: 'areas', name: 'Areas that matter' },
  { value: 'ground', name: 'The ground' },
  { value: 'roofs', name: 'Roofs' },
  { value: 'facades', name: 'Facades' },
];

const FILES = [
  { name: 'areas.csv', type: 'text/csv', label: 'CSV' },
  { name: 'shadows.svg', type: 'image/svg+xml', label: 'SVG' },
  { name: 'shadows.dxf', type: 'image/vnd.dxf', label: 'DXF' },
  { name: 'shadows.geojson', type: 'application/geo+json', label: 'GeoJSON' },
] as const;

/** Moments of a set that the page measures; longer ones are for the command line. */
const MAX_MEASURED = 100;
/** Rows that the sheet lists. */
const LISTED = 40;

/** Exact shade of the moment at hand, or of the chosen set, as areas, outlines on the board and drawings. */
export function ShadeSection() {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const optionId = useView((view) => view.optionId);
  const atMs = useMoment();
  const { set, moments } = useMomentSet();
  const { on, found, refused } = useShade();
  const [isOfSet, setOfSet] = useState(false);
  const isTooLong = moments.length > MAX_MEASURED;
  const ofSet = isOfSet && moments.length > 0 && !isTooLong;
  const asked = useMemo(
    () => (ofSet ? moments.map((moment) => moment.atMs) : [atMs]),
    [ofSet, moments, atMs],
  );

  useEffect(() => {
    void measureShade(on && { optionId, moments: asked, on });
  }, [project, meshes, optionId, asked, on]);
  useEffect(() => () => void measureShade(null), []);

  return (
    <Section title="Shade in figures">
      <ChoiceField
        label="Shade on"
        value={on ?? 'none'}
        choices={CHOICES}
        commit={(value) => useShade.setState({ on: value === 'none' ? null : value })}
      />
      {on && (
        <>
          <CheckField
            label={
              set ? `All ${moments.length} moments of “${set.name}”` : 'All moments of a set (choose one)'
            }
            checked={ofSet}
            disabled={moments.length === 0 || isTooLong}
            change={(is) => setOfSet(is)}
          />
          {isTooLong && (
            <p className="visually-quiet">
              Sets of more than {MAX_MEASURED} moments are measured on the command line (dial shadows).
            </p>
          )}
          {refused && <p className="visually-quiet">{refused}</p>}
          {found && <ShadeRows found={found} moments={ofSet ? moments : null} />}
          <p className="visually-quiet mb-1">
            Full shade only: crowns and fences let light through and are not counted; the drawings hold their
            paler regions. What is new is filled in the sun’s colour on the board.
          </p>
          {found && <ShadeFiles optionId={optionId} moments={asked} on={on} />}
        </>
      )}
    </Section>
  );
}

function ShadeRows({ found, moments }: { found: ShadowsFound; moments: readonly SetMoment[] | null }) {
  const { units } = useDocument();
  const { rows } = found;
  if (rows.every(({ shadedM2 }) => shadedM2 === null))
    return <p className="visually-quiet">The sun is below the horizon.</p>;
  return (
    <>
      <table className="figures compact" data-testid="shade-table">
        <thead>
          <tr>
            <th>{moments ? 'Moment, on' : 'On'}</th>
            <th>Shaded</th>
            <th>%</th>
            <th title="Shaded now and not today">New</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, LISTED).map((row, i) => {
            const moment = moments?.[row.moment];
            return (
              <tr key={i}>
                <td>
                  {moment && `${shortDate(moment.date)} ${formatClock(moment.minutes)}, `}
                  {row.name}
                </td>
                <td>{row.shadedM2 === null ? '–' : formatArea(row.shadedM2, units)}</td>
                <td>
                  {row.shadedM2 === null || row.totalM2 === 0
                    ? '–'
                    : Math.round((100 * row.shadedM2) / row.totalM2)}
                </td>
                <td>{row.newlyM2 === null ? '–' : formatArea(row.newlyM2, units)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {rows.length > LISTED && (
        <p className="visually-quiet m-0">and {rows.length - LISTED} more, all in the CSV</p>
      )}
    </>
  );
}

/** Takes the shade out as drawings and tables. */
function ShadeFiles(wish: { optionId: string; moments: number[]; on: ShadeOn }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const [isBusy, setBusy] = useState(false);
  const save = async ({ name, type }: (typeof FILES)[number]) => {
    setBusy(true);
    try {
      const made = await computeWith(project, meshes).shadows(wish.optionId, wish.moments, wish.on, true);
      if ('refused' in made) notify(made.refused, true);
      else if (name === 'areas.csv') saveCsv(made.files![name], name);
      else saveFile(made.files![name], name, type);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="d-flex gap-1 flex-wrap mt-1">
      {FILES.map((file) => (
        <button
          key={file.name}
          className="btn btn-quiet btn-sm"
          disabled={isBusy}
          onClick={() => void save(file)}
        >
          <Download size={13} /> {file.label}
        </button>
      ))}
    </div>
  );
}
