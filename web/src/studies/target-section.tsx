import {
  change,
  flipTarget,
  formatArea,
  partsOfTarget,
  remove,
  type Study,
  type Target,
  targetAreaM2,
} from '@dial-shade/core';
import { FlipHorizontal2, Pentagon, RectangleHorizontal, Trash2 } from 'lucide-react';
import { CheckField, LengthField, Section, TextField } from '../app/fields';
import { IconButton, ToolButton } from '../app/objects';
import { FaceTargetButton } from '../site/face-target-button';
import { useMemo } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { RuledTargetButtons, RuledTargetFields } from './target-rule-fields';

const SHAPES = [
  { shape: 'rectangle', icon: RectangleHorizontal, name: 'Rectangle' },
  { shape: 'polygon', icon: Pentagon, name: 'Polygon' },
] as const;

/** The surfaces that can be measured, and which of them the study measures. */
export function TargetSection({ study }: { study: Study | undefined }) {
  const { targets } = useDocument();
  const tool = useView((view) => view.tool);
  const toggle = (target: Target) => {
    if (!study) return;
    const chosen = study.targets.includes(target.id);
    edit(
      chosen ? `leave out ${target.name}` : `measure ${target.name}`,
      change('studies', study.id, {
        targets: chosen ? study.targets.filter((id) => id !== target.id) : [...study.targets, target.id],
      }),
    );
  };
  return (
    <Section title="Targets">
      <div className="d-flex gap-1 mb-2 flex-wrap">
        {SHAPES.map(({ shape, icon, name }) => (
          <ToolButton
            key={shape}
            icon={icon}
            name={name}
            active={tool.kind === 'draw' && tool.purpose === 'target' && tool.shape === shape}
            onClick={() => setView({ tool: { kind: 'draw', shape, purpose: 'target' } })}
          />
        ))}
        <FaceTargetButton study={study} />
        <RuledTargetButtons study={study} />
      </div>
      {targets.length === 0 && (
        <p className="visually-quiet">
          Draw the ground that is to be measured, click a flat face of an imported mesh, or name windows and
          walls by rule.
        </p>
      )}
      <ul className="objects">
        {targets.map((target) => (
          <li key={target.id} className={study?.targets.includes(target.id) ? 'chosen' : ''}>
            <input
              type="checkbox"
              id={`measure-${target.id}`}
              disabled={!study}
              checked={study?.targets.includes(target.id) ?? false}
              onChange={() => toggle(target)}
            />
            <label className="name" htmlFor={`measure-${target.id}`}>
              {target.name}
            </label>
            <TargetFigure target={target} />
            {target.kind === 'plane' && (
              <IconButton
                icon={FlipHorizontal2}
                label={`Turn ${target.name} to its other side`}
                onClick={() => edit(`flip ${target.name}`, flip(target))}
              />
            )}
            <IconButton
              icon={Trash2}
              label={`Remove ${target.name}`}
              onClick={() => edit(`remove ${target.name}`, remove('targets', target.id))}
            />
          </li>
        ))}
      </ul>
      {targets
        .filter((target) => study?.targets.includes(target.id))
        .map((target) => (
          <TargetFields key={target.id} target={target} />
        ))}
    </Section>
  );
}

/** The area of a target as drawn; how many surfaces one by rule means in the option on the board. */
function TargetFigure({ target }: { target: Target }) {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const meshes = useMeshes((state) => state.meshes);
  const parts = useMemo(
    () => partsOfTarget(project, optionId, target, meshes),
    [project, optionId, target, meshes],
  );
  const isDrawn = target.kind === 'ground' || target.kind === 'plane';
  return (
    <span className="figure">
      {isDrawn
        ? formatArea(targetAreaM2(target), project.units)
        : `${parts.length.toLocaleString('en')} ${target.kind === 'openings' ? 'panes' : target.kind === 'rooms' ? 'rooms' : 'walls'}`}
    </span>
  );
}

function flip(target: Target) {
  return change('targets', target.id, flipTarget(target));
}

function TargetFields({ target }: { target: Target }) {
  const { ground } = useDocument().site;
  const set = (name: string, fields: Partial<Target>) =>
    edit(`${name} ${target.name}`, change('targets', target.id, fields), { quiet: true });
  return (
    <div className="mt-2">
      <TextField label="Name" value={target.name} commit={(name) => set('rename', { name })} />
      {target.kind === 'ground' && ground.kind === 'terrain' && target.levelM === undefined && (
        <CheckField
          label="On a clean plane over the terrain"
          checked={target.clean ?? false}
          change={(clean) => set(clean ? 'lay clean' : 'lay on the ground', { clean })}
        />
      )}
      {target.kind !== 'ground' && target.kind !== 'plane' && <RuledTargetFields target={target} />}
      <LengthField
        label="Grid spacing"
        value={target.spacingM}
        commit={(spacingM) => set('grid of', { spacingM })}
      />
      <LengthField
        label={target.kind === 'ground' ? 'Off the ground' : 'Off the face'}
        value={target.offsetM}
        commit={(offsetM) => set('offset of', { offsetM })}
      />
    </div>
  );
}
