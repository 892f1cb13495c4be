/** A text pinned to a place in the scene. */
export interface Label {
  text: string;
  at: [number, number, number];
  className?: string;
}

/** A box on the canvas, CSS pixels. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where the middle of a label would stand, how large it is, and whether it stays there come what may. */
export interface LabelPlace {
  x: number;
  y: number;
  width: number;
  height: number;
  isFixed: boolean;
}

/** Room that is kept between two labels, CSS pixels. */
const GAP = 2;

const meet = (a: Box, b: Box) =>
  a.x < b.x + b.width + GAP &&
  b.x < a.x + a.width + GAP &&
  a.y < b.y + b.height + GAP &&
  b.y < a.y + a.height + GAP;

/**
 * Where labels go so that none lies on another or on what is to be kept free: at their place, or a little above, below or
 * beside it; null where there is no room, the first in the list having the right of way. Fixed ones stay where they are.
 */
export function placeLabels(
  labels: readonly LabelPlace[],
  free: readonly Box[],
): ({ x: number; y: number } | null)[] {
  const boxAt = ({ width, height }: LabelPlace, x: number, y: number): Box => ({
    x: x - width / 2,
    y: y - height / 2,
    width,
    height,
  });
  const taken = [...free, ...labels.filter(({ isFixed }) => isFixed).map((l) => boxAt(l, l.x, l.y))];
  return labels.map((label) => {
    const { x, y, width, height, isFixed } = label;
    if (isFixed) return { x, y };
    const [right, down] = [width * 0.6, height + 2 * GAP];
    for (const [dx, dy] of [
      [0, 0],
      [0, -down],
      [0, down],
      [right, 0],
      [-right, 0],
      [right, -down],
      [-right, -down],
      [right, down],
      [-right, down],
      [0, -1.6 * down],
      [0, 1.6 * down],
    ] as const) {
      const box = boxAt(label, x + dx, y + dy);
      if (taken.some((other) => meet(box, other))) continue;
      taken.push(box);
      return { x: x + dx, y: y + dy };
    }
    return null;
  });
}

/** Handles, probes and the N of the ring stay where they are, whatever lies there. */
const FIXED = /\b(handle|probe|north)\b/;

interface Pinned {
  label: Label;
  element: HTMLElement;
  isFixed: boolean;
  /** A body stands before it. */
  isCovered: boolean;
  size: { width: number; height: number } | null;
}

/** The labels of a pane as elements over its canvas. */
export class LabelLayer {
  private pinned: Pinned[] = [];
  private free: readonly Box[] = [];

  constructor(private readonly root: HTMLElement) {}

  /** Replaces all labels; those that stood before stay hidden where they were. */
  show(labels: readonly Label[]): void {
    for (const { element } of this.pinned) element.remove();
    const key = ({ text, at }: Label) => `${text}@${at.join()}`;
    const covered = new Set(this.pinned.filter((pin) => pin.isCovered).map(({ label }) => key(label)));
    this.pinned = labels.map((label) => {
      const element = document.createElement('span');
      element.className = `scene-label ${label.className ?? ''}`;
      element.textContent = label.text;
      this.root.append(element);
      return {
        label,
        element,
        isFixed: FIXED.test(label.className ?? ''),
        isCovered: covered.has(key(label)),
        size: null,
      };
    });
  }

  /** Keeps these boxes free of labels. */
  keepFree(boxes: readonly Box[]): void {
    this.free = boxes;
  }

  /** Asks anew which labels a body stands before; gives whether anything changed. */
  look(isCovered: (at: Label['at']) => boolean): boolean {
    let changed = false;
    for (const pin of this.pinned) {
      const covered = !pin.isFixed && isCovered(pin.label.at);
      if (covered !== pin.isCovered) changed = true;
      pin.isCovered = covered;
    }
    return changed;
  }

  /** Puts every label where its place now is on the canvas. */
  place(toScreen: (at: Label['at']) => { x: number; y: number; behind: boolean }): void {
    const wanted: { pin: Pinned; place: LabelPlace }[] = [];
    for (const pin of this.pinned) {
      const { x, y, behind } = toScreen(pin.label.at);
      pin.element.style.display = behind ? 'none' : '';
      if (behind) continue;
      pin.size ??= { width: pin.element.offsetWidth, height: pin.element.offsetHeight };
      const place = { x, y, ...pin.size, isFixed: pin.isFixed };
      if (pin.isCovered) hide(pin.element);
      else wanted.push({ pin, place });
    }
    const places = placeLabels(
      wanted.map(({ place }) => place),
      this.free,
    );
    wanted.forEach(({ pin: { element } }, i) => {
      const at = places[i];
      if (!at) {
        hide(element);
        return;
      }
      element.style.visibility = '';
      element.style.transform = `translate(${at.x.toFixed(1)}px, ${at.y.toFixed(1)}px) translate(-50%, -50%)`;
    });
  }
}

function hide(element: HTMLElement): void {
  element.style.visibility = 'hidden';
}
