import { cutText } from '../../../civil';
import type { MeshStore } from '../../../geometry';
import type { Becomes, Project, Source, SourcePart } from '../../../project';
import { idFor, type Importing } from '../importing';
import type { ModelFile } from '../../model-file';
import type { OutlinesBy } from '../../model-rows';
import type { ModelUnit, UpAxis } from '../../model-units';
import type { Pinned } from '../placing';
import { marksOf, placedThings } from './marks';
import { type Difference, differenceInWords, readAgain, without } from './read-again';
import { decidedBecomes } from './source-of';

/** Whether a file is remembered, and what it takes the place of. */
export interface RememberChoices {
  /** What outlines are decided on together by. */
  outlinesBy?: OutlinesBy;
  /** The file: it is remembered, so that it can be read again. Left out: it is not. */
  file?: { name: string; hash: string };
  /** Id of what is remembered of an earlier reading, whose parts these take the place of; null: they come beside it. */
  again?: string | null;
  /** Read again: leaves what the file no longer holds. */
  keepGone?: boolean;
  /** Meshes of the project by their hash, for openings in what is read again. */
  known?: MeshStore;
}

/** What is known where a file has come in: the project before, what it was read as before, and what was decided. */
interface Known {
  before: Project;
  source: Source | null;
  decided: ReadonlyMap<string, Becomes>;
  pinned: Pinned | null;
}

/** Files that are remembered. */
const MAX_SOURCES = 50;

/** Puts what is read again in its place, and remembers the file. Gives what reading it again changes. */
export function remember(
  into: Importing,
  model: ModelFile,
  choices: RememberChoices & { unit: ModelUnit; up: UpAxis },
  { before, source, decided, pinned }: Known,
): Difference | null {
  const { file } = choices;
  let difference: Difference | null = null;
  let parts: SourcePart[];
  if (source) {
    const again = readAgain({
      before,
      after: into.project,
      meshes: new Map([...(choices.known ?? []), ...into.meshes]),
      source,
      fresh: into.parts,
      leftOut: into.leftOut,
      keepGone: choices.keepGone ?? false,
    });
    ({ difference, parts } = again);
    into.project = again.project;
    into.ids = again.ids;
    into.notes.unshift(...differenceInWords(difference, choices.keepGone ?? false));
  } else {
    const things = placedThings(into.project);
    parts = into.parts.flatMap(({ part, owner }) => {
      const placed = things.get(owner);
      return placed ? [{ part, owner, ...marksOf(placed) }] : [];
    });
    into.project = without(into.project, into.leftOut);
    into.ids = into.ids.filter((id) => !into.leftOut.has(id));
  }
  if (!file) return difference;
  const entry: Source = {
    id: source?.id ?? idFor(into, 'file'),
    file: cutText(file.name, 200),
    hash: file.hash,
    ...{ unit: choices.unit, up: choices.up },
    place: pinned && {
      file: [...pinned.file],
      board: [...pinned.board],
      ...{ turnDeg: pinned.turnDeg, lowM: pinned.lowM ?? 0 },
    },
    becomes: decidedBecomes(model, ({ key }) => decided.get(key)!, choices.outlinesBy),
    parts: parts.map(({ part, ...rest }) => ({ part: cutText(part, 200), ...rest })),
  };
  const others = into.project.sources.filter(({ id }) => id !== entry.id);
  const forgotten = others.slice(0, Math.max(0, others.length + 1 - MAX_SOURCES));
  if (forgotten.length > 0)
    into.notes.push(
      `Of ${MAX_SOURCES} files each can be read again; “${forgotten[0]!.file}”, the first of them, no longer.`,
    );
  into.project = { ...into.project, sources: [...others.slice(forgotten.length), entry] };
  return difference;
}
