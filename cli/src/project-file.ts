import {
  csvAs,
  type CsvForm,
  InputError,
  type Mesh,
  meshFromFile,
  meshToFile,
  parseProjectFile,
  picturesFromFile,
  picturesNamed,
  type Project,
  requireOption,
  toBase64,
} from '@dial-shade/core';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

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

/** A project with what its file holds beside it, by content hash. */
export interface ProjectRead {
  project: Project;
  meshes: Map<string, Mesh>;
  /** Bytes of the pictures on the ground. */
  pictures: Map<string, Uint8Array>;
}

/** A checked project with its meshes and pictures. Throws InputError with every problem. */
export async function readProject(path: string): Promise<ProjectRead> {
  return checkedFile(await readJson(path));
}

function checkedFile(raw: unknown): ProjectRead {
  const { project, meshes, pictures } = parseProjectFile(raw);
  return {
    project,
    meshes: new Map(Object.entries(meshes).map(([hash, mesh]) => [hash, meshFromFile(mesh)])),
    pictures: picturesFromFile(project, pictures),
  };
}

/** The id of the option with this letter, name or id. Throws InputError `option`. */
export function optionId(project: Project, typed: string): string {
  const wanted = typed.toLowerCase();
  const found =
    project.options.find((option) => option.id === typed) ??
    project.options.find((option) => option.letter.toLowerCase() === wanted) ??
    project.options.find((option) => option.name.toLowerCase() === wanted);
  return found ? found.id : requireOption(project, typed).id;
}

/** The bytes of a file. Throws InputError `file`. */
export async function readBytes(path: string): Promise<Uint8Array> {
  try {
    return new Uint8Array(await readFile(path));
  } catch {
    throw new InputError('file', `The file ${path} cannot be read; is the path right?`);
  }
}

/** Writes a file. Throws InputError `out`. */
export async function writeOut(path: string, content: Uint8Array | string): Promise<void> {
  try {
    await writeFile(path, content);
  } catch (error) {
    throw new InputError('out', `The file ${path} cannot be written: ${(error as Error).message}.`);
  }
}

/** Writes files by name to a folder, which is made when it is not there; CSV in the form that is asked for. Throws InputError `out`. */
export async function writeFolder(
  { out, csv = 'plain' }: { out: string; csv?: CsvForm },
  files: Readonly<Record<string, Uint8Array | string>>,
): Promise<void> {
  try {
    await mkdir(out, { recursive: true });
  } catch (error) {
    throw new InputError('out', `The folder ${out} cannot be made: ${(error as Error).message}.`);
  }
  for (const [name, content] of Object.entries(files))
    await writeOut(join(out, name), name.endsWith('.csv') ? csvAs(textOf(content), csv) : content);
}

const textOf = (content: Uint8Array | string) =>
  typeof content === 'string' ? content : Buffer.from(content).toString('utf8');

/** A project file as text that can be read again, meshes, pictures and all. Throws InputError with every problem. */
export function checkedText(read: ProjectRead): string {
  const text = projectText(read);
  checkedFile(JSON.parse(text));
  return text;
}

/** A project file with the meshes and pictures that the project names. */
export function projectText({ project, meshes, pictures }: ProjectRead): string {
  const named = picturesNamed(project);
  const held = {
    meshes: Object.fromEntries([...meshes].map(([hash, mesh]) => [hash, meshToFile(mesh)])),
    pictures: Object.fromEntries(
      [...pictures].flatMap(([hash, bytes]) => (named.has(hash) ? [[hash, toBase64(bytes)]] : [])),
    ),
  };
  const filled = Object.entries(held).filter(([, things]) => Object.keys(things).length > 0);
  return `${JSON.stringify({ ...project, ...Object.fromEntries(filled) })}\n`;
}
