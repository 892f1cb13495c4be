import { onFace, standingScheme } from '@dial-shade/core';
import { placesHung } from '../../shading/device-in-hand';
import { useGlass } from '../../shading/glass-store';
import { useMeshes } from '../../state/mesh-cache';
import { currentProject } from '../../state/project-store';
import { useView } from '../../state/view-store';
import type { ToolHost } from './host';

/** On the Shading stage: chooses the device that lies at a place, at the window that it is nearest to there. */
export function chooseDevice(host: ToolHost, x: number, y: number): boolean {
  const { stage, scene } = host.now();
  const picked = stage === 'shading' ? host.view.pick(x, y) : null;
  const owner = picked && scene.owners[picked.owner]!;
  if (!picked || owner?.layer !== 'devices') return false;
  const { optionId } = useView.getState();
  const project = currentProject();
  const device = standingScheme(project, optionId)?.devices.find(({ id }) => id === owner.id);
  if (!device) return false;
  let [nearest, least]: [string | null, number] = [null, Infinity];
  for (const { owner: body, face, box, opening } of placesHung(
    project,
    optionId,
    useMeshes.getState().meshes,
    device,
  )) {
    const middle = onFace(face, [(box.u0 + box.u1) / 2, (box.v0 + box.v1) / 2], 0);
    const off = Math.hypot(...middle.map((value, k) => value - picked.point[k]!));
    if (off < least) [nearest, least] = [`${body.id}/${opening.id}`, off];
  }
  useGlass.setState({ device: device.id, ...(nearest !== null && { chosen: nearest }) });
  return true;
}
