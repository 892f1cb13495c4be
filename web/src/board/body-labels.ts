import {
  findBody,
  formatArea,
  formatLength,
  massLevels,
  normalFootprint,
  type Project,
  roomsOf,
  storeyFloorM,
} from '@dial-shade/core';
import { useMemo } from 'react';
import { useDocument } from '../state/project-store';
import { type Selection, type Tool, useView } from '../state/view-store';
import type { Label } from './label-layer';
import type { PaneView } from './pane-view';
import { cornerHandles } from './tools/corners-tool';
import { useLabels } from './use-layer';

/** Edges up to which lengths are written. */
const FEW_EDGES = 24;

/** The labels of the chosen body in a pane. */
export function BodyLabels({ view }: { view: PaneView }) {
  const project = useDocument();
  const selection = useView((v) => v.selection);
  const tool = useView((v) => v.tool);
  const labels = useMemo(() => bodyLabels(project, selection, tool), [project, selection, tool]);
  useLabels(view, 'body', labels);
  return null;
}

/** Dimensions of the chosen body on its foot and beside its walls, its rooms by name, and handles while corners are dragged. */
export function bodyLabels(project: Project, selection: Selection | null, tool: Tool): Label[] {
  const body = selection && findBody(project, selection);
  if (!body) return [];
  const { ground } = project.site;
  const { outer } = normalFootprint(body.footprint);
  const levels = massLevels(body, ground);
  const labels: Label[] = [];
  if (tool.kind === 'corners') {
    for (const { at, between } of cornerHandles(body))
      labels.push({ text: between ? '+' : '', at, className: between ? 'handle between' : 'handle' });
    return labels;
  }
  if (tool.kind === 'draw' && tool.purpose === 'partition') {
    const storey = tool.storey ?? 0;
    const z = storeyFloorM(body, ground, storey) + 0.1;
    for (const room of roomsOf(body).filter((r) => r.storey === storey))
      labels.push({
        text: `${room.name} ${formatArea(room.areaM2, project.units)}`,
        at: [room.middle[0], room.middle[1], z],
        className: 'area',
      });
    return labels;
  }
  if (outer.length <= FEW_EDGES)
    outer.forEach((p, i) => {
      const q = outer[(i + 1) % outer.length]!;
      labels.push({
        text: formatLength(Math.hypot(q[0] - p[0], q[1] - p[1]), project.units, 2),
        at: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, levels.floorM],
        className: 'dimension quiet',
      });
    });
  labels.push({
    text: `${formatLength(levels.topM - levels.floorM, project.units, 2)} high`,
    at: [outer[0]![0], outer[0]![1], (levels.floorM + levels.topM) / 2],
    className: 'dimension quiet',
  });
  return labels;
}
