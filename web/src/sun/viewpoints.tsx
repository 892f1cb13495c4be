import { add, change, cutText, newId, remove, type Viewpoint } from '@dial-shade/core';
import { Camera, Copy, Layers, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Section, TextField } from '../app/fields';
import { floorsOf } from '../board/pane-cameras';
import { focusedView, showCamera } from '../board/pane-registry';
import { changeDrawing } from '../state/panes-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

/** Keeps a copy of a viewpoint under a name of its own. */
function duplicate(viewpoint: Viewpoint): void {
  const copy = { ...viewpoint, id: newId('viewpoint'), name: `${viewpoint.name} copy` };
  edit(`duplicate ${viewpoint.name}`, add('viewpoints', copy));
}

/** Makes a plan like this one of every other floor of an option, in one step. */
function everyStorey(viewpoint: Viewpoint, optionId: string): void {
  const { camera } = viewpoint;
  if (camera.kind !== 'level') return;
  const floors = floorsOf(currentProject(), optionId).filter(
    ({ floorM }) => Math.abs(floorM - camera.floorM) > 0.01,
  );
  edit(`plans of every storey like ${viewpoint.name}`, (project) =>
    floors.reduce(
      (made, { name, floorM }) =>
        add('viewpoints', {
          ...viewpoint,
          id: newId('viewpoint'),
          name: cutText(`${viewpoint.name}, ${name}`, 80),
          camera: { ...camera, floorM },
        })(made),
      project,
    ),
  );
}

/** Named places to look from, kept with the project. */
export function Viewpoints() {
  const { viewpoints } = useDocument();
  const optionId = useView((view) => view.optionId);
  const [chosen, setChosen] = useState<string | null>(null);
  const viewpoint = viewpoints.find((v) => v.id === chosen);
  const keep = () => {
    const view = focusedView();
    if (!view) return;
    const project = currentProject();
    const id = newId('viewpoint');
    const name = `Viewpoint ${project.viewpoints.length + 1}`;
    if (
      !edit(
        `keep ${name}`,
        add('viewpoints', { id, name, ...view.look, hidden: [...useView.getState().hidden] }),
      )
    )
      setChosen(id);
  };
  const show = (wanted: Viewpoint) => {
    showCamera(wanted.camera);
    changeDrawing(wanted.drawing);
    setView({ hidden: new Set(wanted.hidden) });
    setChosen(wanted.id);
  };
  return (
    <Section
      title="Viewpoints"
      aside={
        <button className="btn btn-quiet btn-sm" onClick={keep}>
          <Camera size={13} /> Keep this view
        </button>
      }
    >
      {viewpoints.length === 0 && <p className="visually-quiet m-0">None kept yet.</p>}
      <ul className="objects">
        {viewpoints.map((v) => (
          <li key={v.id} className={v.id === chosen ? 'chosen' : ''}>
            <button className="name" onClick={() => show(v)}>
              {v.name}
            </button>
            <button
              className="btn-bare"
              title="Duplicate"
              aria-label={`Duplicate ${v.name}`}
              onClick={() => duplicate(v)}
            >
              <Copy size={14} />
            </button>
            <button
              className="btn-bare"
              aria-label={`Remove ${v.name}`}
              onClick={() => edit(`remove ${v.name}`, remove('viewpoints', v.id))}
            >
              <Trash2 size={14} />
            </button>
          </li>
        ))}
      </ul>
      {viewpoint && (
        <TextField
          label="Name"
          value={viewpoint.name}
          commit={(name) =>
            edit('rename a viewpoint', change('viewpoints', viewpoint.id, { name }), { quiet: true })
          }
        />
      )}
      {viewpoint?.camera.kind === 'level' && (
        <button
          className="btn btn-quiet btn-sm"
          title="One viewpoint for every floor of this option, as one step"
          onClick={() => everyStorey(viewpoint, optionId)}
        >
          <Layers size={14} /> The same for every storey
        </button>
      )}
    </Section>
  );
}
