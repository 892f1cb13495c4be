import {
  assembleScene,
  type MeshStore,
  type Obstacles,
  type Project,
  type Scene,
  sceneObstacles,
} from '@dial-shade/core';

/** Document, meshes and option that a question is about. */
export interface Asked {
  project: Project;
  meshes: MeshStore;
  optionId: string;
}

/** The scene that was asked about last: questions follow one another while a moment is dragged. */
let latest: (Asked & { scene: Scene; obstacles: Obstacles | null }) | null = null;

/** The scene of an option; the same object while the question is about the same. Throws InputError `option`. */
export function sceneNow({ project, meshes, optionId }: Asked): Scene {
  const isSame = latest?.project === project && latest.meshes === meshes && latest.optionId === optionId;
  if (!latest || !isSame)
    latest = { project, meshes, optionId, scene: assembleScene(project, optionId, meshes), obstacles: null };
  return latest.scene;
}

/** The same, ready for tracing. */
export function obstaclesNow(asked: Asked): Obstacles {
  const scene = sceneNow(asked);
  return (latest!.obstacles ??= sceneObstacles(scene));
}
