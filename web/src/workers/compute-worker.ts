import {
  altitudeTable,
  type RaysAsked,
  roomRays,
  InputError,
  inVariant,
  type MeshStore,
  type MomentReading,
  momentsOf,
  planStudy,
  type Polygon,
  type ShadeOn,
  type ShadowFiles,
  shadowFiles,
  shadowStudy,
  type SkyWeights,
  skyWeights,
  type PointSky,
  pointSky,
  type PointYear,
  pointYear,
  type Project,
  readMomentsTable,
  ownersOf,
  type Study,
  resultToBytes,
  requireStudy,
  withChanges,
  type Changes,
  MAX_LIVE_RAYS,
  runAtOnce,
  MemoryMasks,
  readWeather,
  storedWeather,
  type StandardWindow,
  type StoredWeather,
  type Subdivision,
  type WeatherField,
} from '@dial-shade/core';
import { expose, transfer } from 'comlink';
import {
  climateCarpet,
  climateFacts,
  degreeHoursFound,
  weatherFor,
  hourSetsFound,
  skyDome,
  windRoseFound,
} from './climate-work';
import { refusing } from './refusing';
import { obstaclesNow, sceneNow } from './scene-now';
import { compareWork } from './compare-work';
import { envelopeWork } from './envelope-work';
import { massingWork } from './massing-work';
import { shadingWork } from './shading-work';
import { takesOf } from './takes-work';
import { deepestRooms, roomDepths, roomsSun, type YearOf, yearOfSurface } from './room-work';

/** What a plan comes to, or why it cannot be run. */
export interface PlanFigures {
  sensors: number;
  directions: number;
  rays: number;
  notes: string[];
  refused: string | null;
}

/** The year and the sky of a point, with the names of those who take its light. */
export interface PointLight {
  year: PointYear;
  sky: PointSky;
  owners: string[];
}

/** Shade on receivers at moments. */
export interface ShadowsFound {
  rows: {
    moment: number;
    name: string;
    totalM2: number;
    shadedM2: number | null;
    newlyM2: number | null;
  }[];
  /** Of one moment, in plan. */
  shaded: Polygon[];
  newly: Polygon[];
  files: ShadowFiles | null;
}

/** What a table of moments is to hold. */
export interface MomentsAsked {
  facadeAzimuthDeg: number | null;
  stickM: number;
  /** Id of a probe whose sun is read. */
  probe: string | null;
}

/** The document and the meshes at hand; the page sends only what changed of them. */
let project: Project | null = null;
let meshes: MeshStore = new Map();
/** Masks of what was computed here: weighed again, nothing is traced. */
const masks = new MemoryMasks(192 * 1024 ** 2);

/** A small study computed here, as the bytes that the server would keep; or why it was not. */
export type AtOnce = { bytes: Uint8Array; seconds: number } | { refused: string } | 'too large';

