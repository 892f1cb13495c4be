import { add, change, newId, remove, type Viewpoint } from '@dial-shade/core';
import { Camera, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Section, TextField } from '../app/fields';
import { focusedView, showCamera } from '../board/pane-registry';
import { changeDrawing } from '../state/panes-store';
import { currentProject, edit, useDocument } from '../state/project-store';

/** Named places to look from, kept with the project. */
export function Viewpoints() {
  const { viewpoints } = useDocument();
  const [chosen, setChosen] = useState<string | null>(null);
  const viewpoint = viewpoints.find((v) => v.id === chosen);
  const keep = () => {
    const view = focusedView();
    if (!view) return;
    const project = currentProject();
    const id = newId('viewpoint');
    const name = `Viewpoint ${project.viewpoints.length + 1}`;
    if (!edit(`keep ${name}`, add('viewpoints', { id, name, ...view.look }))) setChosen(id);
  };
  const show = (wanted: Viewpoint) => {
    showCamera(wanted.camera);
    changeDrawing(wanted.drawing);
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
    </Section>
  );
}
