import { type Camera, type CameraOf, wrap180 } from '@dial-shade/core';
import { MOUSE, OrthographicCamera, PerspectiveCamera, Plane, Raycaster, Vector2, Vector3 } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { BEFORE_M, FAR_M, nearestSeen, ORBIT_FOV_DEG, PARALLEL_DISTANCE_M, poseOf } from './camera-pose';
import { cutOf } from './cut';
import { EyeControls, MAX_FOV_DEG, MIN_FOV_DEG } from './eye-controls';
import { type Focus, framePoints } from './frame-points';
import type { Box } from './label-layer';
import { nearestOnAxis } from './nearest-on-axis';
import { type ViewDirection, VIEW_FROM } from './view-directions';

/** From where a pane looks, of whatever kind, and how that is moved by the pointer, by keys and by framing. */
export abstract class PaneEye {
  readonly controls: OrbitControls;
  private readonly perspective = new PerspectiveCamera(ORBIT_FOV_DEG, 1, 0.5, FAR_M);
  private readonly parallel = new OrthographicCamera(-1, 1, 1, -1, BEFORE_M, FAR_M);
  protected camera: PerspectiveCamera | OrthographicCamera = this.perspective;
  /** From where it looks, as it was last put; where it went from there is asked of `cameraNow`. */
  protected put: Camera = {
    kind: 'orbit',
    projection: 'perspective',
    eye: [0, -1, 1],
    lookAt: [0, 0, 0],
    heightM: 50,
  };
  /** Unit vector towards the sun; null while it is down. */
  protected sun: readonly [number, number, number] | null = [0, 0, 1];
  /** Where the pane lies on the board, CSS pixels. */
  protected box: Box = { x: 0, y: 0, width: 2, height: 2 };
  protected focus: Focus = Float64Array.of(-40, -40, 0, 40, 40, 12);
  private readonly walk: EyeControls;
  private foot = 0;
  private northDeg = 0;
  /** The direction that the view was framed from, for as long as nobody has moved it since. */
  private framedFrom: ViewDirection | null = null;

  constructor(readonly element: HTMLElement) {
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
    this.walk = new EyeControls(element, {
      isOn: () => this.put.kind === 'eye' && this.controls.enabled,
      eye: () => this.put as CameraOf<'eye'>,
      move: (eye) => {
        this.restoreCamera(eye);
        this.controls.dispatchEvent({ type: 'change' });
      },
      ended: () => this.controls.dispatchEvent({ type: 'end' }),
      isFree: (from, to) => this.isFree(from, to),
    });
  }

  /** Width of the pane by its height. */
  get aspect(): number {
    return this.box.width / this.box.height;
  }

  /** Draws at the next frame. */
  abstract render(): void;

  /** Whether nothing stands in the way of somebody who goes from one place to another. */
  protected abstract isFree(
    from: readonly [number, number, number],
    to: readonly [number, number, number],
  ): boolean;

