import { Accessor, Document, type Mesh as GltfMesh, type Node, type Root, WebIO } from '@gltf-transform/core';
import { InputError } from '../../errors';
import type { Mesh } from '../../geometry';
import { MAX_TRIANGLES, tooMany } from '../mesh-bytes';
import { MeshGather } from '../mesh-gather';
import {
  blankModel,
  checkSize,
  cleanName,
  type ModelFile,
  parseJson,
  type ReadProgress,
  leftOut,
} from '../model-file';
import { statedThing, THING_KEY } from '../bring/things';

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
  const json = checkedJson(bytes);
  const notes = shapesOnly(json);
  const binary = 20 + new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
  let document: Document;
  try {
    document = await new WebIO().readJSON({
      json: json as never,
      resources: { '@glb.bin': bytes.slice(binary + 8) },
    });
  } catch (error) {
    throw new InputError('glb', `The file is not a sound glTF binary: ${sentenceOf(error)}`);
  }
  const gather = new MeshGather();
  const root = document.getRoot();
  const scenes = root.getDefaultScene() ? [root.getDefaultScene()!] : root.listScenes();
  const nodes: Node[] = [];
  for (const scene of scenes) scene.traverse((node) => nodes.push(node));
  const instances = instancesOf(json, root);
  nodes.forEach((node, i) => {
    if (progress?.(i / nodes.length) === false) throw new InputError('stopped', 'Reading was stopped.');
    gatherNode(node, gather, instances.get(node) ?? null);
  });
  const model = blankModel('glb');
  model.notes.push(...notes);
  model.mesh = gather.mesh('glb', 'The file holds no triangles in its scene; export surfaces.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  model.unit = 'm';
  model.up = 'y';
  model.notes.push(...leftOut(gather.flat, 'triangle without area', 'triangles without area'));
  return model;
}

type Json = Record<string, unknown>;

/** Extensions that a file may need: they say how it looks, or are read here. */
const ALLOWED =
  /^(KHR_materials_|KHR_texture_|KHR_lights_|KHR_xmp|EXT_texture_|MSFT_texture_|ADOBE_materials|KHR_mesh_quantization$|EXT_mesh_gpu_instancing$)/;

/** Takes from the description what is no shape: pictures may lie in other files. Gives what is left out, in sentences. */
function shapesOnly(json: Json): string[] {
  const list = (key: string) => (Array.isArray(json[key]) ? (json[key] as (Json | null)[]) : []);
  const needs = (Array.isArray(json.extensionsRequired) ? json.extensionsRequired : []) as unknown[];
  const unknown = needs.find((name) => !ALLOWED.test(String(name)));
  if (unknown !== undefined)
    throw new InputError(
      'glb',
      `The file is not a sound glTF binary for this program: it needs the extension ${cleanName(unknown, 'of another kind')}; export it without compression.`,
    );
  const notes: string[] = [];
  const skins = list('skins').length;
  const primitives = list('meshes').flatMap((mesh) =>
    Array.isArray(mesh?.primitives) ? (mesh.primitives as (Json | null)[]) : [],
  );
  const morphs = primitives.filter((one) => Array.isArray(one?.targets) && one.targets.length > 0).length;
  if (skins) notes.push(`${skins} skins are left out: what they bend stands as it was modelled.`);
  if (morphs) notes.push(`Morph targets of ${morphs} parts are left out: they stand as they were modelled.`);
  for (const primitive of primitives)
    if (primitive) for (const key of ['material', 'targets', 'extensions']) delete primitive[key];
  for (const node of list('nodes')) if (node) delete node.skin;
  for (const key of [
    'images',
    'textures',
    'samplers',
    'materials',
    'skins',
    'animations',
    'cameras',
    'extensions',
  ])
    delete json[key];
  delete json.extensionsRequired;
  delete json.extensionsUsed;
  return notes;
}

