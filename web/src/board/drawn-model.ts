import type { Drawing, Piece, Scene } from '@dial-shade/core';
import {
  BufferAttribute,
  BufferGeometry,
  type Camera,
  Color,
  type Group,
  LineSegments,
  PerspectiveCamera,
  type Raycaster,
  Scene as ThreeScene,
  Vector3,
  Vector4,
  type WebGLRenderer,
} from 'three';
import { SCENE } from '../theme/palette';
import { type Pen, thinPen } from './pens';
import { type ChunkHit, SceneChunks } from './scene-chunks';
import { type PassingShares, passingShares, sunSteps } from './passing-shares';
import {
  type LightUniforms,
  lineMaterial,
  litReference,
  setLineColour,
  surfaceMaterials,
} from './shade-materials';
import { edgePoints, type SurfaceColours } from './solid-geometry';

/** An eye that sees what is nearer than this stands among things: bodies of shade begin nearer behind their faces. */
const NEAR_EYE_M = 0.1;
const NEAR_SHARE = 0.12;

/** How far below the ground bodies of shade end, metres. */
const BELOW_M = 2;

/** What remains in shade of a surface's tone: as the theme has it at a darkness of a half, nothing less at 0. */
function shadeTone(plain: readonly [number, number, number], darkness: number): [number, number, number] {
  const of = (tone: number) =>
    darkness <= 0.5 ? 1 + (tone - 1) * darkness * 2 : tone * (1 - 0.55 * (darkness - 0.5) * 2);
  return [of(plain[0]), of(plain[1]), of(plain[2])];
}

/** What is drawn of an option: the scene, its colours, what of it is outlined and what is left out. */
export interface ModelLook {
  scene: Scene;
  colours: SurfaceColours;
  chosen: ReadonlySet<number>;
  hidden: ReadonlySet<number>;
}

/**
 * The buffers of one option's scene, drawn by every pane that shows the option, each from its own eye and in the light of
 * its own moment: exact shade by counting bodies of shade in the stencil.
 */
export class DrawnModel {
  private readonly stage = new ThreeScene();
  private readonly light: LightUniforms = {
    sun: { value: new Vector3(0, 0, 1) },
    shade: { value: new Vector3(0.6, 0.6, 0.7) },
    below: { value: new Vector4(0, 0, 1, -1) },
    near: { value: 1 },
    white: { value: 0 },
    steps: [{ value: 0 }, { value: 0 }, { value: 1 }],
  };
  private readonly chosenEdges = lineMaterial(SCENE.light.sun, 1, 0.002);
  private readonly materials = surfaceMaterials(this.light);
  private readonly solids: SceneChunks;
  private passing: PassingShares | null = null;
  /** The outline of what is chosen. */
  private readonly marked = new LineSegments(new BufferGeometry(), this.chosenEdges);
  /** The outlines of what is hidden. */
  private readonly ghosts: LineSegments;
  private readonly ghostEdges = lineMaterial(SCENE.light.ink, 0.28);
  /** Grows whenever something else is shown. */
  version = 0;
  private shown: (ModelLook & { theme: 'light' | 'dark' }) | null = null;

  /** @param changed called whenever it is to be drawn anew */
  constructor(
    private readonly changed: (model: DrawnModel) => void,
    private readonly edges: Pen = thinPen(SCENE.light.ink),
  ) {
    this.solids = new SceneChunks({ ...this.materials, ink: edges });
    this.ghosts = new LineSegments(new BufferGeometry(), this.ghostEdges);
    this.ghosts.renderOrder = 6.5;
    this.ghosts.frustumCulled = false;
    this.marked.renderOrder = 7;
    this.marked.frustumCulled = false;
  }

  dispose(): void {
    this.solids.clear();
    this.marked.geometry.dispose();
    this.ghosts.geometry.dispose();
  }

