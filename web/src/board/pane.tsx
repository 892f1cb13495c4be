import { dot, instantOf, sunPosition, sunVector } from '@dial-shade/core';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { later } from '../app/later';
import { useStage } from '../app/use-stage';
import { useMeshes } from '../state/mesh-cache';
import { focusPane, noteCamera, type Pane, shownIn, usePanes } from '../state/panes-store';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { useShowsResults } from '../compare/shows-results';
import type { BoardCanvas } from './board-canvas';
import { KindLegend } from './kind-legend';
import type { Box } from './label-layer';
import { PaneChrome } from './pane-chrome';
import { enterView, tieCameras } from './pane-registry';
import { PaneView } from './pane-view';
import type { Hover } from './tools/host';
import { useOverlays } from './use-overlays';
import { useShadeOutlines } from './use-shade-outlines';
import { useSectionOverlay } from './use-section-overlay';
import { usePointer } from './use-pointer';
import { useRaysOverlay } from './use-rays-overlay';
import { useRoomSun } from './use-room-sun';
import { focusOf, lookOf, siteCircle } from './scene-look';
import { NO_RESULT } from './shown-result';
import { useLabels } from './use-layer';
import { useScene } from './use-scene';

const BodyLabels = later(async () => (await import('./body-labels')).BodyLabels);
const EnvelopeOverlay = later(async () => (await import('../envelope/envelope-overlay')).EnvelopeOverlay);
const ResultOverlay = later(async () => (await import('./result-overlay')).ResultOverlay);
const UnderlayOverlay = later(async () => (await import('./underlay-overlay')).UnderlayOverlay);
const ShadingOverlay = later(async () => (await import('../shading/shading-overlay')).ShadingOverlay);
const ElevationPanel = later(async () => (await import('../openings/elevation-panel')).ElevationPanel);

interface PaneProps {
  board: BoardCanvas;
  pane: Pane;
  isAlone: boolean;
  box: Box;
  /** What a plan of a sheet is called. */
  name?: string;
}

/** A pane in its place on the board. */
export function PaneFrame({ board, pane, isAlone, box, name }: PaneProps) {
  const element = useRef<HTMLDivElement>(null);
  const labelRoot = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<PaneView | null>(null);
  const isFocused = usePanes((state) => state.focused === pane.id);
  const { x, y, width, height } = box;

  useEffect(() => {
    const made = new PaneView(board, element.current!, labelRoot.current!);
    const leave = enterView(pane.id, made);
    setView(made);
    return () => {
      leave();
      made.dispose();
    };
  }, [board, pane.id]);
  useLayoutEffect(() => view?.resize({ x, y, width, height }), [view, x, y, width, height]);

  return (
    <section
      className={`pane${isFocused && !isAlone ? ' focused' : ''}`}
      style={{ left: x, top: y, width, height }}
      aria-label={isAlone ? 'Pane' : `Pane ${pane.id + 1}`}
      onPointerDownCapture={() => focusPane(pane.id)}
      onFocusCapture={() => focusPane(pane.id)}
    >
      <div ref={element} className="pane-scene" tabIndex={0} role="application" aria-label="The scene" />
      <div ref={labelRoot} className="scene-labels" aria-hidden />
      {view && (
        <PaneContent board={board} view={view} pane={pane} isAlone={isAlone} {...(name && { name })} />
      )}
    </section>
  );
}

