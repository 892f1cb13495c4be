import {
  type Breaches,
  formatLength,
  groundLevel,
  type Mesh as CoreMesh,
  type Point2,
} from '@dial-shade/core';
import { useMemo } from 'react';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Mesh,
  MeshBasicMaterial,
  type Object3D,
} from 'three';
import type { Label } from '../board/label-layer';
import { dashed, polyline, segments, sharedMaterial } from '../board/overlay-lines';
import type { PaneView } from '../board/pane-view';
import { useLabels, useLayer } from '../board/use-layer';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { SCENE } from '../theme/palette';
import type { EnvelopeFound } from '../workers/envelope-work';
import { envelopeInHand, useEnvelopes } from './envelope-store';
import { reasonColour } from './reason-colours';

/** How far lines are held off what they lie on, metres. */
const LIFT_M = 0.05;
const NONE: Label[] = [];

/** The surface of an envelope as glass or by whose sun decides, its contours, and what sticks out of it, over a pane. */
export function EnvelopeOverlay({ view, optionId }: { view: PaneView; optionId: string }) {
  const project = useDocument();
  const theme = useView((v) => v.theme);
  const { chosen, look, contours, showsBreaches, found, breaches } = useEnvelopes();
  const envelope = envelopeInHand(project, chosen);
  const { units, site, areas } = project;
  const here = found && !('refused' in found) && found.id === envelope?.id ? found : null;
  const shown = look === 'hidden' ? null : here;
  const isOurs = breaches?.optionId === optionId && breaches.id === here?.id;
  const over = here && showsBreaches && isOurs ? breaches.of : null;

  useLayer(view, () => (shown ? surface(shown, look === 'reasons', theme) : []), [shown, look, theme]);
  useLayer(view, () => (shown && contours ? contourSegments(shown, theme) : []), [shown, contours, theme]);
  useLayer(view, () => (over && here ? [breachCells(over, here, theme)] : []), [over, here, theme]);

  const outlines = useMemo(() => {
    if (!envelope) return null;
    const on = (levelM: number | null) => (p: Point2) =>
      [p[0], p[1], (levelM ?? groundLevel(site.ground, p)) + LIFT_M] as [number, number, number];
    const build = envelope.build ?? site.boundary;
    const kept = envelope.keep.flatMap(({ on: kind, id }, k) => {
      const area = kind === 'area' ? areas.find((one) => one.id === id) : undefined;
      if (!area) return [];
      return [
        {
          line: area.outline.map(on(area.on.kind === 'level' ? area.on.levelM : null)),
          colour: reasonColour(k),
        },
      ];
    });
    return {
      build: build ? build.map(on(null)) : [],
      isOwn: envelope.build !== null,
      strips: envelope.noBuild.map((ring) => ring.map(on(null))),
      kept,
    };
  }, [envelope, site.ground, site.boundary, areas]);
  const lines = () => {
    if (!outlines) return [];
    const { ink } = SCENE[theme];
    return [
      segments(
        outlines.isOwn ? polyline(outlines.build, true) : dashed(outlines.build, 0.8, true),
        ink,
        0.9,
        9,
      ),
      ...outlines.strips.map((ring) => segments(dashed(ring, 0.5, true), ink, 0.9, 9)),
      ...outlines.kept.map(({ line, colour }) => segments(polyline(line, true), colour, 1, 9)),
    ];
  };
  useLayer(view, lines, [outlines, theme]);
  useLayer(view, () => (outlines ? corners(outlines) : []), [outlines]);

  const labels = useMemo(
    () => (shown && contours ? contourLabels(shown, contours, units) : NONE),
    [shown, contours, units],
  );
  useLabels(view, 'envelope', labels);
  return null;
}

/** Small marks at corners that can be dragged. */
function corners({
  build,
  isOwn,
  kept,
}: {
  build: Place[];
  isOwn: boolean;
  kept: { line: Place[]; colour: string }[];
}) {
  const mark = (places: readonly Place[], colour: string) =>
    segments(
      places.flatMap(([x, y, z]) => [x - MARK_M, y, z, x + MARK_M, y, z, x, y - MARK_M, z, x, y + MARK_M, z]),
      colour,
      1,
      10,
      true,
    );
  return [...(isOwn ? [mark(build, '#b06a00')] : []), ...kept.map(({ line, colour }) => mark(line, colour))];
}

const MARK_M = 0.35;

type Place = [number, number, number];

function geometryOf({ positions, triangles }: CoreMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  geometry.setIndex(new BufferAttribute(triangles, 1));
  return geometry;
}

function glass(key: string, colour: string, opacity: number): MeshBasicMaterial {
  return sharedMaterial(
    `envelope/${key}/${colour}/${opacity}`,
    () =>
      new MeshBasicMaterial({
        color: colour,
        side: DoubleSide,
        transparent: true,
        opacity,
        depthWrite: false,
        // Behind a wall that stands on the edge.
        polygonOffset: true,
        polygonOffsetFactor: 2,
        polygonOffsetUnits: 4,
      }),
  );
}

function surface({ shell, keptOf }: EnvelopeFound, byReason: boolean, theme: 'light' | 'dark'): Object3D[] {
  const pane = theme === 'light' ? '#7fa9bd' : '#9cc3d6';
  const walls = new Mesh(geometryOf(shell.walls), glass('walls', pane, 0.14));
  walls.renderOrder = 3;
  const top = byReason
    ? new Mesh(colouredTop(shell, keptOf), byReasonMaterial())
    : new Mesh(geometryOf(shell.top), glass('top', pane, 0.42));
  top.renderOrder = 4;
  return [walls, top, segments([...shell.edge], SCENE[theme].ink, 0.75, 6)];
}

