import { resultScale, type Series, seriesIn, type StudyResult } from '@dial-shade/core';
import { ChevronDown, Download, Eye, LayoutGrid, Table2 } from 'lucide-react';
import { useState } from 'react';
import { Dropdown } from 'react-bootstrap';
import { focusedView } from '../board/pane-registry';
import { useActiveStudy } from '../state/active-study';
import { currentProject } from '../state/project-store';
import { useView } from '../state/view-store';
import { asShown } from './as-shown';
import type { ResultFormat } from './save-result';
import { SeriesDialog } from './series-dialog';

/** Looks at where a result lies, or at its figures. */
export function ResultButtons({ result, openTable }: { result: StudyResult; openTable: () => void }) {
  const { positions, normals } = result.grid;
  return (
    <>
      <button
        className="btn btn-quiet"
        title="Turn the view to where most of the result is seen"
        onClick={() => focusedView()?.lookAtPlaces(positions, normals)}
      >
        <Eye size={13} /> Look at it
      </button>
      <button className="btn btn-quiet" onClick={openTable}>
        <Table2 size={13} /> Table
      </button>
      {seriesIn(result).map((series) => (
        <SeriesButton key={series} series={series} result={result} />
      ))}
      <SaveMenu result={result} />
    </>
  );
}

/** Takes a result out as it is looked at. */
function SaveMenu({ result }: { result: StudyResult }) {
  const study = useActiveStudy();
  const shown = useView((view) => (study ? view.shownMeasure[study.id] : undefined));
  const save = async (format: ResultFormat) => {
    const looked = asShown(result, { measure: shown, before: null });
    const { saveResult } = await import('./save-result');
    await saveResult(format, currentProject(), looked, resultScale(looked, study?.scale ?? null));
  };
  return (
    <Dropdown>
      <Dropdown.Toggle bsPrefix="btn btn-quiet" aria-label="Save the result">
        <Download size={13} /> Save <ChevronDown size={12} />
      </Dropdown.Toggle>
      <Dropdown.Menu>
        {(['CSV', 'GeoJSON', 'GLB', 'SVG', 'PNG', 'JSON'] as const).map((format) => (
          <Dropdown.Item key={format} as="button" onClick={() => void save(format)}>
            {FORMATS[format]}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}

const FORMATS: Record<ResultFormat, string> = {
  CSV: 'Points as CSV',
  GeoJSON: 'Cells as GeoJSON',
  GLB: 'Coloured cells as GLB',
  SVG: 'Map as SVG',
  PNG: 'Map as PNG',
  JSON: 'Summary as JSON',
};

const BY = {
  month: { button: 'Months', title: 'month by month' },
  hour: { button: 'Hours', title: 'hour by hour of the day' },
} as const;

/** Opens the maps of a series side by side. */
function SeriesButton({ series, result }: { series: Series; result: StudyResult }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button className="btn btn-quiet" onClick={() => setOpen(true)}>
        <LayoutGrid size={13} /> {BY[series].button}
      </button>
      {isOpen && (
        <SeriesDialog
          series={series}
          result={result}
          title={BY[series].title}
          onHide={() => setOpen(false)}
        />
      )}
    </>
  );
}
