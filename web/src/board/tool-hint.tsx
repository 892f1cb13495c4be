import { later } from '../app/later';
import { forgetPoints, useUnderlays } from '../site/underlay-store';
import { setView, type Tool } from '../state/view-store';
import { type DrawTool, useDraft } from './draft';
import { closeDrawing } from './drawing';

const ScaleForm = later(async () => (await import('../site/scale-form')).ScaleForm);

type HeldTool = Exclude<Tool, { kind: 'select' }>;

const HINTS: Record<Exclude<HeldTool['kind'], 'draw'>, string> = {
  move: 'Drag objects over the ground. Esc ends.',
  push: 'Drag a wall, roof or underside. Esc ends.',
  stand: 'Click where to stand: the ground, a floor, a balcony, a sill. Esc ends.',
  strip: 'Click where the strip begins and where it ends, in the section. Esc ends.',
  profile: 'Click on a result where its profile begins, and where it ends. Esc ends.',
  'scale-underlay':
    'Click two points of the picture, far apart, whose distance you know. Esc takes them back.',
  'fit-underlay': 'Click a point of the picture, then where it belongs; a second pair turns it. Esc ends.',
  corners: 'Drag corners of the chosen mass, or the middle of an edge. Delete takes the last corner away.',
};

/** What the next click does, and what is being typed. */
function DrawHint({ tool }: { tool: DrawTool }) {
  const points = useDraft((d) => d.points.length);
  const typed = useDraft((d) => d.typed);
  const wrong = useDraft((d) => d.wrong);
  const next = () => {
    if (tool.shape === 'point') return 'Click where it stands. Esc ends.';
    if (tool.shape === 'rectangle')
      return points === 0
        ? 'Click the first corner.'
        : 'Click the opposite corner, or type its size, 12 x 8.';
    if (points === 0)
      return tool.purpose === 'array' ? 'Click where the way begins.' : 'Click the first point.';
    if (tool.purpose === 'section') return 'Click where the cut ends; what lies to the right is taken away.';
    if (tool.purpose === 'mirror') return 'Click the second point of the mirror line.';
    if (tool.purpose === 'array') return 'Click where the first copy goes.';
    if (tool.shape === 'path') return 'Click the next point or type a length; Enter ends.';
    return points < 3
      ? 'Click the next corner, or type a length and Enter.'
      : 'Click the first corner or press Enter to close.';
  };
  return (
    <div className="pane-warning calm" role="status">
      {wrong ?? next()}
      {typed && <strong className="typed">{typed}</strong>}
      {((tool.shape === 'polygon' && points >= 3) || (tool.shape === 'path' && points >= 2)) && (
        <button onClick={() => closeDrawing(tool)}>{tool.shape === 'path' ? 'End' : 'Close'}</button>
      )}
    </div>
  );
}

/** Two points of a picture, then the distance between them. */
function ScaleHint({ underlay }: { underlay: string }) {
  const isMeasured = useUnderlays(({ points }) => points.length === 2);
  return (
    <div className="pane-warning calm" role="status">
      {isMeasured ? <ScaleForm underlay={underlay} /> : HINTS['scale-underlay']}
      <button
        onClick={() => {
          forgetPoints();
          setView({ tool: { kind: 'select' } });
        }}
      >
        {isMeasured ? 'Leave it' : 'Done'}
      </button>
    </div>
  );
}

/** What the tool at hand does with the next click or drag. */
export function ToolHint({ tool }: { tool: HeldTool }) {
  if (tool.kind === 'draw') return <DrawHint tool={tool} />;
  if (tool.kind === 'scale-underlay') return <ScaleHint underlay={tool.underlay} />;
  return (
    <div className="pane-warning calm" role="status">
      {HINTS[tool.kind]}
      <button onClick={() => setView({ tool: { kind: 'select' } })}>Done</button>
    </div>
  );
}
