import {
  faceOfOwner,
  formatLength,
  groundLevel,
  innerPoint,
  sunPosition,
  sunVector,
  dot,
} from '@dial-shade/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Group } from 'three';
import { useStage } from '../app/use-stage';
import { ResultLegend } from '../studies/result-legend';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { useDocument, useProject } from '../state/project-store';
import { useMoment, useView } from '../state/view-store';
import { SCENE } from '../theme/palette';
import { setBoardView } from './board-view';
import { bodyLabels } from './body-labels';
import { draftOutline, useDraft } from './drawing';
import { KindLegend } from './kind-legend';
import { ElevationPanel } from '../openings/elevation-panel';
import { dashed, empty, polyline, segments } from './overlay-lines';
import { faceLines, targetLines } from './target-lines';
import { PaneChrome } from './pane-chrome';
import { type Label, SceneView } from './scene-view';
import { northRing, sunPathLines } from './sun-path-lines';
import { usePointer } from './use-pointer';
import { keepView, recallView } from './view-memory';
import { useResultOverlay } from './use-result-overlay';
import { siteCircle, useScene } from './use-scene';

/** The board: one pane with the scene of the option at the moment, and what the stage lays over it. */
export function Board() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const labelRoot = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<SceneView | null>(null);

  useEffect(() => {
    let made: SceneView;
    try {
      made = new SceneView(canvas.current!, labelRoot.current!);
    } catch {
      notify(
        'This browser cannot draw the scene: WebGL 2 is missing or switched off. Everything else works.',
        true,
      );
      return;
    }
    const observer = new ResizeObserver(() => {
      const { width, height } = canvas.current!.getBoundingClientRect();
      made.resize(width, height);
    });
    observer.observe(canvas.current!);
    setView(made);
    setBoardView(made);
    return () => {
      observer.disconnect();
      setBoardView(null);
      made.dispose();
    };
  }, []);

  return (
    <main className="board" aria-label="Board">
      <canvas ref={canvas} tabIndex={0} aria-label="The scene" />
      <div ref={labelRoot} className="scene-labels" aria-hidden />
      {view && <Pane view={view} />}
    </main>
  );
}

