import { Accessor, Document, type Node, WebIO } from '@gltf-transform/core';
import { InputError } from '../errors';
import type { Mesh } from '../geometry';
import { MAX_TRIANGLES, tooMany } from './mesh-bytes';
import { MeshGather } from './mesh-gather';
import { blankModel, checkSize, cleanName, type ModelFile, parseJson, type ReadProgress } from './model-file';

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const ELEMENTS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

/**
 * Reads a binary glTF 2.0 file (GLB, metres, y up): the triangles of its scene, one group a node that has a mesh.
 * Throws InputError `glb`, `too-large`, `empty` or `too-many-triangles`.
 */
export async function readGlb(bytes: Uint8Array, progress?: ReadProgress): Promise<ModelFile> {
  checkSize(bytes);
  checkBounds(bytes);
  let document: Document;
  try {
    document = await new WebIO().readBinary(bytes);
  } catch (error) {
    throw new InputError('glb', `The file is not a sound glTF binary: ${sentenceOf(error)}`);
  }
  const gather = new MeshGather();
  const root = document.getRoot();
  const scenes = root.getDefaultScene() ? [root.getDefaultScene()!] : root.listScenes();
  const nodes: Node[] = [];
  for (const scene of scenes) scene.traverse((node) => nodes.push(node));
  nodes.forEach((node, i) => {
    if (progress?.(i / nodes.length) === false) throw new InputError('stopped', 'Reading was stopped.');
    gatherNode(node, gather);
  });
  const model = blankModel('glb');
  model.mesh = gather.mesh('glb', 'The file holds no triangles in its scene; export surfaces.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  model.unit = 'm';
  model.up = 'y';
  if (gather.flat) model.notes.push(`${gather.flat} triangles without area are left out.`);
  return model;
}

function sentenceOf(error: unknown): string {
  const text = error instanceof Error ? error.message : 'it cannot be read';
  return `${text.replace(/\.$/, '')}.`;
}

/** Refuses a file whose numbers lead beyond its bytes, before anything is made of them. */
function checkBounds(bytes: Uint8Array): void {
  const fail = (what: string): never => {
    throw new InputError('glb', `The file is not a sound glTF binary: ${what}.`);
  };
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== MAGIC) fail('it does not begin as one');
  if (view.getUint32(4, true) !== 2) fail('only version 2 can be read');
  if (view.getUint32(8, true) > bytes.length) fail('it is cut off');
  const jsonLength = view.getUint32(12, true);
  if (view.getUint32(16, true) !== JSON_CHUNK || 20 + jsonLength > bytes.length)
    fail('its description is cut off');
  const json = parseJson(bytes.subarray(20, 20 + jsonLength), 'glb', 'a glTF binary') as Record<
    string,
    unknown
  >;
  if (typeof json !== 'object' || json === null) fail('its description is empty');
  const list = (key: string) => (Array.isArray(json[key]) ? (json[key] as Record<string, unknown>[]) : []);
  const required = Array.isArray(json.extensionsRequired) ? json.extensionsRequired : [];
  if (required.length)
    fail(
      `it needs the extension ${cleanName(required[0], 'of another kind')}; export it without compression`,
    );
  const natural = (value: unknown, otherwise = 0): number => {
    if (value === undefined) return otherwise;
    if (typeof value !== 'number' || !Number.isInteger(value) || value < 0)
      fail('a length is not a whole number');
    return value as number;
  };
  const buffers = list('buffers').map((buffer) => natural(buffer?.byteLength));
  if (buffers.some((length) => length > bytes.length)) fail('a buffer is longer than the file');
  if (list('buffers').some((buffer) => buffer?.uri !== undefined)) fail('it keeps its data in other files');
  const views = list('bufferViews').map((part) => {
    const length = natural(part?.byteLength);
    const buffer = buffers[natural(part?.buffer)];
    if (buffer === undefined || natural(part?.byteOffset) + length > buffer)
      fail('a part leads beyond the file');
    return length;
  });
  for (const accessor of list('accessors')) {
    const each =
      (COMPONENT_BYTES[accessor?.componentType as number] ?? 0) * (ELEMENTS[accessor?.type as string] ?? 0);
    const count = natural(accessor?.count);
    if (each === 0) fail('a list is of an unknown kind');
    if (count > bytes.length) fail('a list leads beyond the file');
    if (accessor.bufferView === undefined) continue;
    const length = views[natural(accessor.bufferView)];
    if (length === undefined || natural(accessor.byteOffset) + count * each > length)
      fail('a list leads beyond the file');
  }
}

