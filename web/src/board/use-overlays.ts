import { faceOfOwner, formatLength, groundLevel, innerPoint, type SunPosition } from '@dial-shade/core';
import { useMemo } from 'react';
import { useStage } from '../app/use-stage';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { SCENE } from '../theme/palette';
import { draftOutline, useDraft } from './draft';
import type { Label } from './label-layer';
import { dashed, polyline, segments } from './overlay-lines';
import type { PaneView } from './pane-view';
import {
  type Circle,
  dayPathLine,
  groundGrid,
  hourPathLine,
  northRing,
  seasonLines,
  standardMinutes,
  sunMark,
} from './sun-path-lines';
import { useTargetParts } from '../studies/use-target-parts';
import { boundaryLines, faceLines, targetLines } from './target-lines';
import { useLayer } from './use-layer';

const NONE: Label[] = [];
/** How far lines on the ground are held off it, metres. */
const LIFT_M = 0.07;

/** The day and hour that the sun's path is drawn for, and whether it is. */
interface PathShown {
  date: string;
  minutes: number;
  sunPath: boolean;
  grid: boolean;
}

/** Everything that lies over the scene of a pane, each part made anew only when something of it changes. Gives the labels. */
export function useOverlays(view: PaneView, circle: Circle, sun: SunPosition, shown: PathShown): Label[] {
  const ring = useRing(view, circle);
  useSunPath(view, circle, sun, shown);
  useGrid(view, circle, shown.grid);
  useBoundary(view);
  const study = useTargets(view);
  const areas = useAreas(view);
  const draft = useDrawing(view);
  useFace(view);
  return useMemo(() => [...ring, ...study, ...draft, ...areas], [ring, study, draft, areas]);
}

function useRing(view: PaneView, circle: Circle): Label[] {
  const project = useDocument();
  const theme = useView((v) => v.theme);
  const { ground, north } = project.site;
  // The ring stands by ground, north and size alone.
  // oxlint-disable-next-line react/exhaustive-deps
  const ring = useMemo(() => northRing(project, circle, theme), [ground, north, circle, theme]);
  useLayer(view, () => ring.lines, [ring]);
  return ring.labels;
}

function useSunPath(
  view: PaneView,
  circle: Circle,
  sun: SunPosition,
  { date, minutes, sunPath }: Omit<PathShown, 'grid'>,
): void {
  const project = useDocument();
  const stage = useStage();
  const theme = useView((v) => v.theme);
  const isShown = sunPath && (stage === 'sun' || stage === 'site');
  const { site } = project;
  const hour = standardMinutes(date, minutes, site.year, site.place.zone);
  const fixed = [site, circle, theme, isShown];
  useLayer(view, () => (isShown ? seasonLines(project, circle, theme) : []), fixed);
  useLayer(view, () => (isShown ? dayPathLine(project, circle, date, theme) : []), [...fixed, date]);
  useLayer(view, () => (isShown ? hourPathLine(project, circle, hour, theme) : []), [...fixed, hour]);
  useLayer(view, () => (isShown ? sunMark(project, circle, sun, theme) : []), [...fixed, sun]);
}

function useGrid(view: PaneView, circle: Circle, isShown: boolean): void {
  const project = useDocument();
  const theme = useView((v) => v.theme);
  const { ground } = project.site;
  useLayer(view, () => (isShown ? groundGrid(project, circle, theme) : []), [ground, circle, theme, isShown]);
}

function useBoundary(view: PaneView): void {
  const { site } = useDocument();
  const theme = useView((v) => v.theme);
  useLayer(view, () => boundaryLines(site, theme), [site.boundary, site.ground, theme]);
}

function useTargets(view: PaneView): Label[] {
  const { probes, site } = useDocument();
  const theme = useView((v) => v.theme);
  const isShown = useStage() === 'studies';
  const { ground } = site;
  const targets = useTargetParts();
  const place = useView((v) => v.place);
  const make = () => {
    if (!isShown) return [];
    const lines = (some: typeof targets) => some.flatMap((target) => targetLines(target, ground));
    const [chosen, others] = [
      targets.filter(({ id }) => id === place),
      targets.filter(({ id }) => id !== place),
    ];
    return [segments(lines(others), SCENE[theme].accent, 1), segments(lines(chosen), SCENE[theme].ink, 1, 7)];
  };
  useLayer(view, make, [targets, ground, theme, isShown, place]);
  return useMemo(
    () =>
      isShown
        ? probes.map(({ number, at }) => ({ text: String(number), at: [...at], className: 'probe' }))
        : NONE,
    [probes, isShown],
  );
}

