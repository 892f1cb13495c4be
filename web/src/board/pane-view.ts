import { type Camera, DEFAULT_DRAWING, type Drawing } from '@dial-shade/core';
import { Group, Raycaster, Vector3, type WebGLRenderer } from 'three';
import { bestView } from './best-view';
import type { BoardCanvas } from './board-canvas';
import { type DrawnModel, standsBefore } from './drawn-model';
import { type Box, type Label, LabelLayer, pageLabels } from './label-layer';
import { PaneEye } from './pane-eye';
import type { ChunkHit } from './scene-chunks';

/** Who pins labels to the scene: the first has the right of way. */
const LABELLERS = ['underlay', 'envelope', 'angles', 'rooms', 'body', 'scene', 'result'] as const;
export type Labeller = (typeof LABELLERS)[number];

/** How long the view must rest before it is seen which labels a body hides, ms. */
const REST_MS = 120;

/**
 * One pane of the board: its eye, what it lays over the scene, and the model that it shows in the light of its moment. Its
 * element takes the pointer and the keys; the board's canvas below draws it when something of it changed.
 */
export class PaneView extends PaneEye {
  /** Things that others add: sun path, results, drafts. */
  readonly overlay = new Group();
  model: DrawnModel | null = null;
  private drawing: Drawing = DEFAULT_DRAWING;
  private monthDay = '03-21';
  private readonly labels: LabelLayer<HTMLElement>;
  private readonly labelsBy = new Map<Labeller, readonly Label[]>();
  private resting: ReturnType<typeof setTimeout> | undefined;
  /** Labels that have been set so far, and the state of the view that it is, or was last, asked for what hides them. */
  private labelsSet = 0;
  private askedFor = '';

  constructor(
    private readonly board: BoardCanvas,
    element: HTMLElement,
    labelRoot: HTMLElement,
  ) {
    super(element);
    this.labels = new LabelLayer(pageLabels(labelRoot));
    board.add(this);
  }

  override dispose(): void {
    clearTimeout(this.resting);
    super.dispose();
    this.board.remove(this);
  }

  /** Shows a model; null for none. */
  show(model: DrawnModel | null): void {
    this.model = model;
    this.render();
  }

  /** Whether it shows a model. */
  shows(model: DrawnModel): boolean {
    return this.model === model;
  }

  /** Sets the sun by the unit vector towards it; null at night, when everything lies in shade. */
  setSun(vector: readonly [number, number, number] | null): void {
    this.sun = vector;
    if (this.put.kind === 'sun') this.restoreCamera(this.cameraNow());
    this.render();
  }

  /** Sets the date, which says whether trees are in leaf. */
  setDate(date: string): void {
    this.monthDay = date.slice(5);
    this.render();
  }

  /** How the scene is drawn. */
  setDrawing(drawing: Drawing): void {
    this.drawing = drawing;
    this.render();
  }

  /** Looks at places on surfaces from where most of them are seen. */
  lookAtPlaces(positions: Float64Array, normals: Float64Array): void {
    const now = this.camera.position.clone().sub(this.controls.target).normalize();
    const ray = new Raycaster();
    const isHidden = (place: Vector3, towards: Vector3) => {
      ray.set(place, towards);
      return Boolean(this.model?.pick(ray));
    };
    const way = bestView(positions, normals, isHidden, now);
    this.frame(withRoom(positions), way, false);
    this.settled();
  }

  /** From where it looks now and how it is drawn, for keeping and putting back. */
  get look(): { camera: Camera; drawing: Drawing } {
    return { camera: this.cameraNow(), drawing: this.drawing };
  }

  /** Whether nothing stands in the way of somebody who goes from one place to another. */
  protected isFree(from: readonly [number, number, number], to: readonly [number, number, number]): boolean {
    const way = new Vector3(...to).sub(new Vector3(...from));
    const far = way.length();
    const ray = new Raycaster(new Vector3(...from), way.normalize(), 0, far + 0.25);
    return !this.model?.pick(ray);
  }

  /** What lies under a place in the pane, in CSS pixels from its upper left corner. */
  pick(x: number, y: number): ChunkHit | null {
    return this.model?.pick(this.ray(x, y)) ?? null;
  }

  /** Texts that somebody pins to the scene, replacing those of theirs before. */
  setLabels(by: Labeller, labels: readonly Label[]): void {
    if (labels.length === 0 && !this.labelsBy.get(by)?.length) return;
    this.labelsBy.set(by, labels);
    this.labels.show(LABELLERS.flatMap((one) => [...(this.labelsBy.get(one) ?? [])]));
    this.labelsSet++;
    this.render();
  }

  /** Keeps a box of the pane free of labels, for what lies over it there; null for none. */
  keepFree(box: Box | null): void {
    this.labels.keepFree(box ? [box] : []);
    this.placeLabels();
  }

  private placeLabels(): void {
    this.labels.place((at) => this.toScreen(at));
  }

  /** Whether a body stands between the eye and a place. */
  private isCovered(at: readonly [number, number, number]): boolean {
    const { x, y, behind } = this.toScreen(at);
    return !behind && this.model !== null && standsBefore(this.model, this.ray(x, y), at);
  }

  /** Draws at the next frame. */
  render(): void {
    this.board.ask(this);
  }

  /** Draws now, into its part of the board. */
  draw(renderer: WebGLRenderer, boardHeight: number): void {
    const { x, y, width, height } = this.box;
    const below = boardHeight - y - height;
    renderer.setViewport(x, below, width, height);
    renderer.setScissor(x, below, width, height);
    this.setNear();
    this.model?.draw(renderer, this.camera, this.sun, this.overlay, this.drawing, this.monthDay);
    this.placeLabels();
    this.askWhatHides();
  }

  /** Asks which labels a body hides once the view rests; the sun alone changes nothing of that. */
  private askWhatHides(): void {
    const { elements } = this.camera.matrixWorld;
    const state = [
      ...elements,
      ...this.camera.projectionMatrix.elements,
      this.model?.version,
      this.labelsSet,
    ].join();
    if (state === this.askedFor) return;
    this.askedFor = state;
    clearTimeout(this.resting);
    // One label at a time, so that nothing waits for all of them.
    const ask = (index: number, changed: boolean) => {
      if (index >= this.labels.count) {
        if (changed) this.placeLabels();
        return;
      }
      const now = this.labels.lookAt(index, (at) => this.isCovered(at));
      this.resting = setTimeout(() => ask(index + 1, changed || now), 0);
    };
    this.resting = setTimeout(() => ask(0, false), REST_MS);
  }
}

/** Least extent of what is framed, metres: a single window is seen with what is round it. */
const MIN_EXTENT_M = 14;

/** Places, and where they are few and close together, some room round them. */
function withRoom(positions: Float64Array): Float64Array {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  positions.forEach((value, i) => {
    low[i % 3] = Math.min(low[i % 3]!, value);
    high[i % 3] = Math.max(high[i % 3]!, value);
  });
  const middle = low.map((value, k) => (value + high[k]!) / 2);
  const half = MIN_EXTENT_M / 2;
  if (low.some((value, k) => high[k]! - value >= MIN_EXTENT_M)) return positions;
  const round = [0, 1].flatMap((axis) =>
    [-half, half].flatMap((way) => middle.map((value, k) => (k === axis ? value + way : value))),
  );
  return Float64Array.from([...positions, ...round]);
}
