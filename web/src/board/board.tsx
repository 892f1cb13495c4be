import { dot, sunPosition, sunVector } from '@dial-shade/core';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useStage } from '../app/use-stage';
import { ElevationPanel } from '../openings/elevation-panel';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { useDocument, useProject } from '../state/project-store';
import { useMoment, useView } from '../state/view-store';
import { ResultLegend } from '../studies/result-legend';
import { setBoardView } from './board-view';
import { KindLegend } from './kind-legend';
import { PaneChrome } from './pane-chrome';
import { SceneView } from './scene-view';
import type { Hover } from './tools/host';
import { useOverlays } from './use-overlays';
import { usePointer } from './use-pointer';
import { useResultOverlay } from './use-result-overlay';
import { focusOf, siteCircle, useScene } from './use-scene';
import { keepView, recallView } from './view-memory';

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
  const optionId = useView((v) => v.optionId);
  const moment = useMoment();
  const { scene, colours, chosen, hidden } = useScene();
  const byKind = useView((v) => v.byKind);
  const meshes = useMeshes((state) => state.meshes);
  const { site } = project;
  const circle = useMemo(() => siteCircle(project, meshes), [project, meshes]);
  const sun = useMemo(() => sunPosition(moment, site.place), [moment, site.place]);
  const result = useResultOverlay(stage === 'studies');
  const hover = usePointer(view, scene, result);

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
    view.setFocus(focusOf(scene, site.ground, circle));
    if (!fitted.current && !recallView(view, projectId)) view.lookFrom('fit');
    fitted.current = true;
  }, [view, scene, circle, site.ground, projectId]);

  useEffect(() => keepView(view, projectId), [view, projectId]);

  const labels = useOverlays(view, circle, sun);
  useEffect(() => view.setLabels(labels), [view, labels]);

  const { group } = result;
  useEffect(() => {
    if (group) view.overlay.add(group);
    view.render();
    return () => {
      if (group) view.overlay.remove(group);
    };
  }, [view, group]);

  return (
    <>
      <PaneChrome view={view} sun={sun} scene={scene} />
      {byKind && <KindLegend />}
      {stage === 'openings' && <ElevationPanel view={view} />}
      {hover && <PaneTip view={view} hover={hover} />}
      {stage === 'studies' && result.standing.result && (
        <ResultLegend key={optionId} result={result.standing.result} look={result.look} />
      )}
    </>
  );
}

/** What the pointer says beside itself; labels make room for it. */
function PaneTip({ view, hover }: { view: SceneView; hover: Hover }) {
  const tip = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const { offsetLeft: x, offsetTop: y, offsetWidth: width, offsetHeight: height } = tip.current!;
    view.keepFree({ x, y, width, height });
    return () => view.keepFree(null);
  }, [view, hover]);
  return (
    <div ref={tip} className="pane-tip" style={{ left: hover.x, top: hover.y }}>
      {hover.text}
    </div>
  );
}
