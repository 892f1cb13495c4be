import { InputError, type Mesh, meshFromFile, parseProjectFile, type Project } from '@dial-shade/core';
import { readFile } from 'node:fs/promises';

/** The JSON in a file. Throws InputError `file` when it cannot be read or is not JSON. */
export async function readJson(path: string): Promise<unknown> {
  let text: string;
  try {
    text = await readFile(path, 'utf8');
  } catch {
    throw new InputError('file', `The file ${path} cannot be read; is the path right?`);
  }
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new InputError('file', `The file ${path} is not JSON: ${(error as Error).message}.`);
  }
}

/** A checked project with its meshes. Throws InputError with every problem. */
export async function readProject(path: string): Promise<{ project: Project; meshes: Map<string, Mesh> }> {
  const { project, meshes } = parseProjectFile(await readJson(path));
  return {
    project,
    meshes: new Map(Object.entries(meshes).map(([hash, mesh]) => [hash, meshFromFile(mesh)])),
  };
}
