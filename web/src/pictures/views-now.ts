import { type Drawing, type Project, shownValues, type Viewpoint } from '@dial-shade/core';
import type { Box } from '../board/label-layer';
import { boxOfPane } from '../board/pane-boxes';
import { viewOf } from '../board/pane-registry';
import { CAMERA_KINDS } from '../board/pane-cameras';
import { resultStyle } from '../board/use-result-overlay';
import { activeStudyOf } from '../state/active-study';
import { paneCount, type Pane, shownIn, usePanes } from '../state/panes-store';
import { useView } from '../state/view-store';
import { greatest, greatestTogether, lookedAt } from '../studies/looked-at';
import { useRays } from '../sun/rays-store';
import { roomsShown, useRooms } from '../sun/rooms-store';
import { useShade } from '../sun/shade-store';
import type { FilmView } from './film-plan';
import { type PictureView, WHOLE } from './picture';

/** Parts of a board in which shares of it are told; as wide for their height as most pictures are. */
const [ACROSS, DOWN] = [16_000, 10_000];

const nameOfKind = (kind: string) => CAMERA_KINDS.find((one) => one.kind === kind)!.name;

/** The name of the viewpoint that a camera is, or of its kind. */
function viewpointName(project: Project, camera: Viewpoint['camera']): string {
  const text = JSON.stringify(camera);
  return project.viewpoints.find((v) => JSON.stringify(v.camera) === text)?.name ?? nameOfKind(camera.kind);
}

/** A result of a study of an option as it is looked at, on the scale that it shares with others; null without one. */
export function resultOf(
  project: Project,
  studyId: string,
  optionId: string,
  beside: readonly string[],
  map?: Drawing['map'],
): PictureView['result'] {
  const study = project.studies.find(({ id }) => id === studyId);
  const looked = study && lookedAt(project, study, optionId);
  if (!looked) return null;
  const { result, changes } = looked;
  const most = beside.reduce((max, id) => {
    const other = lookedAt(project, study, id)?.result;
    return other ? Math.max(max, greatest(shownValues(other))) : max;
  }, 0);
  return { result, look: resultStyle(result, study, 'light', changes.length > 0, map, most) };
}

/** The result that lies on the board of an option, if any. */
function resultShown(
  project: Project,
  { optionId, activeStudy }: { optionId: string; activeStudy: string | null },
  map?: Drawing['map'],
): PictureView['result'] {
  const study = activeStudyOf(project, activeStudy);
  if (!study) return null;
  const looked = lookedAt(project, study, optionId);
  if (!looked) return null;
  const { result, changes } = looked;
  const most = greatestTogether(project, result);
  return { result, look: resultStyle(result, study, 'light', changes.length > 0, map, most) };
}

/** What a pane shows, for a picture; null while it has not been framed. */
function viewOfPane(project: Project, pane: Pane, stage: string, box: Box): FilmView | null {
  const camera = viewOf(pane.id)?.look.camera ?? pane.camera;
  if (!camera) return null;
  const { focused } = usePanes.getState();
  const isFocused = pane.id === focused;
  const { activeStudy, ...shown } = shownIn(pane, usePanes.getState());
  const { optionId } = shown;
  const { on, found } = useShade.getState();
  const rays = useRays.getState();
  const isOnGround = on === 'areas' || on === 'ground';
  return {
    ...shown,
    camera,
    drawing: pane.drawing,
    viewpoint: viewpointName(project, camera),
    hidden: [...useView.getState().hidden],
    result: stage === 'studies' ? resultShown(project, { optionId, activeStudy }, pane.drawing.map) : null,
    shade:
      stage === 'sun' && isFocused && isOnGround && found
        ? { shaded: found.shaded, newly: found.newly }
        : null,
    rooms:
      stage === 'sun' && isFocused ? roomsShown(useRooms.getState(), project.site.north.trueNorthDeg) : null,
    rays:
      stage === 'sun' && isFocused && rays.isOn && rays.found
        ? { stretches: rays.found.stretches, strip: rays.strip }
        : null,
    title: null,
    box,
    isPinned: pane.pin.moment !== null,
  };
}

/** The view of the pane with the focus, alone in its picture. */
export function focusedViews(project: Project, stage: string): FilmView[] {
  const { panes, focused } = usePanes.getState();
  const pane = panes.find(({ id }) => id === focused)!;
  const view = viewOfPane(project, pane, stage, WHOLE);
  return view ? [view] : [];
}

/** The views of all panes of the board, where they lie on it. */
export function boardViews(project: Project, stage: string): FilmView[] {
  const state = usePanes.getState();
  const { arrangement, sheet } = state;
  return state.panes.slice(0, paneCount(state)).flatMap((pane, i) => {
    const { x, y, width, height } = boxOfPane(state, i, ACROSS, DOWN);
    const box = { x: x / ACROSS, y: y / DOWN, width: width / ACROSS, height: height / DOWN };
    const view = viewOfPane(project, pane, stage, box);
    const name = arrangement === 'sheet' ? sheet[i]! : null;
    return view ? [{ ...view, title: name }] : [];
  });
}

/** A view from a viewpoint of an option at a moment. */
export function viewFrom(
  { name, camera, drawing, hidden }: Pick<Viewpoint, 'name' | 'camera' | 'drawing' | 'hidden'>,
  optionId: string,
  { date, minutes }: { date: string; minutes: number },
): PictureView {
  return {
    optionId,
    date,
    minutes,
    camera,
    drawing,
    viewpoint: name,
    hidden,
    result: null,
    shade: null,
    rooms: null,
    rays: null,
    title: null,
    box: WHOLE,
  };
}
