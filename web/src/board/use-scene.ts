import { assembleScene, bounds, type Owner, type Point2, type Project, type Scene } from '@dial-shade/core';
import { useMemo } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { type Selection, useView } from '../state/view-store';
import { optionTint, SCENE, rampRgb } from '../theme/palette';
import type { OwnerColours } from './solid-geometry';
import type { Circle } from './sun-path-lines';

/** The scene of the option on the board, the colour of each owner, and which owners are chosen. */
export function useScene(): { scene: Scene; colours: OwnerColours; chosen: Set<number> } {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const optionId = useView((view) => view.optionId);
  const theme = useView((view) => view.theme);
  const selection = useView((view) => view.selection);
  const shownOption = project.options.some((o) => o.id === optionId) ? optionId : project.options[0]!.id;
  const scene = useMemo(() => assembleScene(project, shownOption, meshes), [project, shownOption, meshes]);
  const colours = useMemo(
    () => scene.owners.map((owner) => ownerColour(owner, project, theme)),
    [scene, project, theme],
  );
  const chosen = useMemo(
    () => new Set(scene.owners.flatMap((owner, i) => (selection && isSelected(owner, selection) ? [i] : []))),
    [scene, selection],
  );
  return { scene, colours, chosen };
}

export function isSelected(owner: Owner, selection: Selection): boolean {
  return (
    owner.id === selection.id && owner.optionId === selection.optionId && owner.layer === selection.layer
  );
}

function ownerColour(owner: Owner, project: Project, theme: 'light' | 'dark'): [number, number, number] {
  const palette = SCENE[theme];
  const hex = () => {
    if (owner.layer === 'ground') return palette.ground;
    if (owner.layer === 'neighbours') return palette.neighbour;
    if (owner.layer === 'today') return palette.today;
    return optionTint(project.options.find((option) => option.id === owner.optionId)?.hue ?? 7, theme);
  };
  return rampRgb(() => hex(), 0);
}

/** Where the north ring stands: round everything near the site. */
export function siteCircle(project: Project): Circle {
  const points: Point2[] = [
    ...(project.site.boundary ?? []),
    ...project.targets.flatMap((target) => target.outline),
    ...project.options.flatMap((option) => option.masses.flatMap((mass) => mass.footprint.outer)),
    ...project.neighbours.flatMap((n) => (n.kind === 'building' ? n.footprint.outer : [])),
  ];
  if (points.length === 0) return { centre: [0, 0], radius: 40 };
  const box = bounds(points);
  const centre: Point2 = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const reach = Math.max(...points.map(([x, y]) => Math.hypot(x - centre[0], y - centre[1])));
  return { centre, radius: Math.max(20, reach * 1.02) };
}
