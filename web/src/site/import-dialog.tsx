import {
  add,
  formatLength,
  freshId,
  MAX_OBJ_BYTES,
  MODEL_UNITS,
  type ModelUnit,
  type UpAxis,
} from '@dial-shade/core';
import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { ChoiceField, TextField } from '../app/fields';
import { api } from '../state/api';
import { rememberMesh } from '../state/mesh-cache';
import { tell } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';
import type { ObjPreview } from '../workers/compute-worker';
import { openReader } from '../workers/compute';

type Step =
  | { kind: 'choose'; wrong: string | null }
  | { kind: 'reading'; share: number; file: string }
  | { kind: 'preview'; preview: ObjPreview; file: string }
  | { kind: 'sending' };

/** Brings a neighbour in from an OBJ file: the size it will have is shown before anything changes. */
export function ImportDialog({ show, onClose }: { show: boolean; onClose: () => void }) {
  const { units } = useDocument();
  const [step, setStep] = useState<Step>({ kind: 'choose', wrong: null });
  const [unit, setUnit] = useState<ModelUnit>('m');
  const [up, setUp] = useState<UpAxis>('z');
  const [name, setName] = useState('');
  const reader = useRef<ReturnType<typeof openReader> | null>(null);

  const endReader = () => {
    reader.current?.end();
    reader.current = null;
  };
  useEffect(() => endReader, []);

  const close = () => {
    endReader();
    setStep({ kind: 'choose', wrong: null });
    onClose();
  };

  const read = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > MAX_OBJ_BYTES) {
      setStep({
        kind: 'choose',
        wrong: `“${file.name}” has ${Math.round(file.size / 1048576)} MB; at most ${MAX_OBJ_BYTES / 1048576} MB can be read. Leave out what is far from the site.`,
      });
      return;
    }
    setStep({ kind: 'reading', share: 0, file: file.name });
    endReader();
    const opened = openReader();
    reader.current = opened;
    const bytes = new Uint8Array(await file.arrayBuffer());
    const answer = await opened.remote.readModel(
      bytes,
      proxy((share: number) => setStep((now) => (now.kind === 'reading' ? { ...now, share } : now))),
    );
    if (reader.current !== opened) return;
    if ('refused' in answer) {
      setStep({ kind: 'choose', wrong: `“${file.name}”: ${answer.refused}` });
      return;
    }
    setUp('z');
    setUnit(answer.likely.z);
    setName(file.name.replace(/\.obj$/i, '').slice(0, 80));
    setStep({ kind: 'preview', preview: answer, file: file.name });
  };

  const accept = async () => {
    if (step.kind !== 'preview') return;
    const before = step;
    setStep({ kind: 'sending' });
    try {
      const mesh = await reader.current!.remote.takeModel(unit, up);
      if ('refused' in mesh) throw new Error(mesh.refused);
      const { hash, triangles } = await api.putMesh(mesh);
      rememberMesh(hash, mesh);
      const id = freshId(currentProject(), 'neighbour');
      const refused = edit(
        `bring in ${name}`,
        add('neighbours', {
          kind: 'mesh',
          id,
          name: name.trim() || 'Neighbour',
          mesh: hash,
          triangles,
          move: [0, 0, 0],
          turnDeg: 0,
        }),
      );
      if (refused) throw new Error(refused);
      setView({ selection: { id, optionId: null, layer: 'neighbours', wallBearingDeg: null } });
      tell(`“${name}” stands on the site. Move it by dragging (M) or by numbers.`);
      close();
    } catch (error) {
      tell((error as Error).message, true);
      setStep(before);
    }
  };

  return (
    <Modal show={show} onHide={close} animation={false} aria-labelledby="import-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="import-title" className="h6">
          Bring in a neighbour
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {step.kind === 'choose' && (
          <>
            <p>
              An OBJ file with the buildings around the site. Nothing changes before you have seen how large
              it is.
            </p>
            <input
              type="file"
              accept=".obj,model/obj,text/plain"
              className="form-control"
              aria-label="OBJ file"
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
          <>
            <TextField
              label="Name"
              value={name}
              commit={(text) => {
                setName(text);
                return null;
              }}
            />
            <ChoiceField<ModelUnit>
              label="File is in"
              value={unit}
              choices={MODEL_UNITS.map(({ id, name: n }) => ({
                value: id,
                name: id === step.preview.likely[up] ? `${n} (likely)` : n,
              }))}
              commit={setUnit}
            />
            <ChoiceField<UpAxis>
              label="Up is"
              value={up}
              choices={[
                { value: 'z', name: 'z' },
                { value: 'y', name: 'y' },
              ]}
              commit={(axis) => {
                setUp(axis);
                setUnit(step.preview.likely[axis]);
              }}
            />
            <Preview preview={step.preview} unit={unit} up={up} units={units} />
          </>
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

function Preview({
  preview,
  unit,
  up,
  units,
}: {
  preview: ObjPreview;
  unit: ModelUnit;
  up: UpAxis;
  units: 'metric' | 'imperial';
}) {
  const { metres } = MODEL_UNITS.find((u) => u.id === unit)!;
  const span = preview.max.map((high, i) => (high - preview.min[i]!) * metres) as [number, number, number];
  const [width, depth, height] = up === 'z' ? span : [span[0], span[2], span[1]];
  const far = Math.max(...preview.min.map(Math.abs), ...preview.max.map(Math.abs)) * metres;
  const extent = Math.max(width, depth, height);
  return (
    <>
      <p className="mb-1" data-testid="model-size">
        This model would be <strong>{formatLength(height, units, 1)}</strong> tall,{' '}
        {formatLength(width, units, 1)} wide and {formatLength(depth, units, 1)} deep.
      </p>
      <p className="visually-quiet m-0">
        {preview.triangles.toLocaleString('en')} triangles, {preview.vertices.toLocaleString('en')} vertices
        {preview.groups.length > 0 &&
          `, ${preview.groups.length} ${preview.groups.length === 1 ? 'group' : 'groups'} (${preview.groups
            .slice(0, 4)
            .map((g) => g.name)
            .join(', ')}${preview.groups.length > 4 ? ' …' : ''})`}
        {preview.flatFaces > 0 && `; ${preview.flatFaces} faces without area are left out`}.
      </p>
      {height > 150 && (
        <p className="mt-1 mb-0" style={{ color: 'var(--alarm)' }}>
          Taller than 150 m: is the unit right?
        </p>
      )}
      {height < 1.5 && (
        <p className="mt-1 mb-0" style={{ color: 'var(--alarm)' }}>
          Lower than 1.5 m: is the unit right?
        </p>
      )}
      {far > extent * 4 + 500 && (
        <p className="mt-1 mb-0" style={{ color: 'var(--alarm)' }}>
          It lies {formatLength(far, units, 0)} from the origin; move it by numbers once it is in.
        </p>
      )}
    </>
  );
}