/** Where each node with instances has them, as matrices by columns, from the arrays that the file lists for it. */
function instancesOf(json: Json, root: Root): Map<Node, number[][]> {
  const found = new Map<Node, number[][]>();
  const accessors = root.listAccessors();
  root.listNodes().forEach((node, i) => {
    const raw = (json.nodes as (Json | null)[])[i];
    const instancing = ((raw?.extensions ?? {}) as Json).EXT_mesh_gpu_instancing as Json | undefined;
    if (!instancing) return;
    const attributes = (instancing.attributes ?? {}) as Json;
    const of = (key: string) => accessors[Number(attributes[key])] ?? null;
    const [t, r, s] = [of('TRANSLATION'), of('ROTATION'), of('SCALE')];
    const count = (t ?? r ?? s)?.getCount() ?? 0;
    if (count > MAX_TRIANGLES) throw tooMany(count);
    const element = (from: Accessor | null, k: number, otherwise: number[]) =>
      from && k < from.getCount() ? from.getElement(k, [...otherwise]) : otherwise;
    found.set(
      node,
      Array.from({ length: count }, (_, k) =>
        matrixOf(element(t, k, [0, 0, 0]), element(r, k, [0, 0, 0, 1]), element(s, k, [1, 1, 1])),
      ),
    );
  });
  return found;
}

/** A shift, a turn (quaternion) and a scale as a matrix by columns. */
function matrixOf(t: number[], [x, y, z, w]: number[], s: number[]): number[] {
  const [qx, qy, qz, qw] = [x!, y!, z!, w!];
  const turn = [
    [1 - 2 * (qy * qy + qz * qz), 2 * (qx * qy + qz * qw), 2 * (qx * qz - qy * qw)],
    [2 * (qx * qy - qz * qw), 1 - 2 * (qx * qx + qz * qz), 2 * (qy * qz + qx * qw)],
    [2 * (qx * qz + qy * qw), 2 * (qy * qz - qx * qw), 1 - 2 * (qx * qx + qy * qy)],
  ];
  return [...turn.flatMap((column, k) => [...column.map((v) => v * s[k]!), 0]), ...[t[0]!, t[1]!, t[2]!, 1]];
}

/** One matrix after another, by columns. */
function times(a: readonly number[], b: readonly number[]): number[] {
  return Array.from({ length: 16 }, (_, i) => {
    const [column, row] = [Math.floor(i / 4), i % 4];
    return [0, 1, 2, 3].reduce((sum, k) => sum + a[k * 4 + row]! * b[column * 4 + k]!, 0);
  });
}

function sentenceOf(error: unknown): string {
  const text = error instanceof Error ? error.message : 'it cannot be read';
  return `${text.replace(/\.$/, '')}.`;
}

/** The description of a file. Refuses one whose numbers lead beyond its bytes, before anything is made of them. */
function checkedJson(bytes: Uint8Array): Json {
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
  const [json] = parseJson(bytes.subarray(20, 20 + jsonLength), 'glb', 'a glTF binary', []) as [Json];
  if (typeof json !== 'object' || json === null) fail('its description is empty');
  const list = (key: string) => (Array.isArray(json[key]) ? (json[key] as Record<string, unknown>[]) : []);
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
  return json;
}

function gatherNode(node: Node, gather: MeshGather, instances: readonly number[][] | null): void {
  const mesh = node.getMesh();
  if (!mesh) return;
  const thing = statedThing(node.getExtras()[THING_KEY]);
  gather.group(
    cleanName(node.getName() || mesh.getName(), `Part ${gather.groups.length + 1}`),
    thing && thing.kind !== 'building' ? { thing, kind: thing.kind } : {},
  );
  const world = node.getWorldMatrix();
  if (!instances) gatherMesh(mesh, world, gather);
  else for (const instance of instances) gatherMesh(mesh, times(world, instance), gather);
}

function gatherMesh(mesh: GltfMesh, m: readonly number[], gather: MeshGather): void {
  for (const primitive of mesh.listPrimitives()) {
    const positions = primitive.getAttribute('POSITION');
    const mode = primitive.getMode();
    if (!positions || mode < 4) continue;
    const at = [0, 0, 0];
    const corners = Array.from({ length: positions.getCount() }, (_, i) => {
      const [x, y, z] = positions.getElement(i, at) as [number, number, number];
      return gather.corner([
        m[0]! * x + m[4]! * y + m[8]! * z + m[12]!,
        m[1]! * x + m[5]! * y + m[9]! * z + m[13]!,
        m[2]! * x + m[6]! * y + m[10]! * z + m[14]!,
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
 * red, green and blue a corner, from 0 to 1; `extras`: what a node says of itself.
 */
export async function writeGlb(
  parts: readonly { name: string; mesh: Mesh; colours?: Float32Array; extras?: Record<string, unknown> }[],
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene('Dial Shade');
  document.getRoot().setDefaultScene(scene);
  for (const { name, mesh, colours, extras } of parts) {
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
    const node = document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive));
    scene.addChild(extras ? node.setExtras(extras) : node);
  }
  return new WebIO().writeBinary(document);
}
