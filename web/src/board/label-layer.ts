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
  /** Stands at its place or nowhere. */
  isExact?: boolean;
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
    const { x, y, width, height, isFixed, isExact } = label;
    if (isFixed) return { x, y };
    const [right, down] = [width * 0.6, height + 2 * GAP];
    const asides = [
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
    ] as const;
    for (const [dx, dy] of isExact ? asides.slice(0, 1) : asides) {
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
/** Values stand in their cell or nowhere. */
const EXACT = /\bvalue\b/;

/** What makes labels visible: elements in the page, or text on a canvas. */
export interface LabelMaker<M> {
  make(label: Label): M;
  /** CSS pixels; asked once. */
  sizeOf(mark: M): { width: number; height: number };
  /** Puts the middle of a mark at a place; null: it is not seen. */
  put(mark: M, place: { x: number; y: number } | null): void;
  remove(mark: M): void;
}

interface Pinned<M> {
  label: Label;
  mark: M;
  isFixed: boolean;
  isExact: boolean;
  /** A body stands before it. */
  isCovered: boolean;
  size: { width: number; height: number } | null;
}

/** The labels of a view: where each stands, and which a body hides. */
export class LabelLayer<M> {
  private pinned: Pinned<M>[] = [];
  private free: readonly Box[] = [];

  constructor(private readonly maker: LabelMaker<M>) {}

  /** Replaces all labels; those that stood before stay hidden where they were. */
  show(labels: readonly Label[]): void {
    for (const { mark } of this.pinned) this.maker.remove(mark);
    const key = ({ text, at }: Label) => `${text}@${at.join()}`;
    const covered = new Set(this.pinned.filter((pin) => pin.isCovered).map(({ label }) => key(label)));
    this.pinned = labels.map((label) => ({
      label,
      mark: this.maker.make(label),
      isFixed: FIXED.test(label.className ?? ''),
      isExact: EXACT.test(label.className ?? ''),
      isCovered: covered.has(key(label)),
      size: null,
    }));
  }

  /** Keeps these boxes free of labels. */
  keepFree(boxes: readonly Box[]): void {
    this.free = boxes;
  }

  /** Asks anew which labels a body stands before; gives whether anything changed. */
  look(isCovered: (at: Label['at']) => boolean): boolean {
    return this.pinned.filter((_, i) => this.lookAt(i, isCovered)).length > 0;
  }

  get count(): number {
    return this.pinned.length;
  }

  /** The same of one label. */
  lookAt(index: number, isCovered: (at: Label['at']) => boolean): boolean {
    const pin = this.pinned[index];
    if (!pin) return false;
    const covered = !pin.isFixed && isCovered(pin.label.at);
    const changed = covered !== pin.isCovered;
    pin.isCovered = covered;
    return changed;
  }

  /** Puts every label where its place now is on the canvas. */
  place(toScreen: (at: Label['at']) => { x: number; y: number; behind: boolean }): void {
    const wanted: { pin: Pinned<M>; place: LabelPlace }[] = [];
    for (const pin of this.pinned) {
      const { x, y, behind } = toScreen(pin.label.at);
      if (behind || pin.isCovered) {
        this.maker.put(pin.mark, null);
        continue;
      }
      pin.size ??= this.maker.sizeOf(pin.mark);
      wanted.push({ pin, place: { x, y, ...pin.size, isFixed: pin.isFixed, isExact: pin.isExact } });
    }
    const places = placeLabels(
      wanted.map(({ place }) => place),
      this.free,
    );
    wanted.forEach(({ pin }, i) => this.maker.put(pin.mark, places[i]!));
  }
}

/** Labels as elements of the page. */
export function pageLabels(root: HTMLElement): LabelMaker<HTMLElement> {
  return {
    make({ text, className }) {
      const element = document.createElement('span');
      element.className = `scene-label ${className ?? ''}`;
      element.textContent = text;
      root.append(element);
      return element;
    },
    sizeOf: ({ offsetWidth, offsetHeight }) => ({ width: offsetWidth, height: offsetHeight }),
    put(element, place) {
      element.style.visibility = place ? '' : 'hidden';
      if (place)
        element.style.transform = `translate(${place.x.toFixed(1)}px, ${place.y.toFixed(1)}px) translate(-50%, -50%)`;
    },
    remove: (element) => element.remove(),
  };
}
