import { contentHash } from '../content-hash';
import { InputError } from '../errors';
import type { Mesh } from '../geometry';
import type { FileMesh } from '../project';
import { fromBase64, toBase64 } from './base64';

/** Triangles that one mesh may have. */
export const MAX_TRIANGLES = 2_000_000;
const MAGIC = 0x314d5344; // “DSM1”
const HEADER = 16;

/**
 * A mesh as bytes, little-endian: “DSM1”, vertex count, triangle count, zero (four 32-bit words), then 3 doubles a vertex,
 * then 3 32-bit vertex numbers a triangle.
 */
export function meshToBytes(mesh: Mesh): Uint8Array {
  const vertices = mesh.positions.length / 3;
  const triangles = mesh.triangles.length / 3;
  const bytes = new Uint8Array(HEADER + vertices * 24 + triangles * 12);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, vertices, true);
  view.setUint32(8, triangles, true);
  for (let i = 0; i < mesh.positions.length; i++) view.setFloat64(HEADER + i * 8, mesh.positions[i]!, true);
  const at = HEADER + vertices * 24;
  for (let i = 0; i < mesh.triangles.length; i++) view.setUint32(at + i * 4, mesh.triangles[i]!, true);
  return bytes;
}

/** The mesh in these bytes. Throws InputError `mesh` when they are not a sound mesh. */
export function meshFromBytes(bytes: Uint8Array): Mesh {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEADER || view.getUint32(0, true) !== MAGIC)
    throw new InputError('mesh', 'These bytes are not a mesh.');
  const vertices = view.getUint32(4, true);
  const triangles = view.getUint32(8, true);
  if (triangles > MAX_TRIANGLES) throw tooMany(triangles);
  if (bytes.length !== HEADER + vertices * 24 + triangles * 12)
    throw new InputError('mesh', 'The mesh is cut off or longer than it says.');
  const mesh: Mesh = { positions: new Float64Array(vertices * 3), triangles: new Uint32Array(triangles * 3) };
  for (let i = 0; i < mesh.positions.length; i++) mesh.positions[i] = view.getFloat64(HEADER + i * 8, true);
  const at = HEADER + vertices * 24;
  for (let i = 0; i < mesh.triangles.length; i++) mesh.triangles[i] = view.getUint32(at + i * 4, true);
  return checkMesh(mesh);
}

/** Meshes by hash, from their bytes. Throws InputError `mesh`. */
export function meshesFromBytes(bytes: ReadonlyMap<string, Uint8Array>): Map<string, Mesh> {
  return new Map([...bytes].map(([hash, mesh]) => [hash, meshFromBytes(mesh)]));
}

/** The mesh of a project file. Throws InputError `mesh`. */
export function meshFromFile(file: FileMesh): Mesh {
  if ('bytes' in file) return meshFromBytes(fromBase64(file.bytes));
  return checkMesh({
    positions: Float64Array.from(file.positions),
    triangles: Uint32Array.from(file.triangles),
  });
}

/** Triangles from which a mesh is written into a project file as bytes. */
const BYTES_FROM = 10_000;

/** The mesh as it is written into a project file: a small one as lists, a large one as bytes. */
export function meshToFile(mesh: Mesh): FileMesh {
  if (mesh.triangles.length / 3 >= BYTES_FROM) return { bytes: toBase64(meshToBytes(mesh)) };
  return { positions: Array.from(mesh.positions), triangles: Array.from(mesh.triangles) };
}

/** The name of a mesh: SHA-256 of its bytes. */
export function meshHash(mesh: Mesh): string {
  return contentHash(meshToBytes(mesh));
}

export function tooMany(triangles: number): InputError {
  return new InputError(
    'too-many-triangles',
    `The model has ${triangles.toLocaleString('en')} triangles; at most ${MAX_TRIANGLES.toLocaleString('en')} can be brought in. Leave out what is far from the site.`,
  );
}

function checkMesh(mesh: Mesh): Mesh {
  const vertices = mesh.positions.length / 3;
  if (!Number.isInteger(vertices) || mesh.triangles.length % 3 !== 0 || mesh.triangles.length === 0)
    throw new InputError('mesh', 'The mesh has no triangles.');
  for (const value of mesh.positions)
    if (!(Math.abs(value) <= 1e7))
      throw new InputError('mesh', 'The mesh has a coordinate that is not a number or lies too far away.');
  for (const index of mesh.triangles)
    if (index >= vertices)
      throw new InputError('mesh', `The mesh names vertex ${index + 1}, but has only ${vertices}.`);
  return mesh;
}
