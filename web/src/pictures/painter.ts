import {
  dot,
  instantOf,
  type MeshStore,
  type Project,
  sunPosition,
  type Point3,
  sunVector,
} from '@dial-shade/core';
import {
  Group,
  type OrthographicCamera,
  type PerspectiveCamera,
  Raycaster,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { PARALLEL_DISTANCE_M, stillCamera } from '../board/camera-pose';
import { cutOf } from '../board/cut';
import { DrawnModel, standsBefore } from '../board/drawn-model';
import { type Label, LabelLayer } from '../board/label-layer';
import { empty } from '../board/overlay-lines';
import { broaden, broadPen } from '../board/pens';
import { resultCells, resultLabels } from '../board/result-cells';
import { rayStretches, roomObjects, stripLines } from '../board/room-objects';
import { sceneLook, siteCircle } from '../board/scene-look';
import { sectionObjects } from '../board/section-objects';
import { shadeObjects } from '../board/shade-objects';
import {
  dayPathLine,
  groundGrid,
  hourPathLine,
  northRing,
  seasonLines,
  standardMinutes,
  sunMark,
} from '../board/sun-path-lines';
import { boundaryLines } from '../board/target-lines';
import { underlayObject } from '../board/underlay-objects';
import { shared } from '../state/shared-memo';
import { SCENE } from '../theme/palette';
import { canvasLabels } from './canvas-labels';
import { answerInWords, HISTOGRAM, histogramMarks, legendTitle, spanOf } from './histogram';
import { type Context2d, type Mark, paintMarks } from './marks';
import type { PictureStyle, PictureView } from './picture';
import { STRIP_PX, stripMarks } from './strip';

type StillCamera = PerspectiveCamera | OrthographicCamera;
type Canvas = OffscreenCanvas;

/** Pictures narrower than this have no legend, pixels. */
const MIN_WITH_LEGEND_PX = 400;

/** Pixels of a side that are drawn at once; larger pictures are put together. */
const TILE_PX = 2048;
/** Width of a picture at a scale of one: lines and letters are as large as on the board. */
const PLAIN_WIDTH_PX = 1280;
const INK_PX = 1;
const NOBODY = [] as const;

const PAPER = { white: '#ffffff', paper: SCENE.light.paper } as const;

interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** What pictures are made of: a document, and its meshes and pictures on the ground by their hashes. */
export interface Painted {
  project: Project;
  meshes: MeshStore;
  images: ReadonlyMap<string, ImageBitmap>;
}

/** A view as it is drawn: its eye, its sun, and all that lies over the scene. */
interface Staged {
  view: PictureView;
  model: DrawnModel;
  camera: StillCamera;
  sun: Point3 | null;
  overlay: Group;
  labels: readonly Label[];
}

/**
 * Draws pictures of any size, one at a time, on a canvas of its own: what the board draws live, with the same bodies of
 * shade, lines and labels.
 */
export class Painter {
  private readonly renderer: WebGLRenderer;
  private readonly tile: Canvas;
  private readonly models = new Map<string, DrawnModel>();
  private pen = 0;

  /** @throws where the browser has no WebGL 2 off the page */
  constructor() {
    this.tile = new OffscreenCanvas(16, 16);
    this.renderer = new WebGLRenderer({
      canvas: this.tile,
      antialias: true,
      stencil: true,
      preserveDrawingBuffer: true,
    });
    // Asking for errors of shaders waits for their compilation, which holds the page.
    this.renderer.debug.checkShaderErrors = false;
    this.renderer.setPixelRatio(1);
  }

  /** Draws a picture onto a canvas of its size. */
  paint(canvas: Canvas, painted: Painted, views: readonly PictureView[], style: PictureStyle): void {
    const { project } = painted;
    const context = canvas.getContext('2d')!;
    const scale = Math.max(0.5, Math.min(style.width / PLAIN_WIDTH_PX, style.height / 420));
    const strip = style.strip ? Math.round(STRIP_PX * scale) : 0;
    const room = { width: style.width, height: style.height - strip };
    context.fillStyle = PAPER[style.paper];
    context.fillRect(0, 0, style.width, style.height);
    this.setPen(scale);
    const scales: ReturnType<typeof scaleOf>[] = [];
    for (const view of views) {
      const gap = views.length > 1 ? scale * 3 : 0;
      const area: Area = {
        x: Math.round(view.box.x * room.width + (view.box.x > 0 ? gap : 0)),
        y: Math.round(view.box.y * room.height + (view.box.y > 0 ? gap : 0)),
        width: Math.round(view.box.width * room.width - (view.box.width < 1 ? gap : 0)),
        height: Math.round(view.box.height * room.height - (view.box.height < 1 ? gap : 0)),
      };
      const staged = this.stage(painted, view, area.width / area.height, style);
      broaden(staged.overlay, INK_PX * scale, scale);
      this.drawTiles(context, staged, area);
      paintLabels(context, staged, area, scale);
      // A legend in a very small picture would hide what it is about.
      if (view.result && area.width >= MIN_WITH_LEGEND_PX)
        paintMarks(context, legendMarks(view), area.x + 14 * scale, area.y + 14 * scale, scale);
      if (view.title)
        paintMarks(
          context,
          [{ kind: 'text', x: 10, y: 22, text: view.title, size: 13, weight: 650, fill: SCENE.light.ink }],
          area.x,
          area.y,
          scale,
        );
      empty(staged.overlay);
      scales.push(scaleOf(staged, area, project, scale));
    }
    if (style.strip) {
      context.fillStyle = PAPER[style.paper];
      context.fillRect(0, room.height, style.width, strip);
      const marks = stripMarks(project, views, { width: style.width / scale, ...scaleOfAll(scales) });
      paintMarks(context, marks, 0, room.height, scale);
    }
  }

  /** Lines as broad as a picture of this scale needs; models are made anew for another. */
  private setPen(scale: number): void {
    if (this.pen === scale) return;
    this.pen = scale;
    for (const model of this.models.values()) model.dispose();
    this.models.clear();
  }

  /** Options of which buffers are kept. */
  private modelOf(key: string): DrawnModel {
    let model = this.models.get(key);
    this.models.delete(key);
    model ??= new DrawnModel(() => {}, broadPen(SCENE.light.ink, INK_PX * this.pen));
    this.models.set(key, model);
    if (this.models.size > 4) {
      const [oldest, unused] = this.models.entries().next().value!;
      unused.dispose();
      this.models.delete(oldest);
    }
    return model;
  }

  private stage(
    { project, meshes, images }: Painted,
    view: PictureView,
    aspect: number,
    { paper }: PictureStyle,
  ): Staged {
    const { optionId, date, minutes, camera, drawing, result, shade, rooms, rays } = view;
    const { site } = project;
    const byKind = drawing.tone === 'kinds';
    const look = sceneLook(project, meshes, optionId, {
      theme: 'light',
      byKind,
      atMs: instantOf(date, minutes, site.place.zone),
      selection: null,
      also: NOBODY,
      // The same set for the same keys, so that what is made of it is kept.
      hidden: shared('hidden', [view.hidden.join('\n')], () => new Set(view.hidden)),
      ...(paper === 'white' && { ground: PAPER.white }),
    });
    const model = this.modelOf(`${optionId}${byKind ? '/kinds' : ''}`);
    model.show(look, 'light');
    model.setBackground(PAPER[paper]);
    const position = sunPosition(instantOf(date, minutes, site.place.zone), site.place);
    const towards = sunVector(position.altitudeDeg, position.azimuthDeg, site.north.trueNorthDeg);
    const isUp = position.altitudeDeg > 0 && dot(towards, look.scene.ground.normal) > 0;
    const circle = siteCircle(project, meshes);
    const ring = northRing(project, circle, 'light');
    const plane = cutOf(camera);
    const overlay = new Group();
    overlay.add(...ring.lines, ...boundaryLines(site, 'light'));
    project.underlays.forEach((underlay, rank) => {
      const image = underlay.shown && images.get(underlay.picture);
      const how = { ground: site.ground, scene: look.scene, theme: 'light', rank } as const;
      if (image) overlay.add(underlayObject(underlay, image, how));
    });
    if (drawing.grid) overlay.add(...groundGrid(project, circle, 'light'));
    if (drawing.sunPath) {
      const hour = standardMinutes(date, minutes, site.year, site.place.zone);
      overlay.add(
        ...seasonLines(project, circle, 'light'),
        ...dayPathLine(project, circle, date, 'light'),
        ...hourPathLine(project, circle, hour, 'light'),
        ...sunMark(project, circle, position, 'light'),
      );
    }
    if (plane) overlay.add(...sectionObjects(look.scene, look.hidden, plane, 'light'));
    if (shade) overlay.add(...shadeObjects(shade, site.ground, 'light'));
    if (result) overlay.add(resultCells(result.result, site.ground, result.look));
    const inRooms = rooms ? roomObjects(rooms, camera, project.units, 'light') : null;
    if (inRooms) overlay.add(...inRooms.lines);
    if (rays) overlay.add(...rayStretches(rays.stretches, camera, 'light'));
    if (rays?.strip) overlay.add(...stripLines(rays.strip, camera, 'light'));
    const probes = result
      ? project.probes.map(({ number, at }): Label => ({
          text: String(number),
          at: [...at],
          className: 'probe',
        }))
      : [];
    return {
      view,
      model,
      camera: stillCamera(camera, aspect, isUp ? towards : null, site.north.trueNorthDeg),
      sun: isUp ? towards : null,
      overlay,
      labels: [
        ...(inRooms?.labels ?? []),
        ...ring.labels,
        ...(result ? resultLabels(result.result, site.ground, result.look) : []),
        ...probes,
      ],
    };
  }

  private drawTiles(context: Context2d, { view, model, camera, sun, overlay }: Staged, area: Area): void {
    const monthDay = view.date.slice(5);
    for (let y = 0; y < area.height; y += TILE_PX)
      for (let x = 0; x < area.width; x += TILE_PX) {
        const width = Math.min(TILE_PX, area.width - x);
        const height = Math.min(TILE_PX, area.height - y);
        if (this.tile.width !== width || this.tile.height !== height)
          this.renderer.setSize(width, height, false);
        camera.setViewOffset(area.width, area.height, x, y, width, height);
        model.draw(this.renderer, camera, sun, overlay, view.drawing, monthDay);
        context.drawImage(this.tile, 0, 0, width, height, area.x + x, area.y + y, width, height);
      }
    camera.clearViewOffset();
  }
}

function paintLabels(context: Context2d, { model, camera, labels }: Staged, area: Area, scale: number): void {
  const maker = canvasLabels(context, scale);
  const layer = new LabelLayer(maker);
  layer.show(labels);
  const project = (at: Label['at']) => new Vector3(...at).project(camera);
  const toScreen = (at: Label['at']) => {
    const p = project(at);
    return { x: ((p.x + 1) / 2) * area.width, y: ((1 - p.y) / 2) * area.height, behind: Math.abs(p.z) > 1 };
  };
  layer.look((at) => {
    const { x, y } = project(at);
    const sight = new Raycaster();
    sight.setFromCamera(new Vector2(x, y), camera);
    if (camera.near === PARALLEL_DISTANCE_M) sight.near = PARALLEL_DISTANCE_M;
    return standsBefore(model, sight, at);
  });
  layer.place(toScreen);
  context.save();
  context.beginPath();
  context.rect(area.x, area.y, area.width, area.height);
  context.clip();
  maker.paint(area.x, area.y);
  context.restore();
}

/** The legend of a result: the answer over the histogram. */
function legendMarks({ result }: PictureView): Mark[] {
  const { result: found, look } = result!;
  const { ink } = SCENE.light;
  const { percent, rest } = answerInWords(found, look.atLeast);
  const { width, bars, ramp } = HISTOGRAM;
  const x = (look.atLeast - look.min) / spanOf(look);
  const down = (marks: Mark[], dx: number, dy: number): Mark[] =>
    marks.map((mark) =>
      mark.kind === 'path'
        ? { ...mark, points: mark.points.map(([px, py]) => [px + dx, py + dy] as const) }
        : { ...mark, x: mark.x + dx, y: mark.y + dy },
    );
  const at = Math.max(0, Math.min(width, x * width));
  const line: Mark = {
    kind: 'path',
    points: [
      [at, 0],
      [at, bars + ramp + 3],
    ],
    stroke: ink,
    strokeWidth: 1.6,
  };
  return [
    {
      kind: 'rect',
      x: 0,
      y: 0,
      width: width + 20,
      height: bars + ramp + 62,
      fill: '#fffdf8',
      stroke: '#d8d0c0',
    },
    { kind: 'text', x: 10, y: 18, text: legendTitle(found), size: 11, fill: '#6c675c' },
    {
      kind: 'text',
      x: 10,
      y: 36,
      text: `${percent} ${rest}${look.outdated ? ' · out of date' : ''}`,
      size: 12,
      weight: 600,
      fill: ink,
    },
    // A change, or a measure that nobody asks a least value of, has no line.
    ...down([...histogramMarks(found, look, '#6c675c'), ...(Number.isNaN(at) ? [] : [line])], 10, 44),
  ];
}

/** What is said of all views: scale and north where they have the same. */
function scaleOfAll(scales: readonly ReturnType<typeof scaleOf>[]): ReturnType<typeof scaleOf> {
  const [first] = scales;
  const isSame = (a: number | null, b: number | null) =>
    a === b || (a !== null && b !== null && Math.abs(a - b) <= Math.abs(a) * 0.01);
  const areSame = (key: keyof ReturnType<typeof scaleOf>) =>
    scales.every((one) => isSame(first![key], one[key])) ? first![key] : null;
  return { metresPerPixel: areSame('metresPerPixel'), northUp: areSame('northUp') };
}

/** What the strip says of the scale of a view, and of north. */
function scaleOf(
  { view, camera }: Staged,
  area: Area,
  { site }: Project,
  scale: number,
): { metresPerPixel: number | null; northUp: number | null } {
  const isParallel = 'top' in camera;
  const metresPerPixel = isParallel ? ((camera.top - camera.bottom) / area.height) * scale : null;
  const away = new Vector3(0, 0, -1).applyQuaternion(camera.quaternion);
  if (
    away.z > -0.94 ||
    (view.camera.kind !== 'level' && view.camera.kind !== 'orbit' && view.camera.kind !== 'sun')
  )
    return { metresPerPixel, northUp: null };
  const b = (site.north.trueNorthDeg * Math.PI) / 180;
  const north = new Vector3(Math.sin(b), Math.cos(b), 0).applyQuaternion(camera.quaternion.clone().invert());
  return { metresPerPixel, northUp: Math.atan2(north.x, north.y) };
}
