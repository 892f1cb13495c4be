import { Modal } from 'react-bootstrap';
import { ImportPreview } from './import-preview';
import { useImport } from './use-import';

/** Brings a model file in: what it holds, how large it will be and what each part becomes are shown before anything changes. */
export function ImportDialog({ show, onClose }: { show: boolean; onClose: () => void }) {
  const { step, choices, setChoices, taken, changes, drawn, readNew, readAgain, accept, close } =
    useImport(onClose);
  return (
    <Modal show={show} onHide={close} animation={false} aria-labelledby="import-title" size="lg">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="import-title" className="h6">
          Bring in a model
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {step.kind === 'choose' && (
          <>
            <p>
              OBJ, STL, GLB, GeoJSON, CityJSON, IFC or DXF; heights as ASC, XYZ, GeoTIFF or LandXML. Nothing
              changes before you have seen what the file holds and how large it is.
            </p>
            <input
              type="file"
              accept=".obj,.stl,.glb,.geojson,.geojsons,.geojsonl,.json,.jsonl,.cityjson,.ifc,.dxf,.asc,.grd,.xyz,.pts,.txt,.csv,.tif,.tiff,.xml,.landxml"
              className="form-control"
              aria-label="Model file"
              onChange={(event) => readNew(event.target.files?.[0])}
            />
            {step.wrong && (
              <p role="alert" className="mt-2 mb-0" style={{ color: 'var(--alarm)' }}>
                {step.wrong}
              </p>
            )}
          </>
        )}
        {step.kind === 'reading' && (
          <>
            <p>Reading “{step.file}” …</p>
            <div className="progress-line" role="progressbar" aria-valuenow={Math.round(step.share * 100)}>
              <div style={{ width: `${step.share * 100}%` }} />
            </div>
            <button className="btn btn-quiet" onClick={close}>
              Stop
            </button>
          </>
        )}
        {step.kind === 'preview' && (
          <ImportPreview
            preview={step.preview}
            before={step.before}
            changes={changes}
            choices={choices}
            taken={taken}
            drawn={drawn}
            onDrawn={readAgain}
            onChange={setChoices}
          />
        )}
        {step.kind === 'sending' && <p>Placing the model …</p>}
      </Modal.Body>
      {step.kind === 'preview' && (
        <Modal.Footer>
          <button className="btn btn-quiet" onClick={close}>
            Leave it
          </button>
          <button className="btn btn-sunlit" onClick={() => void accept()}>
            {choices.again ? 'Read again' : 'Bring in'}
          </button>
        </Modal.Footer>
      )}
    </Modal>
  );
}
