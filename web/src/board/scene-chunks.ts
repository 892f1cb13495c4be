import type { Owner, Piece, Scene } from '@dial-shade/core';
import { BufferGeometry, Group, type Material, Mesh, Ray, type Raycaster, Vector3 } from 'three';
import type { Pen } from './pens';
import { nearestFrontOf, nearestOf } from './piece-rays';
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
  fronts: Material[];
  backs: Material[];
  /** The same for bodies of shade that are counted after a step of the sun's. */
  lateFronts: Material[];
  lateBacks: Material[];
  ink: Pen;
  /** Panes that are seen through: their depth, their tone in shade, and what the sun adds on them. */
  glass: { depth: Material; shaded: Material; sunlit: Material };
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
  /** Surfaces, all and without the panes; the same where there are none. */
  whole: BufferGeometry;
  bare: BufferGeometry;
  /** What is drawn with one of the two. */
  drawn: Mesh[];
  panes: Mesh[];
}

/** What of the scene is drawn: all of it, all but the panes, or the panes alone with what shades them. */
export type SceneShare = 'whole' | 'bare' | 'panes';

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

  get hasPanes(): boolean {
    return [...this.chunks.values()].some(({ panes }) => panes.length > 0);
  }

  /** Draws a share of the scene from now on. */
  setShare(share: SceneShare): void {
    for (const { group, whole, bare, drawn, panes } of this.chunks.values()) {
      for (const mesh of drawn) mesh.geometry = share === 'whole' ? whole : bare;
      for (const child of group.children)
        child.visible =
          share !== 'panes' || child.userData.isVolume === true || panes.includes(child as Mesh);
      for (const pane of panes) pane.visible = share === 'panes';
      for (const child of group.children) if (child.userData.bySun && !this.isSunUp) child.visible = false;
    }
  }

  /** The nearest triangle that a ray meets: of the ground from above, of all else from either side. */
  pick({ ray, near, far }: Raycaster): ChunkHit | null {
    const from = new Ray(ray.at(near, new Vector3()), ray.direction);
    let best: ChunkHit | null = null;
    let within = far - near;
    for (const { parts, whole } of this.chunks.values()) {
      if (!whole.boundingSphere) whole.computeBoundingSphere();
      if (!from.intersectsSphere(whole.boundingSphere!)) continue;
      for (const { owner, piece, isShown, isInked, firstSurface } of parts) {
        if (!isShown) continue;
        const hit = isInked
          ? nearestOf(piece, from, within)
          : nearestFrontOf(piece, surfaceVertices(piece) / 3, from, within);
        if (!hit) continue;
        within = hit.distance;
        const { x, y, z } = from.at(within, new Vector3());
        best = { point: [x, y, z], owner, surface: firstSurface + piece.surfaceOf[hit.triangle]! };
      }
    }
    return best;
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
    const { bare, panes: glazed } = withoutPanes(geometry, shown);
    const solid = new Mesh(geometry, shaded);
    const group = new Group();
    group.add(solid);
    const drawn = [solid];
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
      drawn.push(lit);
    });
    const lines = ink.draw(edgePoints(shown.filter(({ isInked }) => isInked).map(({ piece }) => piece)));
    lines.renderOrder = 6;
    group.add(lines);
    const panes = glazed ? paneMeshes(glazed, this.materials.glass) : [];
    if (panes.length) group.add(...panes);
    this.group.add(group);
    return { parts, group, solid, whole: geometry, bare, drawn, panes };
  }

  private drop({ group, whole, bare }: Chunk): void {
    whole.dispose();
    bare.dispose();
    for (const child of group.children) (child as Mesh).geometry.dispose();
    this.group.remove(group);
  }
}

/** Vertices of the ground itself, which come first, without the sides and the underside of a terrain. */
function surfaceVertices({ surfaceOf }: Piece): number {
  const below = surfaceOf.findIndex((surface) => surface > 0);
  return (below < 0 ? surfaceOf.length : below) * 3;
}

/** The same surfaces without their panes, and the panes by themselves; both share the buffers of the whole. */
function withoutPanes(
  whole: BufferGeometry,
  parts: readonly Part[],
): { bare: BufferGeometry; panes: BufferGeometry | null } {
  const opaque: number[] = [];
  const glazed: number[] = [];
  let vertex = 0;
  for (const { piece } of parts)
    for (const surface of piece.surfaceOf) {
      const into = piece.surfaces[surface]!.kind === 'glazing' ? glazed : opaque;
      into.push(vertex, vertex + 1, vertex + 2);
      vertex += 3;
    }
  if (glazed.length === 0) return { bare: whole, panes: null };
  const sharing = (index: number[]) => {
    const geometry = new BufferGeometry();
    for (const name of ['position', 'normal', 'color', 'hole'])
      geometry.setAttribute(name, whole.getAttribute(name));
    geometry.setIndex(index);
    return geometry;
  };
  return { bare: sharing(opaque), panes: sharing(glazed) };
}

/** Panes in three goes: the nearest by depth, in shade, and where the sun falls on them. */
function paneMeshes(geometry: BufferGeometry, { depth, shaded, sunlit }: ChunkMaterials['glass']): Mesh[] {
  return [depth, shaded, sunlit].map((material, i) => {
    const mesh = new Mesh(geometry, material);
    mesh.renderOrder = [-1, 2.5, 2.6][i]!;
    mesh.visible = false;
    if (material === sunlit) mesh.userData.bySun = true;
    return mesh;
  });
}

function casting(volume: BufferGeometry, material: Material[], order: number): Mesh {
  const mesh = new Mesh(volume, material);
  mesh.renderOrder = order;
  mesh.frustumCulled = false;
  mesh.userData.bySun = true;
  mesh.userData.isVolume = true;
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
