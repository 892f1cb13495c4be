import { type CameraOf, RAD, wrap180 } from '@dial-shade/core';

type Eye = CameraOf<'eye'>;
type Place = readonly [number, number, number];

/** Steps of walking and turning by key. */
const STEP_M = 0.5;
const TURN_DEG = 5;
const MAX_PITCH_DEG = 89;
/** Bounds of the field of view, degrees. */
export const MIN_FOV_DEG = 5;
export const MAX_FOV_DEG = 120;

/** What looking round needs of a pane. */
export interface EyeHost {
  /** Whether the pane looks from an eye, and the pointer is not a tool's. */
  isOn(): boolean;
  eye(): Eye;
  move(eye: Eye): void;
  /** A drag has ended. */
  ended(): void;
  /** Whether nothing stands between two places. */
  isFree(from: Place, to: Place): boolean;
}

/** Where an eye is after a step by key: W A S D walk, Q and E turn, R and F rise and sink; null for any other key. */
export function stepped(eye: Eye, key: string): Eye | null {
  const go = (alongDeg: number): Eye => {
    const b = (eye.bearingDeg + alongDeg) * RAD;
    const [x, y, z] = eye.at;
    return { ...eye, at: [x + STEP_M * Math.sin(b), y + STEP_M * Math.cos(b), z] };
  };
  const turn = (deg: number): Eye => ({ ...eye, bearingDeg: wrap180(eye.bearingDeg + deg) });
  const rise = (m: number): Eye => ({ ...eye, at: [eye.at[0], eye.at[1], eye.at[2] + m] });
  switch (key.toLowerCase()) {
    case 'w':
      return go(0);
    case 's':
      return go(180);
    case 'a':
      return go(-90);
    case 'd':
      return go(90);
    case 'q':
      return turn(-TURN_DEG);
    case 'e':
      return turn(TURN_DEG);
    case 'r':
      return rise(0.1);
    case 'f':
      return rise(-0.1);
    default:
      return null;
  }
}

/** Where an eye looks after the pointer was dragged by so many pixels of a pane of a height. */
export function looked(eye: Eye, dx: number, dy: number, heightPx: number): Eye {
  const degPerPx = eye.fovDeg / heightPx;
  return {
    ...eye,
    bearingDeg: wrap180(eye.bearingDeg - dx * degPerPx),
    pitchDeg: Math.max(-MAX_PITCH_DEG, Math.min(MAX_PITCH_DEG, eye.pitchDeg + dy * degPerPx)),
  };
}

/** Looks round by dragging, narrows by the wheel, walks by keys; walls are not walked through unless Shift is held. */
export class EyeControls {
  private held: { x: number; y: number } | null = null;
  private readonly end = new AbortController();

  constructor(
    private readonly element: HTMLElement,
    private readonly host: EyeHost,
  ) {
    const { signal } = this.end;
    element.addEventListener('pointerdown', (event) => this.down(event), { signal });
    element.addEventListener('pointermove', (event) => this.drag(event), { signal });
    for (const type of ['pointerup', 'pointercancel'])
      element.addEventListener(type, () => this.up(), { signal });
    element.addEventListener('wheel', (event) => this.wheel(event), { signal, passive: true });
    element.addEventListener('keydown', (event) => this.key(event), { signal });
  }

  dispose(): void {
    this.end.abort();
  }

  private down(event: PointerEvent): void {
    if (!this.host.isOn() || event.button !== 0) return;
    this.held = { x: event.clientX, y: event.clientY };
    this.element.setPointerCapture(event.pointerId);
  }

  private drag(event: PointerEvent): void {
    if (!this.held || !this.host.isOn()) return;
    const [dx, dy] = [event.clientX - this.held.x, event.clientY - this.held.y];
    this.held = { x: event.clientX, y: event.clientY };
    if (dx || dy) this.host.move(looked(this.host.eye(), dx, dy, this.element.clientHeight));
  }

  private up(): void {
    if (this.held) this.host.ended();
    this.held = null;
  }

  private wheel(event: WheelEvent): void {
    if (!this.host.isOn()) return;
    const eye = this.host.eye();
    this.host.move({
      ...eye,
      fovDeg: Math.max(MIN_FOV_DEG, Math.min(MAX_FOV_DEG, eye.fovDeg * 1.0012 ** event.deltaY)),
    });
    this.host.ended();
  }

  private key(event: KeyboardEvent): void {
    if (!this.host.isOn() || event.ctrlKey || event.metaKey || event.altKey) return;
    const eye = this.host.eye();
    const next = stepped(eye, event.key);
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    if (!event.shiftKey && !this.host.isFree(eye.at, next.at)) return;
    this.host.move(next);
    this.host.ended();
  }
}
