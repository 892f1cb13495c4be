import { type CSSProperties, useEffect, useState } from 'react';
import { Outlet, useParams } from 'react-router';
import { Almanac } from '../almanac/almanac';
import { Board } from '../board/board';
import { cancelDrawing } from '../board/draft';
import { forgetPictures, usePictures } from '../pictures/pictures-store';
import { api } from '../state/api';
import { checks } from '../state/checks';
import { loadMeshes } from '../state/mesh-cache';
import { notify, useNotices } from '../state/notice-store';
import { openProject } from '../state/project-store';
import { keepPanes, recallPanes } from '../state/panes-store';
import { followProject } from '../state/run-store';
import { hasUnsaved, keepSaved, restoreUnsaved, useConflicts } from '../state/saver';
import {
  ALMANAC_HEIGHT,
  isAlmanacFolded,
  setSheetWidth,
  SHEET_WIDTH,
  useLayout,
} from '../state/layout-store';
import { beginView, setView } from '../state/view-store';
import { forgetRays } from '../sun/rays-store';
import { forgetRooms } from '../sun/rooms-store';
import { useDialogs } from './dialogs';
import { rememberLast } from './first-start';
import { Header } from './header';
import { later } from './later';
import { Notices } from './notices';
import { useShortcuts } from './shortcuts';
import { Splitter } from './splitter';
import { StageRail } from './stage-rail';
import { takeAddress, useAddress } from './use-address';
import { useStage } from './use-stage';

const CommandSearch = later(async () => (await import('./command-search')).CommandSearch);
const KeysHelp = later(async () => (await import('./keys-help')).KeysHelp);
const ConflictDialog = later(async () => (await import('./conflict-dialog')).ConflictDialog);
const PicturesDialog = later(async () => (await import('../pictures/pictures-dialog')).PicturesDialog);

/** Loads a project and shows its frame. */
export function ProjectPage() {
  const { projectId } = useParams() as { projectId: string };
  const [failed, setFailed] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);
  const [openId, setOpenId] = useState<string | null>(null);

  useEffect(() => {
    let here = true;
    let close = () => {};
    void load(projectId).then(
      (stop) => {
        if (!here) stop();
        else {
          close = stop;
          setOpenId(projectId);
        }
      },
      (error: Error) => here && setFailed(error.message),
    );
    return () => {
      here = false;
      close();
    };
  }, [projectId, attempt]);

  if (failed)
    return (
      <div className="full-page">
        <div>
          <h1 className="h5">The project could not be opened</h1>
          <p>{failed}</p>
          <button
            className="btn btn-sunlit"
            onClick={() => {
              setFailed(null);
              setAttempt(attempt + 1);
            }}
          >
            Try again
          </button>{' '}
          <a className="btn btn-quiet" href="/projects">
            All projects
          </a>
        </div>
      </div>
    );
  if (openId !== projectId) return <div className="full-page visually-quiet">Opening the project …</div>;
  return <Frame />;
}

/** Says that there is little room left before there is none. */
async function warnIfFull(): Promise<void> {
  const storage = await api.storage().catch(() => null);
  if (storage?.isNearlyFull)
    notify('There is little room left for what is kept; the page of all projects says what takes it.', true);
}

async function load(projectId: string): Promise<() => void> {
  const { revision, project } = await api.project(projectId);
  await loadMeshes(project);
  const merging = hasUnsaved(projectId) ? await checks.fetch() : null;
  beginView(project);
  const idsOf = (parts: readonly { id: string }[]) => new Set(parts.map(({ id }) => id));
  recallPanes(projectId, idsOf(project.options), idsOf(project.studies));
  openProject(projectId, revision, project);
  rememberLast(projectId);
  document.title = `${project.name} – Dial Shade`;
  const stopSaving = keepSaved();
  if (merging) restoreUnsaved(merging, projectId);
  const stopFollowing = followProject(projectId);
  const stopPanes = keepPanes(projectId);
  void warnIfFull();
  takeAddress(new URLSearchParams(window.location.search));
  return () => {
    forgetPictures();
    forgetRooms();
    forgetRays();
    useNotices.setState({ notices: [] });
    setView({ play: null });
    useDialogs.setState({ search: false, keys: false });
    cancelDrawing();
    stopPanes();
    stopSaving();
    stopFollowing();
  };
}

function Frame() {
  useShortcuts();
  useAddress();
  const stage = useStage();
  const sheetWidth = useLayout((layout) => layout.sheetWidth);
  const almanacHeight = useLayout((layout) =>
    isAlmanacFolded(layout, stage) ? ALMANAC_HEIGHT.folded : layout.almanacHeight,
  );
  const size = { '--sheet-width': `${sheetWidth}px`, '--almanac-height': `${almanacHeight}px` };
  return (
    <div className="frame" style={size as CSSProperties}>
      <Header />
      <StageRail />
      {/* One of its own for every stage, so that each begins at its top. */}
      <aside key={stage} className="sheet" aria-label="Stage">
        <Outlet />
      </aside>
      <Splitter
        label="Width of the sheet"
        className="sheet-edge"
        axis="x"
        value={sheetWidth}
        least={SHEET_WIDTH.least}
        most={SHEET_WIDTH.most}
        move={setSheetWidth}
      />
      <Board />
      <Almanac />
      <Dialogs />
      <Notices />
    </div>
  );
}

/** What lies over the page when it is asked for. */
function Dialogs() {
  const { search, keys } = useDialogs();
  const hasPictures = usePictures((state) => state.isOpen);
  const hasConflicts = useConflicts((state) => state.conflicts.length > 0);
  return (
    <>
      {search && <CommandSearch />}
      {keys && <KeysHelp />}
      {hasPictures && <PicturesDialog />}
      {hasConflicts && <ConflictDialog />}
    </>
  );
}