  dispose(): void {
    this.controls.dispose();
    this.walk.dispose();
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

  /** Frames anew what was framed, when the pane is of another size. */
  private frameAgain(): void {
    const from = this.framedFrom;
    if (!from) return;
    this.frame(this.focus, new Vector3(...VIEW_FROM[from]).normalize(), from !== 'fit');
    this.framedFrom = from;
  }

  /** The box of what is framed: its middle, half its width in plan, its lowest and highest level, metres. */
  get focusBox(): { centre: [number, number, number]; radius: number; lowM: number; highM: number } {
    const of = (axis: number) => this.focus.filter((_, i) => i % 3 === axis);
    const [low, high] = [Math.min, Math.max].map((pick) => [0, 1, 2].map((axis) => pick(...of(axis))));
    const middle = (axis: number) => (low![axis]! + high![axis]!) / 2;
    const radius = Math.hypot(high![0]! - low![0]!, high![1]! - low![1]!) / 2;
    return { centre: [middle(0), middle(1), middle(2)], radius, lowM: low![2]!, highM: high![2]! };
  }

  /** What `lookFrom` is to show. */
  setFocus(focus: Focus): void {
    this.focus = focus;
  }

  /** Looks at the focus so that all of it is seen and as large as it goes. */
  lookFrom(from: ViewDirection): void {
    this.framedFrom = from;
    this.frameAgain();
    this.settled();
  }

  /** Tells that the eye has come to rest elsewhere, as a drag does when it ends. */
  protected settled(): void {
    this.controls.dispatchEvent({ type: 'end' });
  }

  protected frame(focus: Focus, way: Vector3, isParallel: boolean): void {
    this.becomeOrbit(isParallel ? 'parallel' : 'perspective');
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

  /** From here on the view turns round what it looks at. */
  private becomeOrbit(projection: 'perspective' | 'parallel'): void {
    if (this.put.kind === 'orbit') {
      this.use(projection === 'parallel' ? this.parallel : this.perspective);
      return;
    }
    const eye = this.camera.position.toArray();
    this.restoreCamera({ kind: 'orbit', projection, eye, lookAt: [0, 0, 0], heightM: 50 });
  }

  /** Brings the eye nearer (factor below 1) or farther; of an eye, narrows what it sees. */
  approach(factor: number): void {
    if (this.put.kind === 'eye') {
      const fovDeg = Math.min(MAX_FOV_DEG, Math.max(MIN_FOV_DEG, this.put.fovDeg * factor));
      this.restoreCamera({ ...this.put, fovDeg });
      this.settled();
      return;
    }
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
    this.settled();
  }

  /** Turns the eye round what it looks at, degrees anticlockwise seen from above. */
  turn(deg: number): void {
    if (this.put.kind === 'eye') {
      const bearingDeg = wrap180(this.put.bearingDeg + deg);
      this.restoreCamera({ ...this.put, bearingDeg });
      this.settled();
    }
    if (this.put.kind !== 'orbit') return;
    this.framedFrom = null;
    const { target } = this.controls;
    this.camera.position
      .sub(target)
      .applyAxisAngle(new Vector3(0, 0, 1), (deg * Math.PI) / 180)
      .add(target);
    this.controls.update();
    this.render();
    this.settled();
  }

  protected cameraNow(): Camera {
    const { put } = this;
    const eye = this.camera.position.toArray();
    const lookAt = this.controls.target.toArray();
    const heightM = (this.parallel.top - this.parallel.bottom) / this.parallel.zoom;
    switch (put.kind) {
      case 'orbit':
        return {
          kind: 'orbit',
          projection: this.camera === this.perspective ? 'perspective' : 'parallel',
          eye,
          lookAt,
          heightM,
        };
      case 'eye':
        return put;
      case 'level':
        return { ...put, centre: [lookAt[0], lookAt[1]], heightM };
      case 'upright': {
        const { origin, u } = cutOf(put)!;
        const alongM = (lookAt[0] - origin[0]) * u[0] + (lookAt[1] - origin[1]) * u[1];
        return { ...put, alongM, levelM: lookAt[2], heightM };
      }
      case 'elevation':
        return { ...put, centre: lookAt, heightM };
      case 'sun':
        return { ...put, lookAt, heightM };
    }
  }

  /** Looks from elsewhere. */
  restoreCamera(camera: Camera): void {
    this.put = camera;
    const { controls } = this;
    controls.enableRotate = camera.kind === 'orbit';
    controls.mouseButtons.LEFT = camera.kind === 'orbit' ? MOUSE.ROTATE : MOUSE.PAN;
    controls.enablePan = controls.enableZoom = camera.kind !== 'eye';
    const { eye, lookAt, heightM, fovDeg, nearM } = poseOf(camera, this.sun, this.northDeg);
    this.perspective.fov = fovDeg;
    this.use(heightM === null ? this.perspective : this.parallel);
    this.camera.position.set(...eye);
    this.controls.target.set(...lookAt);
    this.parallel.near = nearM;
    this.perspective.updateProjectionMatrix();
    if (camera.kind === 'eye') {
      // Orbit controls keep off: the eye turns about itself.
      this.camera.lookAt(controls.target);
    } else {
      this.parallel.zoom = 1;
      this.setParallelHeight(camera.heightM);
      controls.update();
    }
    this.render();
  }

  /** Sets the angle from drawing north to true north, clockwise, degrees. */
  setNorth(trueNorthDeg: number): void {
    this.northDeg = trueNorthDeg;
    if (this.put.kind === 'level') this.restoreCamera(this.cameraNow());
  }

  private use(camera: PerspectiveCamera | OrthographicCamera): void {
    this.framedFrom = null;
    this.camera = camera;
    this.controls.object = camera;
    this.parallel.near = BEFORE_M;
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
  protected setNear(): void {
    const near = nearestSeen(this.put, this.perspective.position.distanceTo(this.controls.target));
    if (Math.abs(near - this.perspective.near) < this.perspective.near * 0.1) return;
    this.perspective.near = near;
    this.perspective.updateProjectionMatrix();
  }

  /** Looks square at a face: from its outside, its width filling most of the view. */
  lookAtFace(
    centre: readonly [number, number, number],
    normal: readonly [number, number, number],
    size: number,
  ): void {
    this.becomeOrbit('parallel');
    const n = new Vector3(...normal);
    if (Math.hypot(n.x, n.y) < 1e-6) n.set(0, -0.0001, 1);
    this.controls.target.set(...centre);
    this.camera.position.set(...centre).addScaledVector(n.normalize(), 1200);
    this.parallel.zoom = 1;
    this.setParallelHeight(size * 1.25);
    this.controls.update();
    this.render();
    this.settled();
  }

  /** Moves the eye to look at a place from where it stands now, near enough to see `radius` round it. */
  flyTo(centre: readonly [number, number, number], radius: number): void {
    if (this.put.kind !== 'orbit') this.becomeOrbit('perspective');
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
    this.settled();
  }

  protected ray(x: number, y: number): Raycaster {
    const { width, height } = this.box;
    const ray = new Raycaster();
    this.camera.updateMatrixWorld();
    ray.setFromCamera(new Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), this.camera);
    // What is cut away is not met.
    if (this.camera === this.parallel && cutOf(this.put)) ray.near = PARALLEL_DISTANCE_M;
    return ray;
  }

  /** Where the line of sight through a place in the pane meets a level, or null. */
  onLevel(x: number, y: number, z: number): [number, number, number] | null {
    return this.onPlane(x, y, [0, 0, z], [0, 0, 1]);
  }

  /** Where the line of sight through a place in the pane meets a plane, or null. */
  onPlane(
    x: number,
    y: number,
    origin: readonly [number, number, number],
    normal: readonly [number, number, number],
  ): [number, number, number] | null {
    const plane = new Plane().setFromNormalAndCoplanarPoint(new Vector3(...normal), new Vector3(...origin));
    const point = this.ray(x, y).ray.intersectPlane(plane, new Vector3());
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

  /** A place in the scene as CSS pixels in the pane. */
  toScreen(at: readonly [number, number, number]): { x: number; y: number; behind: boolean } {
    const { width, height } = this.box;
    this.camera.updateMatrixWorld();
    const p = new Vector3(...at).project(this.camera);
    return { x: ((p.x + 1) / 2) * width, y: ((1 - p.y) / 2) * height, behind: p.z > 1 };
  }
}
