import { dayOfYear, type WindowOfTime } from '@dial-shade/core';
import { type PointerEvent, useRef } from 'react';
import { edit, endGesture } from '../state/project-store';
import { setMoment, setView, useView } from '../state/view-store';
import type { ChartScale } from './chart-scale';
import { type Edges, edgesAt } from './window-box';
import type { WindowInHand } from './window-in-hand';
import { dateOfColumn } from './wording';

type Drag =
  | { kind: 'moment'; from: { date: string; minutes: number; px: number; py: number } }
  | { kind: 'window'; edges: Edges; anchor: { column: number; minutes: number }; start: WindowOfTime };

/** How far the pointer goes before a new window is brushed. */
const BRUSH_PX = 4;
const half = (minutes: number) => Math.round(minutes / 30) * 30;
const order = (a: number, b: number): [number, number] => (a <= b ? [a, b] : [b, a]);

/** The window of time that a drag gives: the edges that are held follow the pointer; with none held a new one is brushed. */
function brushed(
  { edges, anchor, start }: Extract<Drag, { kind: 'window' }>,
  scale: ChartScale,
  year: number,
  px: number,
  py: number,
  lateness: WindowInHand['lateness'],
): WindowOfTime | null {
  const column = scale.column(px);
  const minutes = scale.minutes(py);
  const here = half((minutes >= 1425 ? 1440 : minutes) - lateness(column));
  const free = Object.keys(edges).length === 0;
  if (
    free &&
    Math.abs(px - scale.x(anchor.column)) < BRUSH_PX &&
    Math.abs(py - scale.y(anchor.minutes)) < BRUSH_PX
  )
    return null;
  const [c0, c1] = free
    ? order(anchor.column, column)
    : order(edges.left ? column : dayOfYear(start.from), edges.right ? column : dayOfYear(start.to));
  const [m0, m1] = free
    ? order(half(anchor.minutes - lateness(anchor.column)), here)
    : order(edges.top ? here : start.startMinutes, edges.bottom ? here : start.endMinutes);
  const startMinutes = Math.max(0, Math.min(1410, m0));
  return {
    ...start,
    from: dateOfColumn(year, c0),
    to: dateOfColumn(year, c1),
    startMinutes,
    endMinutes: Math.min(1440, Math.max(m1, startMinutes + 30)),
  };
}

/**
 * The pointer over the almanac: it drags the moment, with Shift along the day or the hour only; while a window of time is
 * brushed, it drags that.
 */
export function useAlmanacDrag(scale: ChartScale, year: number, hand: WindowInHand | null) {
  const drag = useRef<Drag | null>(null);
  const pointTo = (px: number, py: number, along: boolean) => {
    const snapped = Math.round(scale.minutes(py) / 5) * 5;
    const next = { date: dateOfColumn(year, scale.column(px)), minutes: Math.min(1435, snapped) };
    if (along && drag.current?.kind === 'moment') {
      const { from } = drag.current;
      if (Math.abs(px - from.px) > Math.abs(py - from.py)) next.minutes = from.minutes;
      else next.date = from.date;
    }
    setMoment(next.date, next.minutes);
  };
  const at = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { px: event.clientX - box.left, py: event.clientY - box.top };
  };
  const onPointerDown = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const { px, py } = at(event);
    if (hand) {
      const edges = edgesAt(hand, scale, px, py) ?? {};
      const anchor = { column: scale.column(px), minutes: scale.minutes(py) };
      drag.current = { kind: 'window', edges, anchor, start: hand.window };
      return;
    }
    setView({ play: null });
    const { date, minutes } = useView.getState();
    drag.current = { kind: 'moment', from: { date, minutes, px, py } };
    pointTo(px, py, false);
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const { px, py } = at(event);
    if (drag.current?.kind === 'moment') pointTo(px, py, event.shiftKey);
    else if (drag.current?.kind === 'window' && hand) {
      const window = brushed(drag.current, scale, year, px, py, hand.lateness);
      if (window) edit('brush the window of time', hand.put(window), { gestureKey: `window-${hand.key}` });
    }
  };
  const onPointerUp = () => {
    if (drag.current?.kind === 'window') {
      endGesture();
      if (hand?.window.from.startsWith(String(year))) setView({ date: hand.window.from });
    }
    drag.current = null;
  };
  return { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: onPointerUp };
}
