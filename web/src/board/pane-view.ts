import {
  Group,
  OrthographicCamera,
  PerspectiveCamera,
  Plane,
  Raycaster,
  Vector2,
  Vector3,
  type WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { bestView } from './best-view';
import type { BoardCanvas } from './board-canvas';
import type { DrawnModel } from './drawn-model';
import { type Focus, framePoints } from './frame-points';
import { type Box, type Label, LabelLayer } from './label-layer';
import { nearestOnAxis } from './nearest-on-axis';
import type { ChunkHit } from './scene-chunks';
import { type ViewDirection, VIEW_FROM } from './view-directions';

/** How far off the eye of a parallel view stands, metres. */
const PARALLEL_DISTANCE_M = 1500;
/** How long the view must rest before it is seen which labels a body hides, ms. */
const REST_MS = 120;

/**
 * One pane of the board: its eye, what it lays over the scene, and the model that it shows in the light of its moment. Its
 * element takes the pointer and the keys; the board's canvas below draws it when something of it changed.
 */
export class PaneView {
  readonly controls: OrbitControls;
  /** Things that others add: sun path, results, drafts. */
  readonly overlay = new Group();
  private readonly perspective = new PerspectiveCamera(38, 1, 0.5, 9000);
  private readonly parallel = new OrthographicCamera(-1, 1, 1, -1, -3000, 9000);
  private camera: PerspectiveCamera | OrthographicCamera = this.perspective;
  model: DrawnModel | null = null;
  private sun: readonly [number, number, number] | null = [0, 0, 1];
  private readonly labels: LabelLayer;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private focus: Focus = Float64Array.of(-40, -40, 0, 40, 40, 12);
  /** Where it lies on the board, CSS pixels. */
  private box: Box = { x: 0, y: 0, width: 2, height: 2 };
  private foot = 0;
  /** The direction that the view was framed from, for as long as nobody has moved it since. */
  private framedFrom: ViewDirection | null = null;

  constructor(
    private readonly board: BoardCanvas,
    readonly element: HTMLElement,
    labelRoot: HTMLElement,
  ) {
    this.labels = new LabelLayer(labelRoot);
    this.perspective.up.set(0, 0, 1);
    this.parallel.up.set(0, 0, 1);
    this.controls = new OrbitControls(this.camera, element);
    this.controls.zoomToCursor = true;
    this.controls.maxPolarAngle = Math.PI * 0.499;
    let isHeld = false;
    this.controls.addEventListener('start', () => (isHeld = true));
    this.controls.addEventListener('end', () => (isHeld = false));
    this.controls.addEventListener('change', () => {
      if (isHeld) this.framedFrom = null;
      this.render();
    });
    board.add(this);
  }

  dispose(): void {
    clearTimeout(this.resting);
    this.controls.dispose();
    this.board.remove(this);
  }

  /** Takes its place on the board, CSS pixels from the upper left corner. */
  resize(box: Box): void {
    if (box.width < 2 || box.height < 2) return;
    this.box = box;
    this.perspective.aspect = box.width / box.height;
    this.lift();
    this.perspective.updateProjectionMatrix();
    const half = (this.parallel.top - this.parallel.bottom) / 2;
    this.setParallelHeight(half * 2);
    this.frameAgain();
    this.render();
  }

  /** Keeps so many pixels at the foot of the pane free of the middle of the view, for what lies over it there. */
  setFoot(pixels: number): void {
    if (this.foot === pixels) return;
    this.foot = pixels;
    this.lift();
    this.frameAgain();
    this.controls.dispatchEvent({ type: 'change' });
  }

  private lift(): void {
    const { width, height } = this.box;
    for (const camera of [this.perspective, this.parallel])
      if (this.foot > 0) camera.setViewOffset(width, height, 0, this.foot / 2, width, height);
      else camera.clearViewOffset();
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
    this.render();
  }

  /** Frames anew what was framed, when the pane is of another size. */
  private frameAgain(): void {
    if (this.framedFrom) this.lookFrom(this.framedFrom);
  }

  /** What `lookFrom` is to show. */
  setFocus(focus: Focus): void {
    this.focus = focus;
  }

  /** Looks at the focus so that all of it is seen and as large as it goes. */
  lookFrom(from: ViewDirection): void {
    this.frame(this.focus, new Vector3(...VIEW_FROM[from]).normalize(), from !== 'fit');
    this.framedFrom = from;
  }

  /** Looks at places on surfaces from where most of them are seen. */
  lookAtPlaces(positions: Float64Array, normals: Float64Array): void {
    const now = this.camera.position.clone().sub(this.controls.target).normalize();
    this.frame(positions, bestView(positions, normals, this.model?.surfaces ?? [], now), false);
  }

  private frame(focus: Focus, way: Vector3, isParallel: boolean): void {
    this.use(isParallel ? this.parallel : this.perspective);
    const { lookAt, distance, heightM } = framePoints(focus, way, {
      projection: isParallel ? 'parallel' : 'perspective',
      fovDeg: this.perspective.fov,
      aspect: this.perspective.aspect,
      free: Math.max(0.3, 1 - this.foot / this.box.height),
    });
    if (isParallel) {
      this.parallel.zoom = 1;
      this.setParallelHeight(heightM);
    }
    this.camera.position.copy(lookAt).addScaledVector(way, isParallel ? PARALLEL_DISTANCE_M : distance);
    this.controls.target.copy(lookAt);
    this.controls.update();
    this.render();
  }

  /** Brings the eye nearer (factor below 1) or farther. */
  approach(factor: number): void {
    this.framedFrom = null;
    if (this.camera === this.parallel) {
      this.parallel.zoom /= factor;
      this.parallel.updateProjectionMatrix();
    } else {
      const { target } = this.controls;
      this.camera.position.sub(target).multiplyScalar(factor).add(target);
    }
    this.controls.update();
    this.render();
  }

  /** Turns the eye round what it looks at, degrees anticlockwise seen from above. */
  turn(deg: number): void {
    this.framedFrom = null;
    const { target } = this.controls;
    this.camera.position
      .sub(target)
      .applyAxisAngle(new Vector3(0, 0, 1), (deg * Math.PI) / 180)
      .add(target);
    this.controls.update();
    this.render();
  }

  /** Where the eye is, for keeping and putting back. */
  get viewpoint() {
    const { x, y, z } = this.camera.position;
    const target = this.controls.target;
    return {
      projection: this.camera === this.perspective ? ('perspective' as const) : ('parallel' as const),
      eye: [x, y, z] as [number, number, number],
      lookAt: [target.x, target.y, target.z] as [number, number, number],
      heightM: (this.parallel.top - this.parallel.bottom) / this.parallel.zoom,
    };
  }

  restore(viewpoint: PaneView['viewpoint']): void {
    this.use(viewpoint.projection === 'perspective' ? this.perspective : this.parallel);
    this.camera.position.set(...viewpoint.eye);
    this.controls.target.set(...viewpoint.lookAt);
    if (viewpoint.projection === 'parallel') {
      this.parallel.zoom = 1;
      this.setParallelHeight(viewpoint.heightM);
    }
    this.controls.update();
    this.render();
  }

  private use(camera: PerspectiveCamera | OrthographicCamera): void {
    this.framedFrom = null;
    this.camera = camera;
    this.controls.object = camera;
  }

  private setParallelHeight(height: number): void {
    const half = height / 2;
    this.parallel.top = half;
    this.parallel.bottom = -half;
    this.parallel.left = -half * this.perspective.aspect;
    this.parallel.right = half * this.perspective.aspect;
    this.parallel.updateProjectionMatrix();
  }

  /** Keeps the nearest plane as far off as the view allows, for the sake of depth. */
  private setNear(): void {
    const distance = this.perspective.position.distanceTo(this.controls.target);
    const near = Math.max(0.15, Math.min(20, distance * 0.04));
    if (Math.abs(near - this.perspective.near) < this.perspective.near * 0.1) return;
    this.perspective.near = near;
    this.perspective.updateProjectionMatrix();
  }

  private ray(x: number, y: number): Raycaster {
    const { width, height } = this.box;
    const ray = new Raycaster();
    this.camera.updateMatrixWorld();
    ray.setFromCamera(new Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), this.camera);
    return ray;
  }

  /** What lies under a place in the pane, in CSS pixels from its upper left corner. */
  pick(x: number, y: number): ChunkHit | null {
    return this.model?.pick(this.ray(x, y)) ?? null;
  }

  /** Where the line of sight through a place in the pane meets a level, or null. */
  onLevel(x: number, y: number, z: number): [number, number, number] | null {
    const point = this.ray(x, y).ray.intersectPlane(new Plane(new Vector3(0, 0, 1), -z), new Vector3());
    return point ? [point.x, point.y, point.z] : null;
  }

  /** How far along an axis through a point the line of sight through a place in the pane passes nearest, metres. */
  alongAxis(
    x: number,
    y: number,
    origin: readonly [number, number, number],
    axis: readonly [number, number, number],
  ): number | null {
    return nearestOnAxis(this.ray(x, y).ray, origin, axis);
  }

  /** Looks square at a face: from its outside, its width filling most of the view. */
  lookAtFace(
    centre: readonly [number, number, number],
    normal: readonly [number, number, number],
    size: number,
  ): void {
    this.use(this.parallel);
    const n = new Vector3(...normal);
    if (Math.hypot(n.x, n.y) < 1e-6) n.set(0, -0.0001, 1);
    this.controls.target.set(...centre);
    this.camera.position.set(...centre).addScaledVector(n.normalize(), 1200);
    this.parallel.zoom = 1;
    this.setParallelHeight(size * 1.25);
    this.controls.update();
    this.render();
  }

  /** Moves the eye to look at a place from where it stands now, near enough to see `radius` round it. */
  flyTo(centre: readonly [number, number, number], radius: number): void {
    this.framedFrom = null;
    const away = this.camera.position.clone().sub(this.controls.target).normalize();
    this.controls.target.set(...centre);
    const distance =
      this.camera === this.parallel
        ? PARALLEL_DISTANCE_M
        : (radius * 1.3) / Math.sin((this.perspective.fov * Math.PI) / 360);
    this.camera.position.set(...centre).addScaledVector(away, distance);
    if (this.camera === this.parallel) {
      this.parallel.zoom = 1;
      this.setParallelHeight(radius * 2.4);
    }
    this.controls.update();
    this.render();
  }

  /** A place in the scene as CSS pixels in the pane. */
  toScreen(at: readonly [number, number, number]): { x: number; y: number; behind: boolean } {
    const { width, height } = this.box;
    this.camera.updateMatrixWorld();
    const p = new Vector3(...at).project(this.camera);
    return { x: ((p.x + 1) / 2) * width, y: ((1 - p.y) / 2) * height, behind: p.z > 1 };
  }

  /** Texts pinned to the scene, replacing those before. */
  setLabels(labels: Label[]): void {
    this.labels.show(labels);
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
    if (behind) return false;
    const ray = this.ray(x, y);
    const hit = this.model?.pick(ray);
    if (!hit) return false;
    const { origin, direction } = ray.ray;
    const far = (p: readonly [number, number, number]) => new Vector3(...p).sub(origin).dot(direction);
    const distance = far(at);
    return far(hit.point) < distance - Math.max(0.4, distance * 0.002);
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
    this.model?.draw(renderer, this.camera, this.sun, this.overlay);
    this.placeLabels();
    clearTimeout(this.resting);
    this.resting = setTimeout(() => {
      if (this.labels.look((at) => this.isCovered(at))) this.placeLabels();
    }, REST_MS);
  }
}