function PaneContent({ board, view, pane, isAlone, name }: Omit<PaneProps, 'box'> & { view: PaneView }) {
  const project = useDocument();
  const stage = useStage();
  const showsResults = useShowsResults();
  const changeFrom = useView((v) => (v.showsChange ? v.before : null));
  const theme = useView((v) => v.theme);
  const isFocused = usePanes((state) => state.focused === pane.id);
  const boardShows = usePanes((state) => state.board);
  const focusedStudy = useView((v) => v.activeStudy);
  const { optionId, date, minutes, activeStudy } = shownIn(pane, { board: boardShows });
  // Beside the change against it an option has none of its own to show.
  const isReference = optionId === changeFrom && !isFocused;
  const { site } = project;
  const moment = instantOf(date, minutes, site.place.zone);
  const isByKind = pane.drawing.tone === 'kinds';
  const of = lookOf(project, optionId, pane.id, pane.pin.moment !== null);
  const look = useScene(optionId, isByKind, moment, of);
  const { scene } = look;
  const meshes = useMeshes((state) => state.meshes);
  const circle = useMemo(() => siteCircle(project, meshes), [project, meshes]);
  const sun = useMemo(() => sunPosition(moment, site.place), [moment, site.place]);
  const [result, setResult] = useState(NO_RESULT);
  const hover = usePointer(view, isFocused, scene, result);

  useEffect(() => {
    const model = board.borrow(`${optionId}${isByKind ? '/kinds' : ''}${of}`);
    view.show(model);
    return () => {
      view.show(null);
      board.giveBack(model);
    };
  }, [board, view, optionId, isByKind, of]);
  useEffect(() => view.model?.show(look, theme), [view, look, theme, optionId, isByKind, of]);
  useEffect(() => view.setDrawing(pane.drawing), [view, pane.drawing]);
  useEffect(() => view.setDate(date), [view, date]);
  useEffect(() => view.setNorth(site.north.trueNorthDeg), [view, site.north.trueNorthDeg]);
  useEffect(() => {
    const towards = sunVector(sun.altitudeDeg, sun.azimuthDeg, site.north.trueNorthDeg);
    // Ground that is a plane has no end: a sun below its plane reaches nothing that stands on it.
    const isUp = sun.altitudeDeg > 0 && dot(towards, scene.ground.normal) > 0;
    view.setSun(isUp ? towards : null);
  }, [view, sun, site.north.trueNorthDeg, scene.ground]);

  usePaneLook(view, pane, scene, circle);
  useSectionOverlay(view, pane.camera, look, theme);
  useShadeOutlines(view, stage === 'sun' && isFocused);
  const labels = useOverlays(view, circle, sun, {
    date,
    minutes,
    sunPath: pane.drawing.sunPath,
    grid: pane.drawing.grid,
  });
  const roomLabels = useRoomSun(view, pane.camera, stage === 'sun' && isFocused);
  useRaysOverlay(view, pane.camera, stage === 'sun' && isFocused);
  useLabels(view, 'rooms', roomLabels);
  useLabels(view, 'scene', labels);

  return (
    <>
      <PaneChrome
        view={view}
        pane={pane}
        sun={sun}
        scene={scene}
        optionId={optionId}
        isFocused={isFocused}
        isAlone={isAlone}
        {...(name && { name })}
      />
      {isByKind && isFocused && <KindLegend />}
      {stage === 'openings' && isFocused && <ElevationPanel view={view} />}
      {hover && <PaneTip view={view} hover={hover} />}
      {project.underlays.length > 0 && <UnderlayOverlay view={view} scene={scene} />}
      {stage === 'form' && <BodyLabels view={view} />}
      {stage === 'envelope' && <EnvelopeOverlay view={view} optionId={optionId} />}
      {stage === 'shading' && <ShadingOverlay view={view} camera={pane.camera} optionId={optionId} />}
      {showsResults && !isReference && (
        <ResultOverlay
          view={view}
          optionId={optionId}
          activeStudy={activeStudy}
          map={pane.drawing.map}
          hasLegend={isFocused || activeStudy !== focusedStudy}
          show={setResult}
        />
      )}
    </>
  );
}

/** Puts the eye of a pane where it was, or frames everything; notes where it is whenever it comes to rest. */
function usePaneLook(
  view: PaneView,
  pane: Pane,
  scene: Parameters<typeof focusOf>[0],
  circle: Parameters<typeof focusOf>[2],
): void {
  const { ground } = useDocument().site;
  const placed = useRef(false);
  const { id, camera } = pane;
  useEffect(() => {
    view.setFocus(focusOf(scene, ground, circle));
    if (placed.current) return;
    if (camera) view.restoreCamera(camera);
    else view.lookFrom('fit');
    placed.current = true;
  }, [view, scene, circle, ground, camera]);
  useEffect(() => {
    const note = () => noteCamera(id, view.look.camera);
    const follow = () => usePanes.getState().focused === id && tieCameras();
    view.controls.addEventListener('end', note);
    view.controls.addEventListener('change', follow);
    window.addEventListener('pagehide', note, { capture: true });
    return () => {
      note();
      view.controls.removeEventListener('end', note);
      view.controls.removeEventListener('change', follow);
      window.removeEventListener('pagehide', note, { capture: true });
    };
  }, [view, id]);
}

/** What the pointer says beside itself; labels make room for it. */
function PaneTip({ view, hover }: { view: PaneView; hover: Hover }) {
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
