import {
  change,
  type Changes,
  documentChanges,
  type Edit,
  editProject,
  mergeProjects,
  moveOwner,
  type Project,
  withChanges,
} from '@dial-shade/core';
import { kelpLane, mesaBaja } from '@dial-shade/samples';
import { seeded } from './seeded.mjs';

/**
 * Pages that work on projects as pages do, for the drill: tsx drill-pages.ts URL PAGES EDITS. Two share a project; each changes
 * the samples' own documents with a pause between, sends what changed, and merges where the other was first. Prints as JSON the
 * time of each save until it stood, ms, and how many had to be merged.
 */
const THINK_MS = 400;
/** Saves of each page that come before those whose times are told: its engine is not warm yet. */
const WARM = 3;

const [url, pages, edits] = process.argv.slice(2);
const random = seeded(20261202);
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function ask<T>(path: string, method = 'GET', body?: unknown): Promise<{ status: number; body: T }> {
  const answer = await fetch(`${url}/api${path}`, {
    method,
    ...(body !== undefined && {
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }),
  });
  return { status: answer.status, body: (await answer.json()) as T };
}

interface Stored {
  id: string;
  revision: number;
  project: Project;
}

type Newer = { revision: number; project?: Project; changes?: Changes | null };

/** The newer document, as a page makes it of its own. */
const made = (base: Project, { project, changes }: Newer): Project =>
  project ?? (changes ? withChanges(base, changes) : base);

/** Hears of the revisions of a project, as pages do. */
async function follow(id: string, signal: AbortSignal, told: (revision: number) => void): Promise<void> {
  const answer = await fetch(`${url}/api/projects/${id}/events`, { signal });
  let text = '';
  for await (const chunk of answer.body!.pipeThrough(
    new TextDecoderStream(),
  ) as unknown as AsyncIterable<string>) {
    text += chunk;
    const events = text.split('\n\n');
    text = events.pop()!;
    for (const event of events) {
      const found = /^event: revision\ndata: (.*)$/m.exec(event);
      if (found) told((JSON.parse(found[1]!) as { revision: number }).revision);
    }
  }
}

/** Something that a person may do next. */
function nextEdit(project: Project, page: number, turn: number): Edit {
  const masses = project.options.flatMap(({ id, masses: of }) =>
    of.map((mass) => ({ optionId: id, id: mass.id })),
  );
  return pick<() => Edit>([
    () => moveOwner(pick(masses), random() - 0.5, random() - 0.5),
    () => change('targets', pick(project.targets).id, { name: `Target ${page}.${turn}` }),
    () => change('studies', pick(project.studies).id, { stepMinutes: pick([10, 15, 30]) }),
    () => editProject({ note: `Page ${page}, change ${turn}` }),
  ])();
}

const times: number[] = [];
let merged = 0;
let failed = 0;

async function page(index: number, id: string): Promise<void> {
  let base = (await ask<Stored>(`/projects/${id}`)).body;
  let newest = base.revision;
  const leaving = new AbortController();
  const following = follow(id, leaving.signal, (revision) => (newest = Math.max(newest, revision))).catch(
    () => {},
  );
  await pause(random() * THINK_MS);
  for (let turn = 0; turn < Number(edits); turn++) {
    await pause(THINK_MS * (0.5 + random()));
    if (newest > base.revision) {
      const { body } = await ask<Newer>(`/projects/${id}/changes?since=${base.revision}`);
      base = { id, revision: body.revision, project: made(base.project, body) };
    }
    let project = nextEdit(base.project, index, turn)(base.project);
    const began = performance.now();
    for (;;) {
      const changes = documentChanges(base.project, project);
      if (!changes) break;
      const { status, body } = await ask<Newer>(`/projects/${id}`, 'PATCH', {
        revision: base.revision,
        changes,
      });
      if (status === 200) {
        base = { id, revision: body.revision, project };
        break;
      }
      if (status !== 409) {
        failed++;
        break;
      }
      merged++;
      const theirs = made(base.project, body);
      project = mergeProjects(base.project, project, theirs).merged;
      base = { id, revision: body.revision, project: theirs };
    }
    if (turn >= WARM) times.push(performance.now() - began);
  }
  leaving.abort();
  await following;
}

const samples = [kelpLane(), mesaBaja()];
const ids: string[] = [];
for (let i = 0; i < Number(pages); i += 2)
  ids.push((await ask<Stored>('/projects', 'POST', { project: samples[(i / 2) % 2] })).body.id);
await Promise.all(Array.from({ length: Number(pages) }, (_, i) => page(i, ids[i >> 1]!)));
process.stdout.write(JSON.stringify({ times, merged, failed }));