const byReasonMaterial = () =>
  sharedMaterial(
    'envelope/reasons',
    () =>
      new MeshBasicMaterial({
        vertexColors: true,
        side: DoubleSide,
        transparent: true,
        opacity: 0.66,
        depthWrite: false,
      }),
  );

function colouredTop({ top, reason }: EnvelopeFound['shell'], keptOf: readonly number[]): BufferGeometry {
  const geometry = geometryOf(top).toNonIndexed();
  const colours = new Float32Array(reason.length * 9);
  const known = new Map<number, Color>();
  reason.forEach((why, t) => {
    let colour = known.get(why);
    if (!colour) known.set(why, (colour = new Color(reasonColour(keptOf[why]))));
    for (let k = 0; k < 3; k++) colours.set([colour.r, colour.g, colour.b], t * 9 + k * 3);
  });
  geometry.setAttribute('color', new BufferAttribute(colours, 3));
  return geometry;
}

function contourSegments({ contours }: EnvelopeFound, theme: 'light' | 'dark'): Object3D[] {
  const points = contours.flatMap(({ points: line, levelM }) =>
    polyline(line.map(([x, y]): Place => [x, y, levelM + LIFT_M])),
  );
  return [segments(points, SCENE[theme].ink, 0.55, 7)];
}

/** Contours shorter than this have no label, metres; and labels stand so far apart. */
const MIN_LABELLED_M = 3;

function contourLabels(
  { contours }: EnvelopeFound,
  by: 'ground' | 'datum',
  units: 'metric' | 'imperial',
): Label[] {
  const read = (m: number) => formatLength(m, units, 1);
  return contours.flatMap(({ points, levelM, overM }, k) => {
    let length = 0;
    for (let i = 1; i < points.length; i++)
      length += Math.hypot(points[i]![0] - points[i - 1]![0], points[i]![1] - points[i - 1]![1]);
    if (length < MIN_LABELLED_M) return [];
    // Labels of lines that follow one another stand aside of each other.
    const [x, y] = points[Math.floor((points.length * (1 + (k % 3))) / 4)]!;
    return [
      {
        text:
          by === 'ground'
            ? `${read(overM)} (level ${read(levelM)})`
            : `level ${read(levelM)} (${read(overM)})`,
        at: [x, y, levelM + LIFT_M] as Place,
        className: 'value contour',
      },
    ];
  });
}

/** What sticks out, as prisms a little wider than what they stand in, in the colour of whose sun it takes. */
function breachCells({ cells, cellM }: Breaches, { keptOf }: EnvelopeFound, theme: 'light' | 'dark'): Mesh {
  const [position, colour]: number[][] = [[], []];
  const h = cellM / 2 + 0.01;
  const alarm = theme === 'light' ? '#b9584c' : '#d98476';
  const taken = new Map<string, { fromM: number; toM: number }[]>();
  const key = (x: number, y: number) => `${Math.round(x / cellM - 0.5)}:${Math.round(y / cellM - 0.5)}`;
  for (const { at, fromM, toM } of cells) {
    const name = key(at[0], at[1]);
    taken.set(name, [...(taken.get(name) ?? []), { fromM, toM }]);
  }
  for (const { at, fromM, toM, reason } of cells) {
    const [x, y] = at;
    const { r, g, b } = new Color(reason < 0 || keptOf[reason]! < 0 ? alarm : reasonColour(keptOf[reason]));
    const [low, high] = [fromM, toM + 0.02];
    const quad = (shade: number, ...points: [Place, Place, Place, Place]) => {
      const [p, q, s, t] = points;
      for (const place of [p, q, s, p, s, t]) {
        position!.push(...place);
        colour!.push(r * shade, g * shade, b * shade);
      }
    };
    quad(1, [x - h, y - h, high], [x + h, y - h, high], [x + h, y + h, high], [x - h, y + h, high]);
    for (const [dx, dy, shade] of SIDES) {
      // Sides within the heap are not seen.
      const beside = taken.get(key(x + dx * cellM, y + dy * cellM));
      if (beside?.some((one) => one.fromM <= fromM + 1e-6 && one.toM >= toM - 1e-6)) continue;
      const [ax, ay] = [x + dx * h - dy * h, y + dy * h + dx * h];
      const [bx, by] = [x + dx * h + dy * h, y + dy * h - dx * h];
      quad(shade, [ax, ay, low], [bx, by, low], [bx, by, high], [ax, ay, high]);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(position!), 3));
  geometry.setAttribute('color', new BufferAttribute(Float32Array.from(colour!), 3));
  const material = sharedMaterial(
    'envelope/breaches',
    () => new MeshBasicMaterial({ vertexColors: true, side: DoubleSide, transparent: true, opacity: 0.78 }),
  );
  const mesh = new Mesh(geometry, material);
  mesh.renderOrder = 2;
  return mesh;
}

/** The four sides of a prism, and how light each is drawn. */
const SIDES = [
  [1, 0, 0.86],
  [-1, 0, 0.78],
  [0, 1, 0.82],
  [0, -1, 0.9],
] as const;