function gatherNode(node: Node, gather: MeshGather): void {
  const mesh = node.getMesh();
  if (!mesh) return;
  const m = node.getWorldMatrix();
  gather.group(cleanName(node.getName() || mesh.getName(), `Part ${gather.groups.length + 1}`));
  for (const primitive of mesh.listPrimitives()) {
    const positions = primitive.getAttribute('POSITION');
    const mode = primitive.getMode();
    if (!positions || mode < 4) continue;
    const at = [0, 0, 0];
    const corners = Array.from({ length: positions.getCount() }, (_, i) => {
      const [x, y, z] = positions.getElement(i, at) as [number, number, number];
      return gather.corner([
        m[0] * x + m[4] * y + m[8] * z + m[12],
        m[1] * x + m[5] * y + m[9] * z + m[13],
        m[2] * x + m[6] * y + m[10] * z + m[14],
      ]);
    });
    const indices = primitive.getIndices();
    const count = indices ? indices.getCount() : corners.length;
    if (count / 3 > MAX_TRIANGLES) throw tooMany(Math.round(count / 3));
    const corner = (i: number): number => {
      const number = corners[indices ? indices.getScalar(i) : i];
      if (number === undefined)
        throw new InputError(
          'glb',
          `A triangle names corner ${indices!.getScalar(i)}, but there are ${corners.length}.`,
        );
      return number;
    };
    if (mode === 4)
      for (let i = 0; i + 2 < count; i += 3) gather.triangle(corner(i), corner(i + 1), corner(i + 2));
    else
      for (let i = 2; i < count; i++)
        if (mode === 6) gather.triangle(corner(0), corner(i - 1), corner(i));
        else if (i % 2 === 0) gather.triangle(corner(i - 2), corner(i - 1), corner(i));
        else gather.triangle(corner(i - 1), corner(i - 2), corner(i));
  }
}

/**
 * Named meshes (metres, z up) as a binary glTF 2.0 file (metres, y up); coordinates in single precision. `colours`: linear
 * red, green and blue a corner, from 0 to 1.
 */
export async function writeGlb(
  parts: readonly { name: string; mesh: Mesh; colours?: Float32Array }[],
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene('Dial Shade');
  document.getRoot().setDefaultScene(scene);
  for (const { name, mesh, colours } of parts) {
    const turned = new Float32Array(mesh.positions.length);
    for (let i = 0; i < turned.length; i += 3) {
      turned[i] = mesh.positions[i]!;
      turned[i + 1] = mesh.positions[i + 2]!;
      turned[i + 2] = -mesh.positions[i + 1]!;
    }
    const positions = document
      .createAccessor()
      .setType(Accessor.Type.VEC3!)
      .setArray(turned)
      .setBuffer(buffer);
    const indices = document
      .createAccessor()
      .setType(Accessor.Type.SCALAR!)
      .setArray(Uint32Array.from(mesh.triangles))
      .setBuffer(buffer);
    const primitive = document.createPrimitive().setAttribute('POSITION', positions).setIndices(indices);
    if (colours)
      primitive.setAttribute(
        'COLOR_0',
        document.createAccessor().setType(Accessor.Type.VEC3!).setArray(colours).setBuffer(buffer),
      );
    scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
  }
  return new WebIO().writeBinary(document);
}