function useAreas(view: PaneView): Label[] {
  const { areas, site } = useDocument();
  const theme = useView((v) => v.theme);
  const isShown = useStage() === 'site';
  const { ground } = site;
  const placed = useMemo(
    () =>
      (isShown ? areas : []).map(({ name, outline, on }) => {
        const at = ([x, y]: readonly [number, number]): [number, number, number] => [
          x,
          y,
          (on.kind === 'level' ? on.levelM : groundLevel(ground, [x, y])) + LIFT_M,
        ];
        const middle = at(innerPoint({ outer: outline, holes: [] }));
        return { line: outline.map(at), label: { text: name, at: middle, className: 'area' } };
      }),
    [areas, ground, isShown],
  );
  useLayer(view, () => placed.map(({ line }) => segments(polyline(line, true), SCENE[theme].garden, 1)), [
    placed,
    theme,
  ]);
  return useMemo(() => placed.map(({ label }) => label), [placed]);
}

/** What is being drawn, with the lengths of its edges. */
function useDrawing(view: PaneView): Label[] {
  const { site, units } = useDocument();
  const theme = useView((v) => v.theme);
  const tool = useView((v) => v.tool);
  const draft = useDraft();
  const { ground } = site;
  const drawn = useMemo(() => {
    if (tool.kind !== 'draw' || (!draft.points.length && !draft.pointer)) return null;
    const { levelM, shape } = tool;
    const at = ([x, y]: readonly [number, number]): [number, number, number] => [
      x,
      y,
      levelM === undefined ? groundLevel(ground, [x, y]) + LIFT_M : levelM + 0.05,
    ];
    const outline = draftOutline(draft, shape);
    const isClosed = shape !== 'path' && outline.length > 2;
    return { at, outline, isClosed, guides: draft.guides };
  }, [tool, draft, ground]);
  const make = () =>
    drawn
      ? [
          ...drawn.guides.map((guide) =>
            segments(dashed(guide.map(drawn.at), 0.5), SCENE[theme].accent, 0.9, 9, true),
          ),
          segments(polyline(drawn.outline.map(drawn.at), drawn.isClosed), SCENE[theme].sun, 1, 10, true),
        ]
      : [];
  useLayer(view, make, [drawn, theme]);
  return useMemo(
    () => (drawn ? edgeLabels(drawn.outline, drawn.at, units, drawn.isClosed) : NONE),
    [drawn, units],
  );
}

/** The outline of the picked face. */
function useFace(view: PaneView): void {
  const project = useDocument();
  const stage = useStage();
  const theme = useView((v) => v.theme);
  const selection = useView((v) => v.selection);
  const meshes = useMeshes((state) => state.meshes);
  const face =
    (stage === 'openings' || stage === 'studies') && selection?.face
      ? faceOfOwner(project, selection, selection.face, meshes)
      : null;
  useLayer(view, () => (face ? [segments(faceLines(face), SCENE[theme].accent, 1, 9)] : []), [face, theme]);
}

function edgeLabels(
  outline: readonly (readonly [number, number])[],
  lift: (p: readonly [number, number]) => readonly [number, number, number],
  units: 'metric' | 'imperial',
  closed: boolean,
): Label[] {
  if (outline.length < 2) return [];
  const count = closed ? outline.length : outline.length - 1;
  return Array.from({ length: count }, (_, i) => {
    const [ax, ay] = outline[i]!;
    const [bx, by] = outline[(i + 1) % outline.length]!;
    const [x, y, z] = lift([(ax + bx) / 2, (ay + by) / 2]);
    return {
      text: formatLength(Math.hypot(bx - ax, by - ay), units, 1),
      at: [x, y, z] as [number, number, number],
      className: 'dimension',
    };
  }).filter(({ text }) => !/^0(\.0)? |^0' 0"/.test(text));
}
