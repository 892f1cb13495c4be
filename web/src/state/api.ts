import {
  type Changes,
  documentChanges,
  meshFromBytes,
  meshToBytes,
  type Mesh,
  type PictureLine,
  type Project,
  type ProjectLine,
  type ProjectOrder,
  type RunLine,
  type StoredProject,
  type Storage,
  type StudyResult,
  withChanges,
} from '@dial-shade/core';
import { part } from './part';

const resultReading = part(() => import('./result-reading'));

/** An answer that is not a success, in the server's words. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly body: Record<string, unknown> = {},
  ) {
    super(message);
  }

  /** Whether it may go well later without a change: the server or its database is away. */
  get offline(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 429;
  }
}

/** A newer document than the page has: the whole, or what changed of the page's; null where nothing did. */
export type Newer = { revision: number } & ({ project: Project } | { changes: Changes | null });

/** The newer document, made of the one that the page has where only what changed came. */
export function newerProject(base: Project, newer: Newer): Project {
  return 'project' in newer ? newer.project : newer.changes ? withChanges(base, newer.changes) : base;
}

/** A run as the page holds it: lists, and what is told as it goes on, come without its signature. */
export type Run = Omit<RunLine, 'signature' | 'finishedAt'> &
  Partial<Pick<RunLine, 'signature' | 'finishedAt'>>;

/** How often a server that has its hands full is asked again for something. */
const MOST_ASKED = 5;

async function call(path: string, init?: RequestInit, asked = 1): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    throw new ApiError(
      0,
      'offline',
      'The server cannot be reached; your work is kept here until it is back.',
    );
  }
  if (response.ok) return response;
  const body = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  const isReading = (init?.method ?? 'GET') === 'GET';
  if (isReading && response.status === 503 && body.code === 'too-busy' && asked < MOST_ASKED) {
    const seconds = Math.min(5, Number(response.headers.get('Retry-After') ?? 1));
    await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
    return call(path, init, asked + 1);
  }
  throw new ApiError(
    response.status,
    String(body.code ?? 'http'),
    String(body.message ?? `The server answered ${response.status}.`),
    body,
  );
}

async function json<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const response = await call(path, {
    method,
    ...(body !== undefined && {
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }),
  });
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** What a browser sends at most of a page that is closing. */
const KEEPALIVE_BYTES = 60_000;

/** Projects that are listed at once. */
export const PROJECTS_A_PAGE = 100;

/** Pictures of a gallery that are listed at once. */
export const PICTURES_A_PAGE = 200;

export const api = {
  projects: (offset = 0, search = '', order: ProjectOrder = 'changed') =>
    json<ProjectLine[]>(
      `/projects?limit=${PROJECTS_A_PAGE}&offset=${offset}&search=${encodeURIComponent(search)}&order=${order}`,
    ),
  createProject: (name: string) => json<StoredProject>('/projects', 'POST', { name }),
  /** Brings a project file in; its text is sent as it is. */
  async importProject(text: string): Promise<StoredProject> {
    const body = `{"project":${text}}`;
    const response = await call('/projects', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body,
    });
    return (await response.json()) as StoredProject;
  },
  project: (id: string) => json<StoredProject>(`/projects/${id}`),
  /** Saves over a revision of which the page has the document: what changed is sent. */
  saveProject: (id: string, base: { revision: number; project: Project }, project: Project) =>
    json<{ revision: number }>(`/projects/${id}`, 'PATCH', {
      revision: base.revision,
      changes: documentChanges(base.project, project),
    }),
  /** What became of a project since the revision that the page has: what changed, or the whole. */
  newer: (id: string, since: number) => json<Newer>(`/projects/${id}/changes?since=${since}`),
  storage: () => json<Storage>('/storage'),
  deleteProject: (id: string) => json<void>(`/projects/${id}`, 'DELETE'),
  runs: (id: string) => json<Run[]>(`/projects/${id}/runs`),
  startRun: (id: string, study: string, option: string) =>
    json<Run>(`/projects/${id}/runs`, 'POST', { study, option }),
  run: (id: string) => json<Run>(`/runs/${id}`),
  stopRun: (id: string) => json<Run>(`/runs/${id}/stop`, 'POST'),
  /** Keeps the last sweep of something; small ones reach the server although the page closes. */
  keepSweep(id: string, key: string, sweep: object): Promise<unknown> {
    const body = JSON.stringify(sweep);
    return call(`/projects/${id}/sweeps/${key}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body,
      keepalive: body.length < KEEPALIVE_BYTES,
    });
  },
  /** The sweep that is kept, or undefined. */
  sweep: (id: string, key: string) =>
    json<Record<string, unknown> | undefined>(`/projects/${id}/sweeps/${key}`),
  speed: () => json<{ raysPerSecond: number | null }>('/speed'),
  async result(id: string): Promise<StudyResult> {
    const [response, { resultFromBytes }] = await Promise.all([
      call(`/runs/${id}/result`),
      resultReading.fetch(),
    ]);
    return resultFromBytes(new Uint8Array(await response.arrayBuffer()));
  },
  pictures: (id: string, offset = 0) =>
    json<PictureLine[]>(`/projects/${id}/pictures?limit=${PICTURES_A_PAGE}&offset=${offset}`),
  /** Keeps a picture in the gallery of a project, with a small copy. */
  async keepPicture(
    id: string,
    facts: Pick<PictureLine, 'name' | 'optionId' | 'viewpoint' | 'date' | 'minutes'>,
    picture: Blob,
    thumb: Blob,
  ): Promise<PictureLine> {
    const { optionId, minutes, ...rest } = facts;
    const query = new URLSearchParams({ ...rest, option: optionId, minutes: String(minutes) });
    const response = await call(`/projects/${id}/pictures?${query}`, {
      method: 'POST',
      headers: { 'Content-Type': 'image/png' },
      body: picture,
    });
    const kept = (await response.json()) as PictureLine;
    await call(`/pictures/${kept.id}/thumb`, {
      method: 'PUT',
      headers: { 'Content-Type': 'image/jpeg' },
      body: thumb,
    });
    return { ...kept, hasThumb: true };
  },
  removePicture: (id: string) => json<void>(`/pictures/${id}`, 'DELETE'),
  async mesh(hash: string): Promise<Mesh> {
    const response = await call(`/meshes/${hash}`);
    return meshFromBytes(new Uint8Array(await response.arrayBuffer()));
  },
  /** The bytes of a picture on the ground. */
  underlay: async (hash: string) => (await call(`/underlays/${hash}`)).blob(),
  async putUnderlay(
    bytes: Uint8Array<ArrayBuffer>,
  ): Promise<{ hash: string; widthPx: number; heightPx: number }> {
    const response = await call('/underlays', {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: bytes,
    });
    return (await response.json()) as { hash: string; widthPx: number; heightPx: number };
  },
  async putMesh(mesh: Mesh): Promise<{ hash: string; triangles: number }> {
    const response = await call('/meshes', {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: meshToBytes(mesh) as Uint8Array<ArrayBuffer>,
    });
    return (await response.json()) as { hash: string; triangles: number };
  },
};