const worker = {
  altitudes: altitudeTable,

  /** Takes a document, or what changed in the one at hand. */
  hold(changes: Changes): void {
    project = withChanges(project, changes);
  },

  holdMeshes(all: MeshStore): void {
    meshes = all;
  },

  /** Runs a small study of the document at hand at once; one that follows every change may be larger. */
  run(optionId: string, studyId: string, coarse: boolean, isLive: boolean): AtOnce {
    const began = performance.now();
    try {
      const asked = inVariant(project!, optionId);
      const study = requireStudy(project!, studyId);
      const found = runAtOnce(
        asked.project,
        asked.optionId,
        study,
        meshes,
        coarse,
        masks,
        isLive ? MAX_LIVE_RAYS : undefined,
      );
      if (!found) return 'too large';
      const bytes = resultToBytes(found.plan, found.values);
      return transfer({ bytes, seconds: (performance.now() - began) / 1000 }, [bytes.buffer]);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return { refused: error.message };
    }
  },

  plan(optionId: string, study: Study): PlanFigures {
    try {
      const asked = inVariant(project!, optionId);
      const plan = planStudy(asked.project, asked.optionId, study, meshes);
      return {
        sensors: plan.grid.count,
        directions: plan.directions.count,
        rays: plan.rays,
        notes: plan.notes,
        refused: null,
      };
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return { sensors: 0, directions: 0, rays: 0, notes: [], refused: error.message };
    }
  },

  point(optionId: string, at: [number, number, number], normal: [number, number, number]): PointLight {
    const asked = { project: project!, meshes, optionId };
    const scene = sceneNow(asked);
    const obstacles = obstaclesNow(asked);
    const owners = ownersOf(scene);
    return {
      year: pointYear(project!.site, at, normal, obstacles, owners, 96),
      sky: pointSky(project!.site, at, obstacles, owners),
      owners: scene.owners.map((owner) => owner.name),
    };
  },

  /** What each patch of the sky sends to a surface that faces one way, by what a study measures. */
  skyWeights: (studyId: string, normal: [number, number, number]): SkyWeights | null | { refused: string } =>
    refusing(() => skyWeights(project!, requireStudy(project!, studyId), normal)),

  /** Readings at the moments of a set, with the names of those who take the sun of a probe. */
  moments(
    optionId: string,
    setId: string,
    { facadeAzimuthDeg, stickM, probe }: MomentsAsked,
  ): { readings: MomentReading[]; owners: string[] } | { refused: string } {
    return refusing(() => {
      const { site, momentSets, probes } = project!;
      const at = probes.find(({ id }) => id === probe);
      const asked = { project: project!, meshes, optionId };
      const scene = at ? sceneNow(asked) : null;
      const point = at && {
        at: at.at,
        normal: at.normal,
        obstacles: obstaclesNow(asked),
        owners: ownersOf(scene!),
      };
      const moments = momentsOf(
        momentSets.find(({ id }) => id === setId)!,
        site,
      );
      return {
        readings: readMomentsTable(site, moments, { facadeAzimuthDeg, stickM, point: point ?? null }),
        owners: scene ? scene.owners.map(({ name }) => name) : [],
      };
    });
  },

  /** Exact shade at moments, as rows for a table, outlines in space for the board, and files. */
  shadows(
    optionId: string,
    moments: number[],
    on: ShadeOn,
    files: boolean,
  ): ShadowsFound | { refused: string } {
    return refusing(() => {
      const study = shadowStudy(project!, optionId, meshes, moments, on);
      const rows = study.rows.map((row) => ({
        moment: row.moment,
        name: row.receiver.name,
        totalM2: row.totalM2,
        shadedM2: row.shadedM2,
        newlyM2: row.newlyM2,
      }));
      const only = moments.length === 1 && on !== 'facades' ? study.rows : [];
      return {
        rows,
        shaded: only.flatMap(({ shaded }) => shaded),
        newly: only.flatMap(({ newly }) => newly),
        files: files ? shadowFiles(project!, study) : null,
      };
    });
  },

  /** The sun in rooms at a moment: figures by surface, and sunlit polygons for the board. */
  roomsSun: (optionId: string, atMs: number, which: string) =>
    refusing(() => roomsSun({ project: project!, meshes, optionId }, atMs, which)),

  /** How far the sun reaches into a room at each of some moments; null where it does not. */
  roomDepths: (optionId: string, key: string, moments: number[]) =>
    roomDepths({ project: project!, meshes, optionId }, key, moments),

  /** The deepest sun in rooms over moments. */
  deepestRooms: (optionId: string, which: string, moments: number[]) =>
    refusing(() => deepestRooms({ project: project!, meshes, optionId }, which, moments)),

  /** The year of a pane or of the top of a piece of furniture in a room; null where it is gone. */
  surfaceYear: (optionId: string, key: string, what: YearOf) =>
    yearOfSurface({ project: project!, meshes, optionId }, key, what),

  /** Rays into a room; null while the sun is down. */
  rays: (optionId: string, atMs: number, asked: RaysAsked) =>
    refusing(() => {
      const of = { project: project!, meshes, optionId };
      return roomRays(project!, optionId, meshes, atMs, asked, {
        scene: sceneNow(of),
        obstacles: obstaclesNow(of),
      });
    }),

  /** Who takes what from a study of an option. */
  takes: (optionId: string, studyId: string) =>
    refusing(() => takesOf({ project: project!, meshes, optionId }, studyId)),

  ...compareWork(() => ({ project: project!, meshes })),
  ...massingWork(() => ({ project: project!, meshes, masks })),
  ...envelopeWork(() => ({ project: project!, meshes })),
  ...shadingWork(() => ({ project: project!, meshes, masks })),

  /** What the weather of the document comes to; each only where it has one. */
  climateFacts: () => climateFacts(project!),
  climateCarpet: (of: WeatherField) => climateCarpet(project!, of),
  hourSets: () => hourSetsFound(project!),
  degreeHours: (aboveC: number, belowC: number) => degreeHoursFound(project!, aboveC, belowC),
  skyDome: (window: StandardWindow, subdivision: Subdivision) => skyDome(project!, window, subdivision),
  windRose: (months: readonly number[], fromHour: number, toHour: number) =>
    windRoseFound(project!, months, fromHour, toHour),

  /** Reads a weather file. Gives a sentence instead when it cannot be read. */
  readWeather: (bytes: Uint8Array, name: string): StoredWeather | { refused: string } =>
    refusing(() => storedWeather(readWeather(bytes), name)),

  /** A made-up weather year for the place of the document. */
  makeUpWeather: (seed: number): StoredWeather => weatherFor(project!, seed),
};

export type ComputeWorker = typeof worker;

expose(worker);
