import { findOwner, meshFaceAt, type Owner, type Scene } from '@dial-shade/core';
import { useMeshes } from '../../state/mesh-cache';
import type { Stage } from '../../state/view-store';
import { currentProject } from '../../state/project-store';
import { type Selection, setView, useView } from '../../state/view-store';
import type { ChunkHit } from '../scene-chunks';
import type { PaneView } from '../pane-view';
import type { ShownResult } from '../shown-result';
import { isSelected, ownerKey } from '../scene-look';

/** What the pointer says beside itself. */
export interface Hover {
  x: number;
  y: number;
  text: string;
}

/** What a tool may use of the board. */
export interface ToolHost {
  view: PaneView;
  now(): { stage: Stage; scene: Scene; result: ShownResult };
  say(hover: Hover | null): void;
}

/** One way of using the pointer. Places are CSS pixels in the pane. */
export interface BoardTool {
  /** Takes hold; true when a drag begins that is not the view's. */
  down?(x: number, y: number, event: PointerEvent): boolean;
  drag?(x: number, y: number): void;
  /** A drag ends. */
  up?(): void;
  /** The pointer moves without a button. */
  move?(x: number, y: number): void;
  /** A click without a drag. */
  click?(x: number, y: number, event: PointerEvent): void;
  /** True when the key is taken. */
  key?(event: KeyboardEvent): boolean;
}

/** A picked owner that is not locked: not the ground, and of devices only bodies that are marked as such. */
export function pickOwner(host: ToolHost, x: number, y: number): { picked: ChunkHit; owner: Owner } | null {
  const picked = host.view.pick(x, y);
  const owner = picked && host.now().scene.owners[picked.owner]!;
  if (!picked || !owner || owner.layer === 'ground') return null;
  if (owner.layer === 'devices' && !findOwner(currentProject(), owner)) return null;
  return useView.getState().locked.has(ownerKey(owner)) ? null : { picked, owner };
}

/** The key of the flat face of an imported mesh at a place; null on anything else, and where the mesh is curved. */
function meshFaceKey(owner: Owner, place: ChunkHit['point']): string | null {
  const model = findOwner(currentProject(), owner);
  if (!model || !('mesh' in model)) return null;
  const mesh = useMeshes.getState().meshes.get(model.mesh);
  return (mesh && meshFaceAt(model, mesh, place)?.key) ?? null;
}

/** The selection that a picked place makes. */
export function selectionOf(host: ToolHost, picked: ChunkHit, owner: Owner): Selection {
  const surface = host.now().scene.surfaces[picked.surface]!;
  const [nx, ny, nz] = surface.normal;
  const upright = surface.kind === 'wall' || surface.kind === 'glazing' || Math.abs(nz) < 0.2;
  return {
    id: owner.id,
    optionId: owner.optionId,
    layer: owner.layer === 'devices' ? 'option' : (owner.layer as Selection['layer']),
    wallBearingDeg: upright ? (Math.atan2(nx, ny) * 180) / Math.PI : null,
    face: surface.face ?? meshFaceKey(owner, picked.point),
  };
}

/** Chooses what lies at a place; with `add`, together with what is chosen already. */
export function choose(host: ToolHost, x: number, y: number, add: boolean): void {
  const found = pickOwner(host, x, y);
  const { selection, also } = useView.getState();
  if (!found) {
    if (!add) setView({ selection: null, also: [], opening: null });
    return;
  }
  const next = selectionOf(host, found.picked, found.owner);
  const opening = host.now().scene.surfaces[found.picked.surface]!.opening;
  if (!add || !selection) setView({ selection: next, also: [], opening });
  else if (isSelected(found.owner, selection)) setView({ selection: also[0] ?? null, also: also.slice(1) });
  else {
    const rest = also.filter((one) => !isSelected(found.owner, one));
    setView({ also: rest.length < also.length ? rest : [...also, next] });
  }
}

/** Where the line of sight through a place meets the ground, or a level. */
export function onGround(host: ToolHost, x: number, y: number, levelM?: number): [number, number] | null {
  if (levelM !== undefined) {
    const p = host.view.onLevel(x, y, levelM);
    return p && [p[0], p[1]];
  }
  const picked = host.view.pick(x, y);
  if (picked && host.now().scene.owners[picked.owner]!.layer === 'ground')
    return [picked.point[0], picked.point[1]];
  const p = host.view.onLevel(x, y, picked ? picked.point[2] : 0);
  return p && [p[0], p[1]];
}
