import {
  type Becomes,
  contentHash,
  differenceInWords,
  importModel,
  type ImportChoices,
  type ImportOutcome,
  extentOfAll,
  outlineRow,
  placing,
  type PlaceChoices,
  faultSentences,
  type IfcReader,
  InputError,
  heightProperties,
  heightsInWords,
  likelyUnitOf,
  meshFaults,
  type ModelFile,
  type ModelFormat,
  type ModelRow,
  modelRows,
  type ModelUnit,
  type Project,
  readModelFile,
  rememberedBecomes,
  type Source,
  sourceOf,
  type UpAxis,
  weldMesh,
} from '@dial-shade/core';
import tzLookup from 'tz-lookup';
import ifcWasm from 'web-ifc/web-ifc.wasm?url';
import { refusing } from './refusing';

export interface OutlineInPlan {
  row: string;
  colourRow: string;
  name: string;
  rings: [number, number][][];
}

/** A model file as read, before it is brought in. */
export interface ModelPreview {
  format: ModelFormat;
  triangles: number;
  vertices: number;
  footprints: number;
  rooms: number;
  /** Heights that may become the terrain. */
  heights: number;
  rows: ModelRow[];
  /** The same with outlines by the colour that they are drawn in; null where the file has no colours. */
  rowsByColour: ModelRow[] | null;
  unit: ModelUnit | null;
  up: UpAxis | null;
  geographic: boolean;
  /** Whether latitude stood first; null where that is no question. */
  latitudeFirst: boolean | null;
  /** Extent in the file's own units and axes. */
  min: [number, number, number];
  max: [number, number, number];
  likely: { z: ModelUnit; y: ModelUnit };
  site: ModelFile['site'];
  trueNorthDeg: number | null;
  /** The map system that the file names. */
  system: string | null;
  /** Outlines in plan with their courts, in the file’s own unit, with the row that each belongs to. */
  outlines: OutlineInPlan[];
  /** Whether rings lie within outlines, as courts do. */
  hasCourts: boolean;
  /** Whether lines go round others as those of plots do. */
  hasRounds: boolean;
  /** Properties of outlines that hold numbers, and the one that most likely holds heights. */
  properties: string[];
  /** The one that most likely holds heights, and the one of storeys. */
  heightProperty: string | null;
  storeysProperty: string | null;
  notes: string[];
}

/** The library that reads IFC, fetched only when such a file comes. */
async function ifcReader(): Promise<IfcReader> {
  const WebIfc = await import('web-ifc');
  const api = new WebIfc.IfcAPI();
  await api.Init(() => ifcWasm, true);
  api.SetLogLevel(WebIfc.LogLevel.LOG_LEVEL_OFF);
  return { api, codes: WebIfc };
}

function previewOf(file: ModelFile): ModelPreview {
  const { min, max } = extentOfAll(file, { up: 'z' }, 1);
  const heights = heightProperties(file.footprints);
  return {
    format: file.format,
    triangles: file.mesh ? file.mesh.triangles.length / 3 : 0,
    vertices: file.mesh ? file.mesh.positions.length / 3 : 0,
    footprints: file.footprints.length,
    rooms: file.rooms.length,
    heights: file.spots.reduce((sum, { positions }) => sum + positions.length / 3, 0),
    rows: modelRows(file),
    rowsByColour: file.format === 'dxf' ? modelRows(file, 'colour') : null,
    unit: file.unit,
    up: file.up,
    geographic: file.geographic,
    latitudeFirst: file.latitudeFirst ?? null,
    min: finite(min),
    max: finite(max),
    system: file.system,
    outlines: file.footprints.map((footprint) => ({
      row: outlineRow(footprint),
      colourRow: outlineRow(footprint, 'colour'),
      name: footprint.name,
      rings: [footprint.outer, ...footprint.holes].map((ring) =>
        ring.map(([x, y]): [number, number] => [x, y]),
      ),
    })),
    hasRounds: file.footprints.some(({ isRound }) => isRound),
    hasCourts: file.footprints.some(({ holes }) => holes.length > 0),
    likely: { z: likelyUnitOf(file, 'z'), y: likelyUnitOf(file, 'y') },
    site: file.site,
    trueNorthDeg: file.trueNorthDeg,
    // A drawing says nothing of its outlines but layer and colour.
    properties:
      file.format === 'dxf'
        ? []
        : [...new Set(file.footprints.flatMap(({ properties }) => Object.keys(properties)))].slice(0, 60),
    heightProperty: heights.height,
    storeysProperty: heights.storeys,
    notes: [...file.notes, ...(file.mesh ? faultSentences(meshFaults(weldMesh(file.mesh))) : [])],
  };
}

const finite = (p: readonly number[]) =>
  p.map((v) => (Number.isFinite(v) ? v : 0)) as [number, number, number];

/** What is known of a file from before. */
export interface KnownBefore {
  file: { name: string; hash: string };
  source: Source | null;
  /** What its rows became, here or in the last file that had such layers. */
  becomes: Record<string, Becomes>;
}

/** What is asked about a model file: the one that was read last is kept until it is brought in. */
export function modelFileWork() {
  let model: ModelFile | null = null;
  let file = { name: '', hash: '' };
  return {
    /** Reads a model and keeps it for `importModel`. Gives a sentence instead when it cannot be read. */
    async readModel(
      bytes: Uint8Array,
      name: string,
      progress: (share: number) => void,
      options: NonNullable<Parameters<typeof readModelFile>[4]>,
    ): Promise<ModelPreview | { refused: string }> {
      try {
        file = { name, hash: contentHash(bytes) };
        model = await readModelFile(bytes, name, ifcReader, progress, options);
        return previewOf(model);
      } catch (error) {
        if (!(error instanceof InputError)) throw error;
        return { refused: error.message };
      }
    },

    /** Whether the model read last was brought in before, and what its parts became. */
    knownBefore(into: Project): KnownBefore {
      const source = sourceOf(into, model!, file.name, file.hash);
      return { file, source, becomes: rememberedBecomes(into, modelRows(model!), source) };
    },

    /** What reading the model again changes, in sentences; or why it cannot be brought in. */
    differenceOf(into: Project, choices: ImportChoices): string[] {
      const found = refusing(() => importModel(into, model!, choices, tzLookup).difference);
      if (!found) return [];
      return 'refused' in found ? [found.refused] : differenceInWords(found, choices.keepGone ?? false);
    },

    /** What placing the model read last would move, in sentences; or why it cannot be placed. */
    placedAt(into: Project, choices: PlaceChoices): string[] {
      const found = refusing(() => placing(into, model!, choices));
      return 'refused' in found ? [found.refused] : found.notes;
    },

    /** How high the outlines of the model read last become, and from what, in sentences. */
    heightsTaken: (choices: ImportChoices): string[] => heightsInWords(model!, choices),

    /** The project with the model read last in it. */
    importModel: (into: Project, choices: ImportChoices): ImportOutcome | { refused: string } =>
      refusing(() => importModel(into, model!, choices, tzLookup)),
  };
}
