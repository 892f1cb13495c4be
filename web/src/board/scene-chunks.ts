import type { Owner, Piece, Scene } from '@dial-shade/core';
import { type BufferGeometry, Group, type Material, Mesh, type Raycaster } from 'three';
import type { Pen } from './pens';
import { CASTING_PARTS, shadeVolumes } from './shade-volumes';
import { edgePoints, type Rgb, solidGeometry, type SurfaceColours } from './solid-geometry';

/** Owners whose buffers are kept together, about: few draw calls, and little to upload when one of them changes. */
const PER_CHUNK = 48;

/** How the parts of a chunk are drawn. */
export interface ChunkMaterials {
  shaded: Material;
  /** What the sun adds, in steps: where nothing that blocks lies before it, no crown either, and no glass either. */
  sunlit: readonly Material[];
  /** The same for the ground, which is drawn from above only: a slope must not hide what stands behind it from the eye. */
  groundShaded: Material;
  groundSunlit: readonly Material[];
  fronts: Material;
  backs: Material;
  /** The same for bodies of shade that are counted after a step of the sun's. */
  lateFronts: Material;
  lateBacks: Material;
  ink: Pen;
}

/** An owner in a chunk: what its buffers were made of, and where it stands in the scene now. */
interface Part {
  owner: number;
  piece: Piece;
  isShown: boolean;
  casts: boolean;
  isInked: boolean;
  /** Colours of its surfaces, one after another. */
  colours: readonly Rgb[];
  /** Its first surface in the scene. */
  firstSurface: number;
}

interface Chunk {
  parts: Part[];
  group: Group;
  solid: Mesh;
}

/** A triangle that was hit: whose it is, and the surface of the scene that it belongs to. */
export interface ChunkHit {
  point: [number, number, number];
  owner: number;
  surface: number;
}

/** The drawn scene in chunks of owners. A chunk in which nothing changed keeps its buffers. */
export class SceneChunks {
  readonly group = new Group();
  private chunks = new Map<string, Chunk>();
  private isSunUp = true;

  constructor(private readonly materials: ChunkMaterials) {}

  /** Shows a scene. What is hidden is neither drawn nor hit, but goes on casting its shade. */
  show(scene: Scene, colours: SurfaceColours, hidden: ReadonlySet<number>): void {
    const before = this.chunks;
    this.chunks = new Map();
    for (const [key, parts] of chunkParts(scene, colours, hidden)) {
      const old = before.get(key);
      if (old && sameParts(old.parts, parts)) {
        old.parts = parts;
        before.delete(key);
        this.chunks.set(key, old);
      } else this.chunks.set(key, this.build(parts));
    }
    for (const chunk of before.values()) this.drop(chunk);
    this.setSunUp(this.isSunUp);
  }

  setSunUp(isUp: boolean): void {
    this.isSunUp = isUp;
    for (const { group } of this.chunks.values())
      for (const child of group.children) if (child.userData.bySun) child.visible = isUp;
  }

  /** The nearest triangle that a ray meets. */
  pick(ray: Raycaster): ChunkHit | null {
    const solids = new Map([...this.chunks.values()].map((chunk) => [chunk.solid as object, chunk]));
    const hit = ray.intersectObjects([...solids.keys()] as Mesh[], false)[0];
    if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return null;
    let triangle = hit.faceIndex;
    for (const { owner, piece, isShown, firstSurface } of solids.get(hit.object)!.parts) {
      if (!isShown) continue;
      if (triangle < piece.surfaceOf.length) {
        const { x, y, z } = hit.point;
        return { point: [x, y, z], owner, surface: firstSurface + piece.surfaceOf[triangle]! };
      }
      triangle -= piece.surfaceOf.length;
    }
    return null;
  }

  /** The surfaces as meshes, for asking what a ray meets. */
  get surfaces(): Mesh[] {
    return [...this.chunks.values()].map(({ solid }) => solid);
  }

  clear(): void {
    for (const chunk of this.chunks.values()) this.drop(chunk);
    this.chunks.clear();
  }