  /**
   * Shows a scene; nothing is done where it is shown already. Ink is drawn for everything but the ground; the owners in
   * `chosen` are outlined in the sun's colour. What is hidden is not drawn and cannot be picked, but goes on casting its
   * shade.
   */
  show(look: ModelLook, theme: 'light' | 'dark'): void {
    const { scene, colours, chosen, hidden } = look;
    const before = this.shown;
    if (
      before?.scene === scene &&
      before.colours === colours &&
      before.chosen === chosen &&
      before.hidden === hidden &&
      before.theme === theme
    )
      return;
    this.shown = { ...look, theme };
    this.stage.background = new Color(SCENE[theme].paper);
    this.edges.setColour(SCENE[theme].ink);
    setLineColour(this.chosenEdges, SCENE[theme].sun);
    setLineColour(this.ghostEdges, SCENE[theme].ink);
    const { normal, offset } = scene.ground;
    this.light.below.value.set(normal[0], normal[1], normal[2], offset - BELOW_M);
    this.solids.show(scene, colours, hidden);
    if (before?.scene !== scene) this.passing = passingShares(scene);
    putEdges(
      this.ghosts,
      scene.pieces.filter((_, owner) => hidden.has(owner)),
    );
    putEdges(
      this.marked,
      scene.pieces.filter((_, owner) => chosen.has(owner) && !hidden.has(owner)),
    );
    this.version++;
    this.changed(this);
  }

  /** Another colour behind everything than the theme's. */
  setBackground(colour: string): void {
    this.stage.background = new Color(colour);
  }

  /** Draws it in the light of a sun (unit vector towards it; null at night), with what lies over it. */
  draw(
    renderer: WebGLRenderer,
    camera: Camera,
    sun: readonly [number, number, number] | null,
    overlay: Group,
    { tone, ink, shade, ghost }: Drawing,
    monthDay: string,
  ): void {
    this.setSteps(monthDay);
    if (sun) this.light.sun.value.fromArray(sun);
    const isNear = camera instanceof PerspectiveCamera && camera.near < NEAR_EYE_M;
    this.light.near.value = isNear ? NEAR_SHARE : 1;
    this.light.white.value = tone === 'white' ? 1 : 0;
    this.light.shade.value.fromArray(shadeTone(SCENE[this.shown?.theme ?? 'light'].shade, shade));
    this.edges.setStrength(ink);
    this.solids.setSunUp(sun !== null);
    this.ghosts.visible = ghost;
    this.stage.add(this.solids.group, this.ghosts, this.marked, overlay);
    // Somebody who stands among things looks through panes; from afar they are drawn as they are shaded.
    const isThrough = isNear && this.solids.hasPanes;
    this.solids.setShare(isThrough ? 'bare' : 'whole');
    renderer.render(this.stage, camera);
    this.stage.remove(overlay);
    if (isThrough) this.drawPanes(renderer, camera);
  }

  /** Draws the panes over what lies behind them: their shade is counted anew, at their own depth. */
  private drawPanes(renderer: WebGLRenderer, camera: Camera): void {
    const { background } = this.stage;
    this.stage.remove(this.marked, this.ghosts);
    this.stage.background = null;
    renderer.autoClear = false;
    renderer.clearStencil();
    this.solids.setShare('panes');
    renderer.render(this.stage, camera);
    renderer.autoClear = true;
    this.stage.background = background;
  }

  /** Shares out the sun's light over its steps, so that behind a crown or a pane there is as much as passes it. */
  private setSteps(monthDay: string): void {
    const weights = this.passing ? sunSteps(this.passing, monthDay) : ([0, 0, 1] as const);
    let drawn = 0;
    weights.forEach((weight, step) => {
      this.light.steps[step]!.value = weight;
      for (const material of [this.materials.sunlit[step]!, this.materials.groundSunlit[step]!]) {
        material.visible = weight > 0;
        material.stencilRef = litReference(drawn);
      }
      if (weight > 0) drawn++;
    });
  }

  /** What a ray meets first. */
  pick(ray: Raycaster): ChunkHit | null {
    return this.solids.pick(ray);
  }
}

/** Gives lines the edges of pieces. */
function putEdges(lines: LineSegments, pieces: readonly Piece[]): void {
  lines.geometry.dispose();
  lines.geometry = new BufferGeometry();
  lines.geometry.setAttribute('position', new BufferAttribute(edgePoints(pieces), 3));
}

/** Whether something of a model stands before a place, on the line of sight to it. */
export function standsBefore(
  model: DrawnModel,
  sight: Raycaster,
  at: readonly [number, number, number],
): boolean {
  const hit = model.pick(sight);
  if (!hit) return false;
  const { origin, direction } = sight.ray;
  const far = (p: readonly [number, number, number]) => new Vector3(...p).sub(origin).dot(direction);
  const distance = far(at);
  return far(hit.point) < distance - Math.max(0.4, distance * 0.002);
}
