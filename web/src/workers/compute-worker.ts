import {
  altitudeTable,
  assembleScene,
  extentOf,
  InputError,
  likelyUnit,
  type Mesh,
  type MeshStore,
  type ModelUnit,
  modelInMetres,
  type ObjModel,
  planSunHours,
  type PointSky,
  pointSky,
  type PointYear,
  pointYear,
  type Project,
  readObj,
  sceneObstacles,
  type Study,
  type UpAxis,
} from '@dial-shade/core';
import { expose } from 'comlink';

/** What a plan comes to, or why it cannot be run. */
export interface PlanFigures {
  sensors: number;
  suns: number;
  rays: number;
  notes: string[];
  refused: string | null;
}

/** A model file as read, before it is brought in. */
export interface ObjPreview {
  triangles: number;
  vertices: number;
  groups: { name: string; firstTriangle: number }[];
  flatFaces: number;
  /** Extent in the file's own units and axes. */
  min: [number, number, number];
  max: [number, number, number];
  likely: { z: ModelUnit; y: ModelUnit };
}

/** The year and the sky of a point, with the names of those who take its light. */
export interface PointLight {
  year: PointYear;
  sky: PointSky;
  owners: string[];
}

let model: ObjModel | null = null;

const worker = {
  altitudes: altitudeTable,

  plan(project: Project, optionId: string, study: Study): PlanFigures {
    try {
      const plan = planSunHours(project, optionId, study);
      return {
        sensors: plan.grid.count,
        suns: plan.suns.count,
        rays: plan.rays,
        notes: plan.notes,
        refused: null,
      };
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return { sensors: 0, suns: 0, rays: 0, notes: [], refused: error.message };
    }
  },

  point(
    project: Project,
    optionId: string,
    meshes: MeshStore,
    at: [number, number, number],
    normal: [number, number, number],
  ): PointLight {
    const scene = assembleScene(project, optionId, meshes);
    const obstacles = sceneObstacles(scene);
    const owners = { surfaceOf: scene.surfaceOf, ownerOf: scene.ownerOf, count: scene.owners.length };
    return {
      year: pointYear(project.site, at, normal, obstacles, owners, 96),
      sky: pointSky(project.site, at, obstacles, owners),
      owners: scene.owners.map((owner) => owner.name),
    };
  },

  /** Reads a model and keeps it for `takeModel`. Gives a sentence instead when it cannot be read. */
  readModel(bytes: Uint8Array, progress: (share: number) => void): ObjPreview | { refused: string } {
    try {
      model = readObj(bytes, (share) => progress(share));
      const { min, max } = extentOf(model.mesh.positions);
      return {
        triangles: model.mesh.triangles.length / 3,
        vertices: model.mesh.positions.length / 3,
        groups: model.groups,
        flatFaces: model.flatFaces,
        min,
        max,
        likely: { z: likelyUnit(model.mesh, 'z'), y: likelyUnit(model.mesh, 'y') },
      };
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return { refused: error.message };
    }
  },

  /** The model read last, in metres with z up. */
  takeModel(unit: ModelUnit, up: UpAxis): Mesh | { refused: string } {
    try {
      return modelInMetres(model!.mesh, unit, up);
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
      return { refused: error.message };
    }
  },
};

export type ComputeWorker = typeof worker;

expose(worker);
