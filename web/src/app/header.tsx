import { ArrangementButtons } from './arrangement-buttons';
import {
  CircleCheck,
  CircleDashed,
  CloudOff,
  Images,
  Moon,
  Redo2,
  Search,
  Sun,
  TriangleAlert,
  Undo2,
} from 'lucide-react';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { usePictures } from '../pictures/pictures-store';
import {
  redo,
  type SaveStatus,
  undo,
  useDocument,
  useProject,
  useRedoName,
  useUndoName,
} from '../state/project-store';
import { useRuns } from '../state/run-store';
import { optionsInOrder, setView, useView } from '../state/view-store';
import { useDialogs } from './dialogs';
import { OptionLetter } from './option-letter';

const STATUS: Record<SaveStatus, { text: string; icon: typeof CircleCheck }> = {
  saved: { text: 'Saved', icon: CircleCheck },
  saving: { text: 'Saving', icon: CircleDashed },
  waiting: { text: 'Saving', icon: CircleDashed },
  offline: { text: 'Not saved yet', icon: CloudOff },
  conflict: { text: 'Choose a version', icon: TriangleAlert },
};

export function Header() {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const revision = useProject((state) => state.saved?.revision);
  const saveStatus = useProject((state) => state.saveStatus);
  const theme = useView((view) => view.theme);
  const working = useRuns(
    (state) => state.runs.filter((r) => r.status === 'queued' || r.status === 'running').length,
  );
  const { text, icon: Icon } = STATUS[saveStatus];

  useEffect(() => {
    document.documentElement.dataset.bsTheme = theme;
    localStorage.setItem('dial-shade:theme', theme);
  }, [theme]);

  return (
    <header className="header">
      <Link className="brand" to="/projects" title="All projects">
        <img src="/mark.svg" alt="" />
        Dial Shade
      </Link>
      <span className="project-name" title={project.name}>
        {project.name}
      </span>
      <nav className="options" aria-label="Options">
        {optionsInOrder(project).map((option) => (
          <button
            key={option.id}
            aria-pressed={option.id === optionId}
            title={option.note || option.name}
            onClick={() => setView({ optionId: option.id, selection: null })}
          >
            <OptionLetter option={option} />
            <span className="name">{option.name}</span>
          </button>
        ))}
      </nav>
      {/* What comes and goes by itself stands before the gap, so that no button moves under the pointer. */}
      <span className="spread status">
        {working > 0 && (working === 1 ? '1 run at work' : `${working} runs at work`)}
      </span>
      <ArrangementButtons />
      <Tool
        name="Pictures and films"
        title="Pictures and films (I)"
        icon={Images}
        run={() => usePictures.setState({ isOpen: true })}
      />
      <UndoButtons />
      <Tool
        name="Search commands"
        title="Search commands (Ctrl K)"
        icon={Search}
        run={() => useDialogs.setState({ search: true })}
      />
      <Tool
        name={theme === 'light' ? 'Night theme' : 'Paper theme'}
        icon={theme === 'light' ? Moon : Sun}
        run={() => setView({ theme: theme === 'light' ? 'dark' : 'light' })}
      />
      <span
        className={`status${saveStatus === 'offline' || saveStatus === 'conflict' ? ' offline' : ''}`}
        title={`Revision ${revision}`}
        data-testid="save-status"
      >
        <Icon size={14} />
        {text}
      </span>
    </header>
  );
}

/** A button of the header that says what it does in its title. */
function Tool({
  name,
  title = name,
  icon: Icon,
  isOff = false,
  run,
}: {
  name: string;
  title?: string;
  icon: typeof Undo2;
  isOff?: boolean;
  run: () => void;
}) {
  return (
    <button className="btn-bare" title={title} aria-label={name} disabled={isOff} onClick={run}>
      <Icon size={16} />
    </button>
  );
}

/** One step back and forth, by name. */
function UndoButtons() {
  const undoName = useUndoName();
  const redoName = useRedoName();
  return (
    <>
      <Tool
        name={undoName === null ? 'Undo' : `Undo: ${undoName}`}
        title={undoName === null ? 'Nothing to undo' : `Undo: ${undoName}`}
        icon={Undo2}
        isOff={undoName === null}
        run={undo}
      />
      <Tool
        name={redoName === null ? 'Redo' : `Redo: ${redoName}`}
        title={redoName === null ? 'Nothing to redo' : `Redo: ${redoName}`}
        icon={Redo2}
        isOff={redoName === null}
        run={redo}
      />
    </>
  );
}