function Pane({ view }: { view: SceneView }) {
  const project = useDocument();
  const projectId = useProject((state) => state.id!);
  const stage = useStage();
  const theme = useView((v) => v.theme);
  const date = useView((v) => v.date);
  const minutes = useView((v) => v.minutes);
  const optionId = useView((v) => v.optionId);
  const sunPath = useView((v) => v.sunPath);
  const tool = useView((v) => v.tool);
  const draft = useDraft();
  const moment = useMoment();
  const { scene, colours, chosen, hidden } = useScene();
  const selection = useView((v) => v.selection);
  const byKind = useView((v) => v.byKind);
  const meshes = useMeshes((state) => state.meshes);
  const { site } = project;
  const circle = useMemo(() => siteCircle(project, meshes), [project, meshes]);
  const layers = useRef<{ path: Group; lines: Group; result: Group } | null>(null);
  const sun = useMemo(() => sunPosition(moment, site.place), [moment, site.place]);
  const result = useResultOverlay(stage === 'studies');
  const hover = usePointer(view, scene, result);

  useEffect(() => {
    const made = { path: new Group(), lines: new Group(), result: new Group() };
    layers.current = made;
    view.overlay.add(made.path, made.lines, made.result);
    return () => {
      view.overlay.remove(made.path, made.lines, made.result);
    };
  }, [view]);

  useEffect(() => view.setTheme(theme), [view, theme]);
  useEffect(
    () => view.setScene(scene, colours, chosen, hidden),
    [view, scene, colours, chosen, hidden, theme],
  );
  useEffect(() => {
    const towards = sunVector(sun.altitudeDeg, sun.azimuthDeg, site.north.trueNorthDeg);
    // Ground that is a plane has no end: a sun below its plane reaches nothing that stands on it.
    const isUp = sun.altitudeDeg > 0 && dot(towards, scene.ground.normal) > 0;
    view.setSun(isUp ? towards : null);
  }, [view, sun, site.north.trueNorthDeg, scene.ground]);

  const fitted = useRef(false);
  useEffect(() => {
    const z = groundLevel(site.ground, [circle.centre[0], circle.centre[1]]);
    view.setFocus([circle.centre[0], circle.centre[1], z + circle.radius * 0.08], circle.radius);
    if (!fitted.current && !recallView(view, projectId)) view.lookFrom('fit');
    fitted.current = true;
  }, [view, circle, site.ground, projectId]);

  useEffect(() => keepView(view, projectId), [view, projectId]);

  useEffect(() => {
    const { path, lines } = layers.current!;
    empty(path);
    empty(lines);
    const colour = SCENE[theme];
    const labels: Label[] = [];
    const ring = northRing(project, circle, theme);
    path.add(ring.group);
    labels.push(...ring.labels);
    if (sunPath && (stage === 'sun' || stage === 'site'))
      path.add(sunPathLines(project, circle, date, minutes, sun, theme));
    const lift = ([x, y]: readonly [number, number]) =>
      [x, y, groundLevel(site.ground, [x, y]) + 0.07] as const;
    const accent = theme === 'light' ? colour.accent : '#9aa2e0';
    if (site.boundary) lines.add(segments(dashed(site.boundary.map(lift), 1.4, true), accent, 0.8));
    if (stage === 'studies') {
      for (const target of project.targets) lines.add(segments(targetLines(target, site.ground), accent, 1));
      for (const probe of project.probes)
        labels.push({
          text: String(probe.number),
          at: probe.at as [number, number, number],
          className: 'probe',
        });
    }
    if (stage === 'site')
      for (const area of project.areas) {
        const level = area.on.kind === 'level' ? area.on.levelM + 0.07 : null;
        const at = (p: readonly [number, number]) =>
          level === null ? lift(p) : ([p[0], p[1], level] as const);
        lines.add(segments(polyline(area.outline.map(at), true), colour.garden, 1));
        const [x, y, z] = at(innerPoint({ outer: area.outline, holes: [] }));
        labels.push({ text: area.name, at: [x, y, z], className: 'area' });
      }
    if (tool.kind === 'draw' && (draft.points.length || draft.pointer)) {
      const level = tool.levelM;
      const at = (p: readonly [number, number]) =>
        level === undefined ? lift(p) : ([p[0], p[1], level + 0.05] as const);
      const outline = draftOutline(draft, tool.shape);
      const closed = tool.shape !== 'path' && outline.length > 2;
      for (const guide of draft.guides) lines.add(segments(dashed(guide.map(at), 0.5), accent, 0.9, 9, true));
      lines.add(segments(polyline(outline.map(at), closed), colour.sun, 1, 10, true));
      labels.push(...edgeLabels(outline, at, project.units, closed));
    }
    const face =
      stage === 'openings' || stage === 'studies'
        ? selection?.face && faceOfOwner(project, selection, selection.face, meshes)
        : null;
    if (face) lines.add(segments(faceLines(face), accent, 1, 9));
    if (stage === 'form') labels.push(...bodyLabels(project, selection, tool));
    view.setLabels(labels);
    view.render();
  }, [
    view,
    project,
    circle,
    date,
    minutes,
    sun,
    theme,
    stage,
    sunPath,
    draft,
    tool,
    site,
    selection,
    meshes,
  ]);

  useEffect(() => {
    const group = layers.current!.result;
    empty(group);
    if (result.group) group.add(result.group);
    view.render();
  }, [view, result.group]);

  return (
    <>
      <PaneChrome view={view} sun={sun} scene={scene} />
      {byKind && <KindLegend />}
      {stage === 'openings' && <ElevationPanel view={view} />}
      {hover && (
        <div className="pane-tip" style={{ left: hover.x, top: hover.y }}>
          {hover.text}
        </div>
      )}
      {stage === 'studies' && result.standing.result && (
        <ResultLegend key={optionId} result={result.standing.result} look={result.look} />
      )}
    </>
  );
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
