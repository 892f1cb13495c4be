import {
  InputError,
  meshFromBytes,
  meshToFile,
  OUT_FORMATS,
  type OutFormat,
  type Project,
  refuseTooLarge,
  requireOption,
} from '@dial-shade/core';
import type { Router } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { MAX_FILE_BYTES } from '../jobs/errands';
import { getBlob, PICTURE_KINDS } from '../store/blobs';
import type { Database } from '../store/database';
import {
  findProject,
  findProjectText,
  type NamedBlob,
  namedBlobs,
  projectMeshBytes,
} from '../store/projects';
import { gone, handle, notFound, param, plainName, stream } from './answers';
import { parsed } from '../parsed';
import type { Services } from './services';
import { strictRouter } from './strict-router';

const query = z.object({ option: z.string().max(64), format: z.string().max(20) });

const TYPES: Record<OutFormat, [type: string, ending: string]> = {
  obj: ['model/obj', 'obj'],
  stl: ['model/stl', 'stl'],
  glb: ['model/gltf-binary', 'glb'],
  geojson: ['application/geo+json', 'geojson'],
  cityjson: ['application/json', 'city.json'],
  dxf: ['image/vnd.dxf', 'dxf'],
  ifc: ['application/x-step', 'ifc'],
};

/** Bytes of a mesh up to which it may be written as lists; how it is, is told by its triangles. */
const LISTED_BYTES = 1_048_576;
/** Bytes that are turned into base64 at once: a multiple of three. */
const CHUNK = 393_216;

/** What goes out of a project: an option as a file of an open format, the whole as a project file. */
export function exportRoutes({ db, errands }: Services): Router {
  const router = strictRouter();

  router.get(
    '/projects/:id/out',
    handle(async (request, response) => {
      const stored = await findProject(db, param(request, 'id'));
      if (!stored) throw notFound('This project');
      const { id, project } = stored;
      const { option, format: wanted } = parsed(query, request.query);
      const format = OUT_FORMATS.find((known) => known === wanted);
      if (!format)
        throw new InputError(
          'format',
          `“${wanted}” is no format that can be written; use ${OUT_FORMATS.join(', ')}.`,
        );
      const { letter, name } = requireOption(project, option);
      refuseTooLarge(project, option);
      const errand = async () => {
        const meshes = await projectMeshBytes(db, project);
        return { kind: 'out', project, optionId: option, format, meshes } as const;
      };
      const bytes = await errands.make(id, errand, gone(response));
      const [type, ending] = TYPES[format];
      response.attachment(`${plainName(`${project.name} ${letter} ${name}`, 'option')}.${ending}`).type(type);
      await stream(response, bytes);
    }),
  );

  router.get(
    '/projects/:id/file',
    handle(async (request, response) => {
      const stored = await findProjectText(db, param(request, 'id'));
      if (!stored) throw notFound('This project');
      const project = JSON.parse(stored.text) as Project;
      const blobs = await namedBlobs(db, project);
      refuseTooLargeFile(stored.text.length, blobs);
      response.attachment(`${plainName(project.name, 'project')}.json`).type('application/json');
      // Bytes of meshes and pictures hardly get smaller, and squeezing them takes long.
      if (blobs.length) response.set('Cache-Control', 'no-store, no-transform');
      await pipeline(Readable.from(projectFile(db, stored.text, blobs)), response);
    }),
  );

  return router;
}

/** Refuses a project file that could not be brought in again, before it is made. Throws InputError `too-large`. */
function refuseTooLargeFile(textBytes: number, blobs: readonly NamedBlob[]): void {
  const bytes = blobs.reduce((sum, blob) => sum + Math.ceil(blob.bytes / 3) * 4, textBytes);
  if (bytes > MAX_FILE_BYTES)
    throw new InputError(
      'too-large',
      `The project file would have ${Math.ceil(bytes / 1048576)} MB; at most ${MAX_FILE_BYTES / 1048576} MB can be taken out, and brought in again. Take out the largest meshes and pictures on the ground first.`,
    );
}

/** A project file piece by piece: the document, then one mesh and picture after another as it comes from the database. */
async function* projectFile(db: Database, text: string, blobs: readonly NamedBlob[]): AsyncGenerator<string> {
  yield text.slice(0, -1);
  for (const [key, kind] of [
    ['meshes', 'mesh'],
    ['pictures', 'picture'],
  ] as const) {
    const those = blobs.filter((blob) => blob.kind === kind);
    if (those.length === 0) continue;
    yield `,"${key}":{`;
    for (const [i, { hash }] of those.entries()) {
      yield `${i ? ',' : ''}"${hash}":`;
      yield* kind === 'mesh' ? meshText(db, hash) : pictureText(db, hash);
    }
    yield '}';
  }
  yield '}';
}

async function* meshText(db: Database, hash: string): AsyncGenerator<string> {
  const bytes = await getBlob(db, hash, 'mesh');
  if (!bytes) throw new Error(`the mesh ${hash} is gone`);
  if (bytes.length < LISTED_BYTES) yield JSON.stringify(meshToFile(meshFromBytes(bytes)));
  else {
    yield '{"bytes":';
    yield* quotedBase64(bytes);
    yield '}';
  }
}

async function* pictureText(db: Database, hash: string): AsyncGenerator<string> {
  const bytes = await getBlob(db, hash, ...PICTURE_KINDS);
  if (!bytes) throw new Error(`the picture ${hash} is gone`);
  yield* quotedBase64(bytes);
}

function* quotedBase64(bytes: Buffer): Generator<string> {
  yield '"';
  for (let at = 0; at < bytes.length; at += CHUNK)
    yield bytes.toString('base64', at, Math.min(bytes.length, at + CHUNK));
  yield '"';
}
