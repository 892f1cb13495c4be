import {
  cutText,
  type Becomes,
  type ImportChoices,
  MAX_MODEL_BYTES,
  type Mesh,
  type ModelRow,
  type Project,
  type Source,
  TODAY,
  type UpAxis,
  JOIN_M,
  likelyFor,
  readingSeconds,
  STOREY_M,
  tooSlow,
} from '@dial-shade/core';
import { proxy } from 'comlink';
import { type RefObject, useEffect, useRef, useState } from 'react';
import { api } from '../state/api';
import { rememberMesh, useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { openReader } from '../workers/compute';
import type { KnownBefore, ModelPreview } from '../workers/model-file-work';

/** How far bringing a file in has come. */
export type ImportStep =
  | { kind: 'choose'; wrong: string | null }
  | { kind: 'reading'; share: number; file: string }
  | { kind: 'preview'; preview: ModelPreview; file: string; before: Source | null }
  | { kind: 'sending' };

/** A page is slower than the command line: reading may take so much more of its time, and at least this. */
const MIN_S = 30;
const TIMES = 2;

type Reader = ReturnType<typeof openReader>;

/** How lines of a drawing, and longitudes and latitudes, are read. */
export interface DrawnAs {
  /** How far apart their ends may lie to be one, metres. */
  joinM: number;
  /** Whether whatever lies in a ring is a court of it, also in what looks like the line of a plot. */
  isCourts: boolean;
  /** Whether latitude stands before longitude; null: as it looks. */
  latitudeFirst: boolean | null;
}

const AS_IT_LOOKS: DrawnAs = { joinM: JOIN_M, isCourts: false, latitudeFirst: null };

/** Choices before anything is known of a file. */
export const BLANK: ImportChoices = {
  randomIds: true,
  unit: 'm',
  up: 'z',
  becomes: {},
  optionId: TODAY,
  heights: null,
  heightM: 6,
  takeSite: false,
  name: 'Model',
  centre: false,
  origin: null,
  pinned: null,
  storeyM: STOREY_M,
  courts: true,
  leftOut: [],
};

/** Reading a model file aside, what is decided about it, and bringing it in. */
export function useImport(onClose: () => void) {
  const project = useDocument();
  const shown = useView((v) => v.optionId);
  const [step, setStep] = useState<ImportStep>({ kind: 'choose', wrong: null });
  const [choices, setChoices] = useState<ImportChoices>(BLANK);
  const reader = useRef<Reader | null>(null);
  const limit = useRef<number | undefined>(undefined);

  const endReader = () => {
    clearTimeout(limit.current);
    reader.current?.end();
    reader.current = null;
  };
  useEffect(() => endReader, []);

  const close = () => {
    endReader();
    setStep({ kind: 'choose', wrong: null });
    onClose();
  };
  const refuse = (wrong: string) => {
    endReader();
    setStep({ kind: 'choose', wrong });
  };

  /** The file that was read last, to be read again with its lines taken otherwise. */
  const latest = useRef<File | undefined>(undefined);
  const [drawn, setDrawn] = useState<DrawnAs>(AS_IT_LOOKS);
  const readAgain = (as: Partial<DrawnAs>) => {
    setDrawn({ ...drawn, ...as });
    void read(latest.current, { ...drawn, ...as });
  };

  /** Reads a file that was chosen anew, as it looks. */
  const readNew = (file: File | undefined) => {
    setDrawn(AS_IT_LOOKS);
    void read(file, AS_IT_LOOKS);
  };

  const read = async (file: File | undefined, as: DrawnAs) => {
    if (!file) return;
    latest.current = file;
    const mb = file.size / 1048576;
    if (file.size > MAX_MODEL_BYTES) {
      refuse(
        `“${file.name}” has ${Math.round(mb)} MB; at most ${MAX_MODEL_BYTES / 1048576} MB can be read. Leave out what is far from the site.`,
      );
      return;
    }
    setStep({ kind: 'reading', share: 0, file: file.name });
    endReader();
    const opened = openReader();
    reader.current = opened;
    const bytes = new Uint8Array(await file.arrayBuffer());
    const seconds = MIN_S + readingSeconds(bytes) * TIMES;
    limit.current = window.setTimeout(() => refuse(`“${file.name}”: ${tooSlow(seconds)}.`), seconds * 1000);
    const answer = await opened.remote.readModel(
      bytes,
      file.name,
      proxy((share: number) => setStep((now) => (now.kind === 'reading' ? { ...now, share } : now))),
      { ...as, near: project.site.place, survey: project.site.survey },
    );
    if (reader.current !== opened) return;
    clearTimeout(limit.current);
    if ('refused' in answer) {
      refuse(`“${file.name}”: ${answer.refused}`);
      return;
    }
    const known = await opened.remote.knownBefore(currentProject());
    if (reader.current !== opened) return;
    setChoices(
      againChoices(proposedChoices(answer, file.name, proposedOption(project, shown)), answer, known),
    );
    setStep({ kind: 'preview', preview: answer, file: file.name, before: known.source });
  };

  const taken = useTaken(reader, step.kind === 'preview', choices);
  const changes = useChanges(reader, step, choices);

  const accept = async () => {
    if (step.kind !== 'preview') return;
    const before = step;
    setStep({ kind: 'sending' });
    try {
      await place(reader.current!, rowsOf(before.preview, choices), before.file, choices);
      close();
    } catch (error) {
      notify((error as Error).message, true);
      setStep(before);
    }
  };

  return { step, choices, setChoices, taken, changes, drawn, readNew, readAgain, accept, close };
}

/** What placing the model by the choices moves, and how high outlines become, asked of the reader. */
function useTaken(reader: RefObject<Reader | null>, isShown: boolean, choices: ImportChoices) {
  const [taken, setTaken] = useState<readonly string[]>([]);
  useEffect(() => {
    let isWanted = true;
    if (isShown) void takenBy(reader.current, choices).then((notes) => isWanted && setTaken(notes));
    return () => {
      isWanted = false;
    };
  }, [reader, isShown, choices]);
  return taken;
}

/** What reading the file again changes, asked of the reader; null where it does not, or while it is found out. */
function useChanges(reader: RefObject<Reader | null>, step: ImportStep, choices: ImportChoices) {
  const [found, setFound] = useState<{ of: ImportChoices; said: readonly string[] } | null>(null);
  const rows = step.kind === 'preview' ? rowsOf(step.preview, choices) : null;
  useEffect(() => {
    let isWanted = true;
    if (!rows || !choices.again || !reader.current) return undefined;
    const project = currentProject();
    const asked = { ...nameRows(rows, choices), known: knownMeshes(project) };
    void reader.current.remote
      .differenceOf(project, asked)
      .then((said) => isWanted && setFound({ of: choices, said }));
    return () => {
      isWanted = false;
    };
  }, [reader, rows, choices]);
  return found?.of === choices ? found.said : null;
}

const rowsOf = ({ rows, rowsByColour }: ModelPreview, { outlinesBy }: ImportChoices) =>
  outlinesBy === 'colour' ? (rowsByColour ?? rows) : rows;

async function takenBy(reader: Reader | null, choices: ImportChoices): Promise<string[]> {
  if (!reader) return [];
  const { unit, up, centre, origin, pinned } = choices;
  const where = { unit, up, centre, origin: origin ?? null, pinned: pinned ?? null };
  const asked = [reader.remote.placedAt(currentProject(), where), reader.remote.heightsTaken(choices)];
  return (await Promise.all(asked)).flat();
}

/** What the dialog proposes for a file: its own unit and axis where it states them, what each part most likely becomes. */
function proposedChoices(preview: ModelPreview, fileName: string, optionId: string): ImportChoices {
  const up: UpAxis = preview.up ?? 'z';
  return {
    ...BLANK,
    up,
    unit: preview.unit ?? preview.likely[up],
    // Shading follows what the rest becomes until it is decided on.
    becomes: Object.fromEntries(
      preview.rows.filter(({ likely }) => likely !== 'device').map((row) => [row.key, row.likely]),
    ),
    optionId,
    heights: null,
    name: cutText(fileName.replace(/\.[a-z]+$/i, ''), 80) || 'Model',
  };
}

/** What is proposed for a file of which something is known: to be read again as it was read before. */
function againChoices(proposed: ImportChoices, preview: ModelPreview, known: KnownBefore): ImportChoices {
  const { source, file } = known;
  const becomes = { ...proposed.becomes, ...known.becomes };
  if (!source) return { ...proposed, becomes, file };
  return {
    ...proposed,
    ...{ becomes, file, again: source.id, pinned: source.place },
    unit: preview.unit ?? (source.unit as ImportChoices['unit']),
    up: preview.up ?? source.up,
  };
}

/** Meshes whose openings go on in what is read again. */
function knownMeshes(project: Project): Map<string, Mesh> {
  const { meshes } = useMeshes.getState();
  const held = [...project.neighbours, ...project.options.flatMap(({ models }) => models)].flatMap((one) =>
    'mesh' in one && one.openings.length > 0 ? one.mesh : [],
  );
  return new Map(held.flatMap((hash) => (meshes.has(hash) ? [[hash, meshes.get(hash)!]] : [])));
}

/** The option that is shown, or the first proposal where Today is. */
function proposedOption(project: Project, shown: string): string {
  const proposals = project.options.filter((o) => o.id !== TODAY);
  return (proposals.find((o) => o.id === shown) ?? proposals[0])?.id ?? TODAY;
}

/** Puts the model that the reader holds into the project and its meshes on the server; throws with the reason. */
async function place(
  reader: Reader,
  rows: readonly ModelRow[],
  file: string,
  choices: ImportChoices,
): Promise<void> {
  const project = currentProject();
  const decided = { ...nameRows(rows, choices), ...(choices.again && { known: knownMeshes(project) }) };
  const answer = await reader.remote.importModel(project, decided);
  if ('refused' in answer) throw new Error(answer.refused);
  for (const [hash, mesh] of answer.meshes) {
    await api.putMesh(mesh);
    rememberMesh(hash, mesh);
  }
  const refused = edit(
    `${choices.again ? 'read' : 'bring in'} ${file}${choices.again ? ' again' : ''}`,
    () => answer.project,
    { quiet: true },
  );
  if (refused) throw new Error(refused);
  const fresh = answer.project.neighbours.find((n) => answer.ids.includes(n.id));
  if (fresh)
    setView({
      selection: { id: fresh.id, optionId: null, layer: 'neighbours', wallBearingDeg: null },
      also: [],
    });
  const said = choices.again
    ? `“${file}” is read again.`
    : `“${file}” is in. Move it by dragging (M) or by numbers.`;
  notify([said, ...answer.notes.slice(0, choices.again ? 5 : 3)].join(' '));
}

/** Everything that is not asked about is left as it was proposed. */
function nameRows(rows: readonly ModelRow[], choices: ImportChoices): ImportChoices {
  const becomes: Record<string, Becomes> = {};
  for (const row of rows) becomes[row.key] = choices.becomes[row.key] ?? likelyFor(row, choices.becomes);
  return { ...choices, becomes };
}
