import {
  type Becomes,
  type ImportChoices,
  type Mesh,
  MAX_MODEL_BYTES,
  type ModelRow,
  TODAY,
  type UpAxis,
} from '@dial-shade/core';
import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { api } from '../state/api';
import { rememberMesh } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { openReader } from '../workers/compute';
import type { ModelPreview } from '../workers/compute-worker';
import { ImportPreview } from './import-preview';

type Step =
  | { kind: 'choose'; wrong: string | null }
  | { kind: 'reading'; share: number; file: string }
  | { kind: 'preview'; preview: ModelPreview; file: string }
  | { kind: 'sending' };

/** Time that reading may take, and more for each megabyte; then the reader is ended. */
const LEAST_MS = 30_000;
const PER_MB_MS = 4_000;

const BLANK: ImportChoices = {
  randomIds: true,
  unit: 'm',
  up: 'z',
  becomes: {},
  optionId: TODAY,
  heightProperty: null,
  heightM: 6,
  takeSite: false,
  name: 'Model',
  centre: false,
};

/** Brings a model file in: what it holds, how large it will be and what each part becomes are shown before anything changes. */
export function ImportDialog({ show, onClose }: { show: boolean; onClose: () => void }) {
  const project = useDocument();
  const shown = useView((v) => v.optionId);
  const [step, setStep] = useState<Step>({ kind: 'choose', wrong: null });
  const [choices, setChoices] = useState<ImportChoices>(BLANK);
  const reader = useRef<ReturnType<typeof openReader> | null>(null);
  const limit = useRef<number | undefined>(undefined);

  const endReader = () => {
    clearTimeout(limit.current);
    reader.current?.end();
    reader.current = null;
  };
  useEffect(() => endReader, []);

  const close = () => {
    endReader();
    setStep({ kind: 'choose', wrong: null });
    onClose();
  };
  const refuse = (wrong: string) => {
    endReader();
    setStep({ kind: 'choose', wrong });
  };

  const read = async (file: File | undefined) => {
    if (!file) return;
    const mb = file.size / 1048576;
    if (file.size > MAX_MODEL_BYTES) {
      refuse(
        `“${file.name}” has ${Math.round(mb)} MB; at most ${MAX_MODEL_BYTES / 1048576} MB can be read. Leave out what is far from the site.`,
      );
      return;
    }
    setStep({ kind: 'reading', share: 0, file: file.name });
    endReader();
    const opened = openReader();
    reader.current = opened;
    limit.current = window.setTimeout(
      () =>
        refuse(
          `“${file.name}”: reading it did not come to an end; it is probably not sound. Export it again.`,
        ),
      LEAST_MS + mb * PER_MB_MS,
    );
    const bytes = new Uint8Array(await file.arrayBuffer());
    const answer = await opened.remote.readModel(
      bytes,
      file.name,
      proxy((share: number) => setStep((now) => (now.kind === 'reading' ? { ...now, share } : now))),
    );
    if (reader.current !== opened) return;
    clearTimeout(limit.current);
    if ('refused' in answer) {
      refuse(`“${file.name}”: ${answer.refused}`);
      return;
    }
    const up: UpAxis = answer.up ?? 'z';
    const proposal =
      project.options.find((o) => o.id === shown && o.id !== TODAY) ??
      project.options.find((o) => o.id !== TODAY);
    setChoices({
      ...BLANK,
      up,
      unit: answer.unit ?? answer.likely[up],
      becomes: Object.fromEntries(answer.rows.map((row) => [row.key, row.likely])),
      optionId: proposal?.id ?? TODAY,
      heightProperty: answer.heightProperty,
      name: file.name.replace(/\.[a-z]+$/i, '').slice(0, 80) || 'Model',
    });
    setStep({ kind: 'preview', preview: answer, file: file.name });
  };

  const accept = async () => {
    if (step.kind !== 'preview') return;
    const before = step;
    setStep({ kind: 'sending' });
    try {
      const based = currentProject();
      const named = nameRows(before.preview.rows, choices);
      const answer = await reader.current!.remote.importModel(based, named);
      if ('refused' in answer) throw new Error(answer.refused);
      for (const [hash, mesh] of answer.meshes) await send(hash, mesh);
      const refused = edit(`bring in ${before.file}`, () => answer.project, { quiet: true });
      if (refused) throw new Error(refused);
      const fresh = answer.project.neighbours.find((n) => answer.ids.includes(n.id));
      if (fresh)
        setView({
          selection: { id: fresh.id, optionId: null, layer: 'neighbours', wallBearingDeg: null },
          also: [],
        });
      notify(
        [`“${before.file}” is in. Move it by dragging (M) or by numbers.`, ...answer.notes.slice(0, 3)].join(
          ' ',
        ),
      );
      close();
    } catch (error) {
      notify((error as Error).message, true);
      setStep(before);
    }
  };

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
              OBJ, STL, GLB, GeoJSON, CityJSON, IFC or DXF. Nothing changes before you have seen what the file
              holds and how large it is.
            </p>
            <input
              type="file"
              accept=".obj,.stl,.glb,.geojson,.json,.cityjson,.ifc,.dxf"
              className="form-control"
              aria-label="Model file"
              onChange={(event) => void read(event.target.files?.[0])}
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
          <ImportPreview preview={step.preview} choices={choices} onChange={setChoices} />
        )}
        {step.kind === 'sending' && <p>Placing the model …</p>}
      </Modal.Body>
      {step.kind === 'preview' && (
        <Modal.Footer>
          <button className="btn btn-quiet" onClick={close}>
            Leave it
          </button>
          <button className="btn btn-sunlit" onClick={() => void accept()}>
            Bring in
          </button>
        </Modal.Footer>
      )}
    </Modal>
  );
}

async function send(hash: string, mesh: Mesh): Promise<void> {
  await api.putMesh(mesh);
  rememberMesh(hash, mesh);
}

/** Everything that is not asked about is left as it was proposed. */
function nameRows(rows: readonly ModelRow[], choices: ImportChoices): ImportChoices {
  const becomes: Record<string, Becomes> = {};
  for (const row of rows) becomes[row.key] = choices.becomes[row.key] ?? row.likely;
  return { ...choices, becomes };
}
