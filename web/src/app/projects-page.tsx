import { Plus, Trash2, Upload } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { ProjectLine, ProjectOrder } from '@dial-shade/core';
import { Link, useNavigate } from 'react-router';
import { api, PROJECTS_A_PAGE } from '../state/api';
import { notify } from '../state/notice-store';
import { bytesInWords } from './bytes-in-words';
import { Notices } from './notices';
import { StorageLine } from './storage-line';

/** So many projects are seen at a glance. */
const SHORT = 6;
/** How long is waited for the next key. */
const TYPING_MS = 150;

/** All projects: find, open, begin, bring in, take out, delete. */
export function ProjectsPage() {
  const [projects, setProjects] = useState<ProjectLine[] | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [hasMore, setHasMore] = useState(false);
  const [search, setSearch] = useState('');
  const [order, setOrder] = useState<ProjectOrder>('changed');
  /** Which list was asked for last: an earlier one that comes later is let go. */
  const asked = useRef(0);
  /** Loads the projects from the first on, or those after the ones that are shown. */
  const load = (shown: ProjectLine[] = []) => {
    const mine = ++asked.current;
    return api.projects(shown.length, search, order).then(
      (found) => {
        if (mine !== asked.current) return;
        setProjects([...shown, ...found]);
        setHasMore(found.length === PROJECTS_A_PAGE);
        setFailed(null);
      },
      (error: Error) => {
        if (mine === asked.current) setFailed(error.message);
      },
    );
  };
  useEffect(() => {
    const typing = setTimeout(() => void load(), search ? TYPING_MS : 0);
    return () => clearTimeout(typing);
    // oxlint-disable-next-line react/exhaustive-deps
  }, [search, order]);
  const isLong = search !== '' || order !== 'changed' || (projects?.length ?? 0) > SHORT;
  return (
    <div className="full-page">
      <div>
        <div className="d-flex align-items-center gap-2 mb-4">
          <img src="/mark.svg" width={30} alt="" />
          <h1 className="h4 m-0">Dial Shade</h1>
        </div>
        <NewProject />
        {failed && (
          <p>
            {failed}{' '}
            <button className="btn btn-quiet btn-sm" onClick={() => void load()}>
              Try again
            </button>
          </p>
        )}
        {!projects && !failed && <p className="visually-quiet">Loading the projects …</p>}
        {isLong && <FindProjects search={search} order={order} onSearch={setSearch} onOrder={setOrder} />}
        {projects?.length === 0 &&
          (search ? (
            <p>No project has “{search}” in its name or its place.</p>
          ) : (
            <p>No project yet. Give one a name and begin.</p>
          ))}
        <div className="project-lines">
          {projects?.map((project) => (
            <ProjectRow key={project.id} project={project} onDeleted={() => load()} />
          ))}
        </div>
        {projects && hasMore && (
          <button className="btn btn-quiet mt-2" onClick={() => void load(projects)}>
            Show more
          </button>
        )}
        {projects && <StorageLine of={projects} />}
      </div>
      <Notices />
    </div>
  );
}

/** What is said of a list: which projects, and in which order. */
function FindProjects(props: {
  search: string;
  order: ProjectOrder;
  onSearch: (search: string) => void;
  onOrder: (order: ProjectOrder) => void;
}) {
  return (
    <div className="d-flex gap-2 mb-3" role="search">
      <input
        type="search"
        className="form-control"
        aria-label="Find a project"
        placeholder="Find by name or place"
        maxLength={200}
        value={props.search}
        onChange={(event) => props.onSearch(event.target.value)}
      />
      <select
        className="form-select"
        style={{ flex: '0 0 12rem' }}
        aria-label="In the order of"
        value={props.order}
        onChange={(event) => props.onOrder(event.target.value as ProjectOrder)}
      >
        <option value="changed">changed last first</option>
        <option value="name">by name</option>
        <option value="place">by place</option>
      </select>
    </div>
  );
}

/** Does what may fail, and says so where it does. */
async function attempt(work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    notify((error as Error).message, true);
  }
}

/** Begins an empty project, or brings one in from a file. */
function NewProject() {
  const [name, setName] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const create = () =>
    attempt(async () => {
      const stored = await api.createProject(name.trim() || 'New project');
      await navigate(`/p/${stored.id}/site`);
    });
  const importFile = async (chosen: File | undefined) => {
    if (!chosen) return;
    await attempt(async () => {
      const stored = await api.importProject(await readProject(chosen));
      await navigate(`/p/${stored.id}/sun`);
    });
    file.current!.value = '';
  };
  return (
    <form
      className="d-flex gap-2 mb-4"
      onSubmit={(event) => {
        event.preventDefault();
        void create();
      }}
    >
      <input
        className="form-control"
        aria-label="Name of the new project"
        value={name}
        maxLength={80}
        placeholder="Name of a new project"
        onChange={(event) => setName(event.target.value)}
      />
      <button className="btn btn-sunlit text-nowrap" type="submit">
        <Plus size={15} /> Begin
      </button>
      <button className="btn btn-quiet text-nowrap" type="button" onClick={() => file.current!.click()}>
        <Upload size={15} /> Bring in a file
      </button>
      <input
        ref={file}
        type="file"
        hidden
        accept=".json,application/json"
        aria-label="Project file"
        onChange={(event) => void importFile(event.target.files?.[0])}
      />
    </form>
  );
}

/** The text of a project file. Throws with a sentence when it is no JSON at all. */
async function readProject(file: File): Promise<string> {
  const text = await file.text();
  try {
    JSON.parse(text);
  } catch {
    throw new Error(`“${file.name}” is not a project file: it is not JSON.`);
  }
  return text;
}

/** A project as a line; deleting it is asked twice. */
function ProjectRow({ project, onDeleted }: { project: ProjectLine; onDeleted: () => Promise<void> }) {
  const [doomed, setDoomed] = useState(false);
  const remove = () =>
    attempt(async () => {
      await api.deleteProject(project.id);
      await onDeleted();
    }).then(() => setDoomed(false));
  const changed = new Date(project.updatedAt).toLocaleString('en-GB', {
    dateStyle: 'medium',
    timeStyle: 'short',
  });
  return (
    <div>
      <Link className="name" to={`/p/${project.id}/sun`}>
        {project.name}
      </Link>
      <span className="visually-quiet flex-grow-1">
        {project.place || 'place not named'} · {project.options} options · {changed} ·{' '}
        {bytesInWords(project.bytes)}
      </span>
      <a className="btn btn-quiet btn-sm" href={`/api/projects/${project.id}/file`}>
        Take out
      </a>
      {doomed ? (
        <button className="btn btn-danger btn-sm" onClick={() => void remove()} autoFocus>
          Delete for good
        </button>
      ) : (
        <button className="btn-bare" aria-label={`Delete ${project.name}`} onClick={() => setDoomed(true)}>
          <Trash2 size={15} />
        </button>
      )}
    </div>
  );
}
