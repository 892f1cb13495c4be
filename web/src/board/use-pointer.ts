import {
  add,
  formatClock,
  formatLength,
  freshId,
  groundNormal,
  moveOwner,
  type Scene,
  TODAY,
} from '@dial-shade/core';
import { useEffect, useRef, useState } from 'react';
import { useStage } from '../app/use-stage';
import { currentProject, edit, endGesture } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { cancelDrawing, closeDrawing, drawClick, SNAP_PX, snapCorners, snapPoint, useDraft } from './drawing';
import { sensorAt, shownHours } from './result-cells';
import type { SceneView } from './scene-view';
import type { ResultOverlay } from './use-result-overlay';

/** What the pointer says. */
export interface Hover {
  x: number;
  y: number;
  text: string;
}

interface Drag {
  id: string;
  optionId: string | null;
  level: number;
  from: [number, number];
  moved: [number, number];
  name: string;
}

const CLICK_PX = 4;

/** Choosing, moving, drawing, probing and reading values on the board. */
export function usePointer(view: SceneView, scene: Scene, result: ResultOverlay): Hover | null {
  const stage = useStage();
  const [hover, setHover] = useState<Hover | null>(null);
  const latest = useRef({ stage, scene, result });
  useEffect(() => {
    latest.current = { stage, scene, result };
  });

  useEffect(() => {
    const { canvas, controls } = view;
    let down: { x: number; y: number } | null = null;
    let drag: Drag | null = null;

    const place = (event: PointerEvent | MouseEvent) => {
      const box = canvas.getBoundingClientRect();
      return { x: event.clientX - box.left, y: event.clientY - box.top };
    };

    const onGround = (x: number, y: number): [number, number] | null => {
      const picked = view.pick(x, y);
      if (picked && latest.current.scene.owners[picked.owner]!.layer === 'ground')
        return [picked.point[0], picked.point[1]];
      const p = view.onLevel(x, y, picked ? picked.point[2] : 0);
      return p && [p[0], p[1]];
    };

    const snapped = (x: number, y: number): [number, number] | null => {
      const raw = onGround(x, y);
      if (!raw) return null;
      const project = currentProject();
      const { optionId } = useView.getState();
      const draft = useDraft.getState();
      for (const corner of snapCorners(project, optionId, draft)) {
        const level = view.pick(x, y)?.point[2] ?? 0;
        const at = view.toScreen([corner[0], corner[1], level]);
        if (
          Math.hypot(at.x - x, at.y - y) < SNAP_PX &&
          Math.hypot(corner[0] - raw[0], corner[1] - raw[1]) < 4
        )
          return [corner[0], corner[1]];
      }
      const p = snapPoint(raw, draft);
      return [p[0], p[1]];
    };

    const choose = (x: number, y: number) => {
      const { scene: now } = latest.current;
      const picked = view.pick(x, y);
      const owner = picked && now.owners[picked.owner]!;
      if (!picked || !owner || owner.layer === 'ground') {
        setView({ selection: null });
        return;
      }
      const surface = now.surfaces[picked.surface]!;
      const [nx, ny] = surface.normal;
      const upright =
        surface.kind === 'wall' || (surface.kind === 'mesh' && Math.abs(surface.normal[2]) < 0.2);
      setView({
        selection: {
          id: owner.id,
          optionId: owner.optionId,
          layer: owner.layer,
          wallBearingDeg: upright ? (Math.atan2(nx, ny) * 180) / Math.PI : null,
        },
      });
    };

    const plantProbe = (x: number, y: number): boolean => {
      const { result: shown, stage: at } = latest.current;
      const found = shown.standing.result;
      const picked = view.pick(x, y);
      if (at !== 'studies' || !found || !picked) return false;
      if (latest.current.scene.owners[picked.owner]!.layer !== 'ground') return false;
      const sensor = sensorAt(found, shown.index, [picked.point[0], picked.point[1]]);
      if (sensor === null) return false;
      const project = currentProject();
      const p = found.grid.positions;
      const position: [number, number, number] = [p[sensor * 3]!, p[sensor * 3 + 1]!, p[sensor * 3 + 2]!];
      const near = project.probes.find(
        (probe) => Math.hypot(probe.at[0] - position[0], probe.at[1] - position[1]) < 1e-6,
      );
      if (near) {
        setView({ activeProbe: near.id });
        return true;
      }
      const number = Math.max(0, ...project.probes.map((probe) => probe.number)) + 1;
      const id = freshId(project, `probe-${number}`);
      const probe = { id, number, at: position, normal: groundNormal(project.site.ground) };
      if (!edit(`plant probe ${number}`, add('probes', probe))) setView({ activeProbe: id });
      return true;
    };

    const onDown = (event: PointerEvent) => {
      if (event.button !== 0) return;
      down = place(event);
      const { tool } = useView.getState();
      if (tool.kind !== 'move') return;
      const picked = view.pick(down.x, down.y);
      const owner = picked && latest.current.scene.owners[picked.owner]!;
      if (!picked || !owner || owner.layer === 'ground') return;
      choose(down.x, down.y);
      controls.enabled = false;
      canvas.setPointerCapture(event.pointerId);
      drag = {
        id: owner.id,
        optionId: owner.layer === 'today' ? TODAY : owner.optionId,
        level: picked.point[2],
        from: [picked.point[0], picked.point[1]],
        moved: [0, 0],
        name: owner.name,
      };
    };

    const moveDragged = (x: number, y: number) => {
      const p = view.onLevel(x, y, drag!.level);
      if (!p) return;
      const snap = (v: number) => Math.round(v * 4) / 4;
      const wanted: [number, number] = [snap(p[0] - drag!.from[0]), snap(p[1] - drag!.from[1])];
      const dx = wanted[0] - drag!.moved[0];
      const dy = wanted[1] - drag!.moved[1];
      if (dx === 0 && dy === 0) return;
      edit(`move ${drag!.name}`, moveOwner(drag!, dx, dy), { gestureKey: `move-${drag!.id}` });
      drag!.moved = wanted;
      const { units } = currentProject();
      setHover({
        x,
        y,
        text: `${formatLength(wanted[0], units)} right, ${formatLength(wanted[1], units)} up`,
      });
    };

    const onMove = (event: PointerEvent) => {
      const { x, y } = place(event);
      if (drag) {
        moveDragged(x, y);
        return;
      }
      const { tool } = useView.getState();
      if (tool.kind === 'draw') {
        useDraft.setState({ pointer: snapped(x, y) });
        setHover(null);
        return;
      }
      if (event.buttons !== 0) {
        setHover(null);
        return;
      }
      setHover(readValue(x, y));
    };

    const readValue = (x: number, y: number): Hover | null => {
      const { result: shown, stage: at, scene: now } = latest.current;
      const found = shown.standing.result;
      const picked = view.pick(x, y);
      if (!picked) return null;
      const owner = now.owners[picked.owner]!;
      if (owner.layer !== 'ground') return { x, y, text: owner.name };
      if (at !== 'studies' || !found) return null;
      const sensor = sensorAt(found, shown.index, [picked.point[0], picked.point[1]]);
      if (sensor === null) return null;
      const hours = shownHours(found, shown.index, sensor);
      if (Number.isNaN(hours)) return null;
      const { first, last, longest } = found.values;
      const stretch = Number.isNaN(first[sensor]!)
        ? ''
        : ` · ${formatClock(first[sensor]!)}–${formatClock(last[sensor]!)} · longest ${longest[sensor]!.toFixed(1)} h`;
      return { x, y, text: `${hours.toFixed(hours < 100 ? 2 : 0)} h${stretch}` };
    };

    const onUp = (event: PointerEvent) => {
      controls.enabled = true;
      if (drag) {
        drag = null;
        endGesture();
        setHover(null);
        down = null;
        return;
      }
      if (!down || event.button !== 0) return;
      const { x, y } = place(event);
      const still = Math.hypot(x - down.x, y - down.y) < CLICK_PX;
      down = null;
      if (!still) return;
      const { tool } = useView.getState();
      if (tool.kind === 'draw') {
        const p = snapped(x, y);
        if (p) drawClick(tool, p);
      } else if (!plantProbe(x, y)) choose(x, y);
    };

    const onKey = (event: KeyboardEvent) => {
      const { tool } = useView.getState();
      if (tool.kind !== 'draw') return;
      if (event.key === 'Enter') closeDrawing(tool);
      if (event.key === 'Escape') cancelDrawing();
    };
    const onLeave = () => {
      setHover(null);
      useDraft.setState({ pointer: null });
    };

    canvas.addEventListener('pointerdown', onDown, { capture: true });
    canvas.addEventListener('pointermove', onMove);
    canvas.addEventListener('pointerup', onUp);
    canvas.addEventListener('pointerleave', onLeave);
    window.addEventListener('keydown', onKey);
    return () => {
      canvas.removeEventListener('pointerdown', onDown, { capture: true });
      canvas.removeEventListener('pointermove', onMove);
      canvas.removeEventListener('pointerup', onUp);
      canvas.removeEventListener('pointerleave', onLeave);
      window.removeEventListener('keydown', onKey);
    };
  }, [view]);

  return hover;
}
