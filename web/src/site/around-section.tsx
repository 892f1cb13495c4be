import { findOwner } from '@dial-shade/core';
import { BrickWall, Fence, Pentagon, TreeDeciduous, Upload } from 'lucide-react';
import { Section } from '../app/fields';
import { ToolButton } from '../app/objects';
import { BodySection } from '../form/body-section';
import { ObjectTree } from '../form/object-tree';
import { edit, useDocument } from '../state/project-store';
import { type DrawPurpose, setView, type Tool, useView } from '../state/view-store';
import { NeighbourSection } from './neighbour-section';
import { SourceFiles } from './source-files';

/** The point of a survey that is the project origin, once a file has brought one. */
function SurveyOrigin() {
  const { survey } = useDocument().site;
  if (!survey) return null;
  const { x, y, z, system } = survey;
  const read = (value: number) => Number(value.toFixed(2)).toLocaleString('en');
  return (
    <p className="visually-quiet mb-1" data-testid="survey">
      Survey origin ({read(x)}, {read(y)}, {read(z)}){system && `, ${system}`}{' '}
      <button
        className="btn-bare"
        title="The next file in the coordinates of a survey sets it anew"
        onClick={() =>
          edit('forget the survey origin', (project) => ({
            ...project,
            site: { ...project.site, survey: null },
          }))
        }
      >
        forget it
      </button>
    </p>
  );
}

/** What stands around the site: drawn, planted or brought in. */
export function AroundSection({ onBringIn }: { onBringIn: () => void }) {
  const project = useDocument();
  const tool = useView((v) => v.tool);
  const optionId = useView((v) => v.optionId);
  const selection = useView((v) => v.selection);
  const draw = (shape: Extract<Tool, { kind: 'draw' }>['shape'], purpose: DrawPurpose) =>
    setView({ tool: { kind: 'draw', shape, purpose } });
  const active = (purpose: DrawPurpose) => tool.kind === 'draw' && tool.purpose === purpose;
  const owner = selection && findOwner(project, selection) ? selection : null;
  return (
    <>
      <Section title={`Neighbours (${project.neighbours.length})`} name="Neighbours">
        <div className="tool-row">
          <ToolButton
            main
            icon={Upload}
            name="Bring in"
            title="OBJ, STL, GLB, GeoJSON, CityJSON, IFC or DXF"
            onClick={onBringIn}
          />
          <ToolButton
            icon={Pentagon}
            name="Building"
            active={active('neighbour')}
            onClick={() => draw('polygon', 'neighbour')}
          />
        </div>
        <div className="tool-row">
          <ToolButton
            icon={BrickWall}
            name="Wall"
            active={active('wall')}
            onClick={() => draw('path', 'wall')}
          />
          <ToolButton
            icon={Fence}
            name="Fence"
            active={active('fence')}
            onClick={() => draw('path', 'fence')}
          />
          <ToolButton
            icon={TreeDeciduous}
            name="Tree"
            active={active('tree')}
            onClick={() => draw('point', 'tree')}
          />
        </div>
        <SurveyOrigin />
        <SourceFiles />
      </Section>
      <ObjectTree optionId={optionId} />
      {owner && owner.layer === 'neighbours' && (
        <>
          <NeighbourSection key={`n-${owner.id}`} owner={owner} />
          <BodySection key={owner.id} owner={owner} />
        </>
      )}
    </>
  );
}
