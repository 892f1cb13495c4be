import { changeDrawing, useFocusedPane } from '../state/panes-store';
import { type Option } from '@dial-shade/core';
import {
  Move,
  MoveVertical,
  Palette,
  Pentagon,
  RectangleHorizontal,
  Spline,
  SquareDashedBottom,
} from 'lucide-react';
import { Section } from '../app/fields';
import { ToolButton } from '../app/objects';
import { type DrawPurpose, setView, type Tool, useView } from '../state/view-store';

/** What can be drawn and dragged on the Form stage. */
export function DrawSection({ option }: { option: Option }) {
  const tool = useView((v) => v.tool);
  const byKind = useFocusedPane().drawing.tone === 'kinds';
  const chosen = useView((v) => v.selection !== null);
  const draw = (shape: 'rectangle' | 'polygon', purpose: DrawPurpose) =>
    setView({ tool: { kind: 'draw', shape, purpose } });
  const isDrawing = (shape: string, purpose: DrawPurpose) =>
    tool.kind === 'draw' && tool.shape === shape && tool.purpose === purpose;
  const push = (scope: Extract<Tool, { kind: 'push' }>['scope']) =>
    setView({ tool: { kind: 'push', scope } });
  return (
    <Section title={`Draw in ${option.letter} ${option.name}`} name="Draw">
      {option.masses.length + option.models.length === 0 && (
        <p className="visually-quiet">Empty. Draw a footprint on the ground.</p>
      )}
      <div className="tool-row">
        <ToolButton
          main
          icon={RectangleHorizontal}
          name="Rectangle"
          active={isDrawing('rectangle', 'mass')}
          onClick={() => draw('rectangle', 'mass')}
        />
        <ToolButton
          icon={Pentagon}
          name="Polygon"
          active={isDrawing('polygon', 'mass')}
          onClick={() => draw('polygon', 'mass')}
        />
        <ToolButton
          icon={SquareDashedBottom}
          name="Court"
          title="Cut a court out of the chosen mass"
          disabled={!chosen}
          active={isDrawing('rectangle', 'court')}
          onClick={() => draw('rectangle', 'court')}
        />
      </div>
      <div className="tool-row">
        <ToolButton
          icon={Move}
          name="Move"
          title="Drag objects over the ground (M)"
          active={tool.kind === 'move'}
          onClick={() => setView({ tool: { kind: 'move' } })}
        />
        <ToolButton
          icon={MoveVertical}
          name="Push"
          title="Push and pull walls, roofs and undersides (U)"
          active={tool.kind === 'push'}
          onClick={() => push('wall')}
        />
        <ToolButton
          icon={Spline}
          name="Corners"
          title="Drag corners and edges of the chosen mass (C)"
          disabled={!chosen}
          active={tool.kind === 'corners'}
          onClick={() => setView({ tool: { kind: 'corners' } })}
        />
        <ToolButton
          icon={Palette}
          name="Kinds"
          title="Colour by kind of face (K)"
          active={byKind}
          onClick={() => changeDrawing({ tone: byKind ? 'paper' : 'kinds' })}
        />
      </div>
      {tool.kind === 'push' && (
        <div className="tool-row" role="radiogroup" aria-label="What a pushed wall takes along">
          {(['wall', 'above', 'storey'] as const).map((scope) => (
            <button
              key={scope}
              role="radio"
              aria-checked={tool.scope === scope}
              className={`btn btn-sm btn-quiet${tool.scope === scope ? ' active' : ''}`}
              onClick={() => push(scope)}
            >
              {{ wall: 'Whole wall', above: 'This storey and above', storey: 'This storey' }[scope]}
            </button>
          ))}
        </div>
      )}
    </Section>
  );
}
