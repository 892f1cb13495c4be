import { WebGLRenderer } from 'three';
import { SCENE } from '../theme/palette';
import { DrawnModel } from './drawn-model';
import type { PaneView } from './pane-view';

/** A model and how many panes show it. */
interface Lent {
  optionId: string;
  model: DrawnModel;
  users: number;
}

let kept: WebGLRenderer | null = null;

/**
 * The renderer of the board with its canvas, kept for as long as the page lives: a project that is opened after another
 * finds the programs of its materials compiled.
 */
function boardRenderer(): WebGLRenderer {
  if (!kept) {
    kept = new WebGLRenderer({
      antialias: true,
      stencil: true,
      // Parts that are not drawn anew stay as they are.
      preserveDrawingBuffer: true,
      powerPreference: 'high-performance',
    });
    // Asking for errors of shaders waits for their compilation, which holds the page.
    kept.debug.checkShaderErrors = false;
    kept.domElement.ariaHidden = 'true';
  }
  return kept;
}

/** The one canvas of the board: every pane is a part of it that is drawn anew only when something of that pane changed. */
export class BoardCanvas {
  private readonly renderer = boardRenderer();
  private readonly panes = new Set<PaneView>();
  private readonly due = new Set<PaneView>();
  private models: Lent[] = [];
  private height = 2;
  private frame = 0;
  private isGone = false;
  /** Panes came or went: what they leave behind is to be cleared. */
  private isStale = false;

  /** `drawn` hears of the first picture. @throws where the browser has no WebGL 2 */
  constructor(
    private readonly root: HTMLElement,
    private drawn: (() => void) | null,
  ) {
    const { domElement } = this.renderer;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    domElement.addEventListener('webglcontextrestored', this.askAll);
    this.clear();
    root.prepend(domElement);
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    this.isGone = true;
    for (const { model } of this.models) model.dispose();
    const { domElement } = this.renderer;
    domElement.removeEventListener('webglcontextrestored', this.askAll);
    this.root.removeChild(domElement);
  }

  resize(width: number, height: number): void {
    if (width < 2 || height < 2) return;
    this.renderer.setSize(width, height, false);
    this.height = height;
    this.askAll();
  }

  add(pane: PaneView): void {
    this.panes.add(pane);
    this.isStale = true;
  }

  remove(pane: PaneView): void {
    this.panes.delete(pane);
    this.due.delete(pane);
    this.isStale = true;
    this.askAll();
  }

  /**
   * The model of an option, shared by all panes that show it; to be given back. One that nobody shows any more becomes
   * the next one: what two options have in common keeps its buffers.
   */
  borrow(optionId: string): DrawnModel {
    let lent = this.models.find((one) => one.optionId === optionId) ?? this.models.find((one) => !one.users);
    if (!lent) {
      lent = { optionId, model: new DrawnModel((model) => this.modelChanged(model)), users: 0 };
      this.models.push(lent);
    }
    lent.optionId = optionId;
    lent.users++;
    return lent.model;
  }

  /** Gives a model back. One idle model is kept for the next that is asked for. */
  giveBack(model: DrawnModel): void {
    const lent = this.models.find((one) => one.model === model);
    if (lent) lent.users--;
    const idle = this.models.filter(({ users }) => users === 0);
    for (const extra of idle.slice(1)) {
      extra.model.dispose();
      this.models = this.models.filter((one) => one !== extra);
    }
  }

  /** Draws a pane at the next frame. */
  ask(pane: PaneView): void {
    this.due.add(pane);
    this.frame ||= requestAnimationFrame(() => this.draw());
  }

  private readonly askAll = (): void => {
    for (const pane of this.panes) this.ask(pane);
  };

  /** Leaves nothing but the tone of the paper. */
  private clear(): void {
    const theme = document.documentElement.dataset.bsTheme === 'dark' ? 'dark' : 'light';
    this.renderer.setScissorTest(false);
    this.renderer.setClearColor(SCENE[theme].paper);
    this.renderer.clear();
    this.renderer.setScissorTest(true);
  }

  private modelChanged(model: DrawnModel): void {
    for (const pane of this.panes) if (pane.shows(model)) this.ask(pane);
  }

  private draw(): void {
    this.frame = 0;
    if (this.isGone || this.renderer.getContext().isContextLost()) return;
    if (this.isStale) {
      this.isStale = false;
      this.clear();
      for (const pane of this.panes) this.due.add(pane);
    }
    const due = [...this.due];
    this.due.clear();
    for (const pane of due) pane.draw(this.renderer, this.height);
    if (due.some((pane) => pane.model)) {
      this.drawn?.();
      this.drawn = null;
    }
  }
}
