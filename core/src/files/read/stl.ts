import { InputError } from '../../errors';
import type { Mesh } from '../../geometry';
import { MAX_TRIANGLES, tooMany } from '../mesh-bytes';
import { MeshGather } from '../mesh-gather';
import {
  blankModel,
  checkSize,
  cleanName,
  type ModelFile,
  type ReadProgress,
  textOfFile,
  leftOut,
} from '../model-file';

/** Header of a binary file: 80 bytes of anything and the count of triangles. */
const HEADER = 84;
const RECORD = 50;

/**
 * Reads an STL file, text or binary. Corners in the same place are welded; normals in the file are ignored.
 * Throws InputError `stl`, `too-large`, `empty` or `too-many-triangles`.
 */
export function readStl(bytes: Uint8Array, progress?: ReadProgress): ModelFile {
  checkSize(bytes);
  const gather = new MeshGather();
  const model = blankModel('stl');
  if (isBinary(bytes)) readBinary(bytes, gather, model.notes, progress);
  else readText(bytes, gather, model.notes, progress);
  model.mesh = gather.mesh('stl', 'The file holds no triangles; export surfaces.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  if (model.groups.length === 0) model.groups.push({ name: 'Model', firstTriangle: 0 });
  model.notes.push(...leftOut(gather.flat, 'triangle without area', 'triangles without area'));
  return model;
}

/** Whether it is binary: not text that begins with “solid” and goes on with facets, whatever else its first bytes say. */
function isBinary(bytes: Uint8Array): boolean {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 1024)).replace(/^\u00ef\u00bb\u00bf/, '');
  if (!/^\s*solid\b/i.test(head)) return true;
  if (bytes.length >= HEADER) {
    const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true);
    if (bytes.length === HEADER + count * RECORD) return true;
    // A header may begin with “solid” too; what follows it is no text then.
    if (bytes.subarray(0, Math.min(bytes.length, 1024)).some((byte) => byte === 0)) return true;
  }
  return false;
}

function readBinary(bytes: Uint8Array, gather: MeshGather, notes: string[], progress?: ReadProgress): void {
  if (bytes.length < HEADER) throw new InputError('stl', 'The file is too short for an STL file.');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(80, true);
  if (bytes.length < HEADER + count * RECORD)
    throw new InputError(
      'stl',
      `The file names ${count.toLocaleString('en')} triangles but is cut off or is not an STL file.`,
    );
  if (count > MAX_TRIANGLES) throw tooMany(count);
  const rest = bytes.length - HEADER - count * RECORD;
  if (rest > 0) notes.push(`${rest.toLocaleString('en')} bytes behind the last triangle are left out.`);
  for (let t = 0; t < count; t++) {
    if ((t & 0x3fff) === 0 && progress?.(t / count) === false) throw stopped();
    const corner = (k: number) => {
      const at = HEADER + t * RECORD + 12 + k * 12;
      return gather.corner([
        view.getFloat32(at, true),
        view.getFloat32(at + 4, true),
        view.getFloat32(at + 8, true),
      ]);
    };
    gather.triangle(corner(0), corner(1), corner(2));
  }
}

function stopped(): InputError {
  return new InputError('stopped', 'Reading was stopped.');
}

function readText(bytes: Uint8Array, gather: MeshGather, notes: string[], progress?: ReadProgress): void {
  const text = textOfFile(bytes, notes).replace(/\r\n?/g, '\n');
  let isOpen = false;
  let corners: number[] = [];
  let number = 0;
  let at = 0;
  while (at < text.length) {
    if ((number & 0x3fff) === 0 && progress?.(at / text.length) === false) throw stopped();
    const found = text.indexOf('\n', at);
    const end = found < 0 ? text.length : found;
    const raw = text.slice(at, end).trim();
    const line = raw.toLowerCase();
    at = end + 1;
    number++;
    if (line.startsWith('vertex')) {
      const [, ...words] = line.split(/\s+/);
      const [x, y, z] = words.map(Number);
      if (words.length < 3 || !Number.isFinite(x) || !Number.isFinite(y) || !Number.isFinite(z))
        throw new InputError('stl', `Line ${number}: a vertex needs three numbers.`);
      corners.push(gather.corner([x!, y!, z!]));
    } else if (line.startsWith('endloop')) {
      if (corners.length < 3)
        throw new InputError('stl', `Line ${number}: a facet has ${corners.length} corners; it needs three.`);
      for (let k = 2; k < corners.length; k++) gather.triangle(corners[0]!, corners[k - 1]!, corners[k]!);
      corners = [];
    } else if (/^solid\b/.test(line)) {
      isOpen = true;
      gather.group(cleanName(raw.slice(5), `Solid ${gather.groups.length + 1}`));
    } else if (/^end ?solid\b/.test(line)) isOpen = false;
  }
  if (isOpen || corners.length > 0)
    notes.push('The file ends within a solid: it may be cut off. What there is of it is read.');
}

/** A mesh as a binary STL file; coordinates in single precision. */
export function writeStl({ positions: p, triangles }: Mesh, title = 'Dial Shade'): Uint8Array {
  const count = triangles.length / 3;
  const bytes = new Uint8Array(HEADER + count * RECORD);
  new TextEncoder().encodeInto(title.replace(/^solid/i, '').slice(0, 60), bytes);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, count, true);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++)
      for (let axis = 0; axis < 3; axis++)
        view.setFloat32(
          HEADER + t * RECORD + 12 + k * 12 + axis * 4,
          p[triangles[t * 3 + k]! * 3 + axis]!,
          true,
        );
  return bytes;
}