  private build(parts: Part[]): Chunk {
    const { fronts, backs, lateFronts, lateBacks, ink } = this.materials;
    const isGround = parts.some((part) => !part.isInked);
    const shaded = isGround ? this.materials.groundShaded : this.materials.shaded;
    const sunlit = isGround ? this.materials.groundSunlit : this.materials.sunlit;
    const shown = parts.filter(({ isShown }) => isShown);
    const geometry = solidGeometry(shown);
    if (isGround) geometry.setDrawRange(0, surfaceVertices(parts[0]!.piece));
    const solid = new Mesh(geometry, shaded);
    const group = new Group();
    group.add(solid);
    const casters = parts.filter(({ casts }) => casts).map(({ piece }) => piece);
    CASTING_PARTS.forEach((part, step) => {
      const volume = shadeVolumes(casters, part);
      if (volume.getAttribute('position').count)
        for (const material of step ? [lateBacks, lateFronts] : [backs, fronts])
          group.add(casting(volume, material, 1 + step * 0.4));
      const lit = new Mesh(geometry, sunlit[step]);
      lit.renderOrder = 1.2 + step * 0.4;
      lit.userData.bySun = true;
      group.add(lit);
    });
    const lines = ink.draw(edgePoints(shown.filter(({ isInked }) => isInked).map(({ piece }) => piece)));
    lines.renderOrder = 6;
    group.add(lines);
    this.group.add(group);
    return { parts, group, solid };
  }

  private drop({ group }: Chunk): void {
    for (const child of group.children) (child as Mesh).geometry.dispose();
    this.group.remove(group);
  }
}

/** Vertices of the ground itself, which come first, without the sides and the underside of a terrain. */
function surfaceVertices({ surfaceOf }: Piece): number {
  const below = surfaceOf.findIndex((surface) => surface > 0);
  return (below < 0 ? surfaceOf.length : below) * 3;
}

function casting(volume: BufferGeometry, material: Material, order: number): Mesh {
  const mesh = new Mesh(volume, material);
  mesh.renderOrder = order;
  mesh.frustumCulled = false;
  mesh.userData.bySun = true;
  return mesh;
}

/** Owners by chunk. An owner is always in the same one while the number of owners stays of the same size. */
function chunkParts(scene: Scene, colours: SurfaceColours, hidden: ReadonlySet<number>): Map<string, Part[]> {
  const count = 2 ** Math.max(0, Math.ceil(Math.log2(scene.owners.length / PER_CHUNK)));
  const chunks = new Map<string, Part[]>();
  let firstSurface = 0;
  scene.owners.forEach((owner, i) => {
    const piece = scene.pieces[i]!;
    const first = firstSurface;
    firstSurface += piece.surfaces.length;
    const isGround = owner.layer === 'ground';
    const key = isGround ? 'ground' : `${hash(owner) % count}/${count}`;
    const part: Part = {
      owner: i,
      piece,
      isShown: !hidden.has(i),
      // A ground that is one plane casts nothing; a terrain is a closed body like any other.
      casts: !isGround || piece.surfaceOf.length > 2,
      isInked: !isGround,
      colours: piece.surfaces.map((_, s) => colours(first + s)),
      firstSurface: first,
    };
    const there = chunks.get(key);
    if (there) there.push(part);
    else chunks.set(key, [part]);
  });
  return chunks;
}

function hash({ id, optionId, layer }: Owner): number {
  let h = 0x811c9dc5;
  for (const c of `${layer}/${optionId}/${id}`) h = Math.imul(h ^ c.charCodeAt(0), 0x01000193);
  return h >>> 0;
}

function sameParts(one: readonly Part[], other: readonly Part[]): boolean {
  return (
    one.length === other.length &&
    one.every((a, i) => {
      const b = other[i]!;
      return (
        a.piece === b.piece &&
        a.isShown === b.isShown &&
        a.colours.every((rgb, s) => {
          const c = b.colours[s]!;
          return rgb === c || (rgb[0] === c[0] && rgb[1] === c[1] && rgb[2] === c[2]);
        })
      );
    })
  );
}
