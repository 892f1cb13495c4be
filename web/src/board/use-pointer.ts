import type { Scene } from '@dial-shade/core';
import { useEffect, useRef, useState } from 'react';
import { tellMissed } from '../app/later';
import { CLICK_PX } from '../app/steady-press';
import { useStage } from '../app/use-stage';
import { part } from '../state/part';
import { useView } from '../state/view-store';
import { useDraft } from './draft';
import type { PaneView } from './pane-view';
import type { ShownResult } from './shown-result';
import { chooseTool } from './tools/choose-tool';
import type { BoardTool, Hover, ToolHost } from './tools/host';
import type { OtherTools } from './tools/other-tools';

/** What the pointer does until the tool at hand has come: it turns the view. */
const NO_TOOL: BoardTool = {};
/** How long the view rests before what is under a resting pointer is read again, ms. */
const SETTLED_MS = 150;

/** All ways of using the pointer but choosing. */
const shaping = part(() => import('./tools/other-tools'));

type Now = ReturnType<ToolHost['now']> & { isFocused: boolean };

/** Gives the pointer in a pane, and the keys while it has the focus, to the tool at hand. */
export function usePointer(
  view: PaneView,
  isFocused: boolean,
  scene: Scene,
  result: ShownResult,
): Hover | null {
  const stage = useStage();
  const [hover, setHover] = useState<Hover | null>(null);
  const latest = useRef({ stage, scene, result, isFocused });
  useEffect(() => {
    latest.current = { stage, scene, result, isFocused };
  });

  const readAgain = useRef(() => {});
  useEffect(() => {
    const listening = listen(view, () => latest.current, setHover);
    readAgain.current = listening.readAgain;
    return () => {
      readAgain.current = () => {};
      listening.end();
    };
  }, [view]);

  const shown = result.standing.result;
  useEffect(() => {
    const frame = requestAnimationFrame(() => readAgain.current());
    return () => cancelAnimationFrame(frame);
  }, [scene, shown]);

  return hover;
}

/** The ways of using the pointer in a pane: choosing, and the tool at hand. */
function toolsOf(host: ToolHost): { choosing: BoardTool; tool: () => BoardTool } {
  let made: OtherTools | null = null;
  const others = (missed?: () => void) => {
    if (!made && shaping.here) made = shaping.here.otherTools(host);
    else if (!made) void shaping.fetch(missed);
    return made;
  };
  const choosing = chooseTool(host, others);
  const tool = (): BoardTool => {
    const { kind } = useView.getState().tool;
    return kind === 'select' ? choosing : (others(tellMissed)?.[kind] ?? NO_TOOL);
  };
  return { choosing, tool };
}

/**
 * Listens to the pointer in a pane. `readAgain` reads what is under a pointer that rests, though it has not moved: results
 * come, bodies and views change under it.
 */
function listen(view: PaneView, now: () => Now, say: (hover: Hover | null) => void) {
  const { element, controls } = view;
  const host: ToolHost = { view, now, say };
  const { choosing, tool } = toolsOf(host);
  let down: { x: number; y: number } | null = null;
  let dragging: BoardTool | null = null;
  let resting: { x: number; y: number } | null = null;
  let settling: ReturnType<typeof setTimeout> | undefined;
  const readAgain = () => {
    if (resting && !down && !dragging && tool() === choosing) tool().move!(resting.x, resting.y);
  };

  const place = (event: PointerEvent) => {
    const box = element.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const onDown = (event: PointerEvent) => {
    if (event.button !== 0) return;
    down = place(event);
    if (!tool().down?.(down.x, down.y, event)) return;
    dragging = tool();
    controls.enabled = false;
    element.setPointerCapture(event.pointerId);
  };
  const onMove = (event: PointerEvent) => {
    const { x, y } = place(event);
    resting = event.buttons === 0 ? { x, y } : null;
    if (dragging) dragging.drag?.(x, y);
    else if (event.buttons !== 0) say(null);
    else if (tool().move) tool().move!(x, y);
    else say(null);
  };
  const onUp = (event: PointerEvent) => {
    controls.enabled = true;
    const begun = down;
    down = null;
    if (dragging) {
      dragging.up?.();
      dragging = null;
      return;
    }
    if (!begun || event.button !== 0) return;
    const { x, y } = place(event);
    if (Math.hypot(x - begun.x, y - begun.y) >= CLICK_PX) return;
    const click = () => tool().click?.(x, y, event);
    if (tool() === NO_TOOL) void shaping.fetch().then(click);
    else click();
  };
  const onCancel = () => {
    controls.enabled = true;
    down = null;
    dragging?.up?.();
    dragging = null;
  };
  const onKey = (event: KeyboardEvent) => {
    const typing =
      event.target instanceof HTMLElement && event.target.closest('input, select, textarea, [role=dialog]');
    if (typing || !now().isFocused || !tool().key?.(event)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  const onLeave = () => {
    resting = null;
    say(null);
    useDraft.setState({ pointer: null, guides: [] });
  };

  // What was under the pointer is no longer there when the view moves away under it.
  const onTurned = () => {
    if (dragging) return;
    say(null);
    clearTimeout(settling);
    settling = setTimeout(readAgain, SETTLED_MS);
  };

  const heard = new AbortController();
  const { signal } = heard;
  controls.addEventListener('change', onTurned);
  element.addEventListener('pointerdown', onDown, { capture: true, signal });
  element.addEventListener('pointermove', onMove, { signal });
  element.addEventListener('pointerup', onUp, { signal });
  element.addEventListener('pointercancel', onCancel, { signal });
  element.addEventListener('pointerleave', onLeave, { signal });
  window.addEventListener('keydown', onKey, { capture: true, signal });
  const end = () => {
    clearTimeout(settling);
    controls.removeEventListener('change', onTurned);
    heard.abort();
  };
  return { readAgain, end };
}
