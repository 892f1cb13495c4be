import type { Camera, SunPosition } from '@dial-shade/core';
import { focusPane, noteCamera, type Pane } from '../state/panes-store';
import { notify } from '../state/notice-store';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { beginCamera, CAMERA_KINDS } from './pane-cameras';
import { showCamera } from './pane-registry';
import type { PaneView } from './pane-view';

/** Which kind of view a pane has. */
export function PaneKindSelect({
  view,
  pane,
  sun,
  optionId,
}: {
  view: PaneView;
  pane: Pane;
  sun: SunPosition;
  optionId: string;
}) {
  const project = useDocument();
  const selection = useView((v) => v.selection);
  const change = (kind: Camera['kind']) => {
    focusPane(pane.id);
    if (kind === 'orbit') {
      view.lookFrom('fit');
      noteCamera(pane.id, view.look.camera);
      return;
    }
    if (kind === 'sun' && sun.altitudeDeg <= 0)
      notify('The sun is below the horizon: the view from it begins when it rises.');
    showCamera(beginCamera(kind, project, optionId, selection, view.focusBox));
  };
  return (
    <select
      className="pane-kind"
      aria-label="Kind of view"
      title={CAMERA_KINDS.find(({ kind }) => kind === (pane.camera?.kind ?? 'orbit'))?.hint}
      value={pane.camera?.kind ?? 'orbit'}
      onChange={(event) => change(event.target.value as Camera['kind'])}
    >
      {CAMERA_KINDS.map(({ kind, name }) => (
        <option key={kind} value={kind}>
          {name}
        </option>
      ))}
    </select>
  );
}
