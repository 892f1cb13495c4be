import Drawing from 'dxf-writer';
import { dot, type Mesh, type Point3, triangleNormal } from '../../geometry';
import type { Site } from '../../project';
import { cleanName, freshName } from '../model-file';
import { edgeKey } from './solid-runs';
import { mapFrame } from './map-frame';
import type { BodyKind, OutPart } from './out-parts';

/** Colours of layers by number: of what an option proposes, of devices, of trees; all else is grey. */
const COLOURS: Partial<Record<BodyKind | 'option', number>> = { option: 7, device: 30, tree: 94 };
const GREY = 8;

/** Edge flags of a face: the first three are those of a triangle whose last corner stands twice. */
const HIDDEN = [1, 2, 8];

/**
 * Parts as a DXF drawing (of 2007, which all that is newer reads): 3D faces in metres, z up, a layer a part, in the
 * coordinates of the survey where the project has one. Edges between triangles of one plane are hidden.
 */
export function writeDxf(parts: readonly OutPart[], site: Site): Uint8Array {
  const frame = mapFrame(site);
  const drawing = new Drawing();
  drawing.setUnits('Meters');
  const names = new Set<string>();
  for (const { name, mesh, kind, layer } of parts) {
    const layerName = freshName(cleanName(name.replace(/[<>/\\":;?*|=`,]+/g, ' '), 'Body'), names);
    drawing.addLayer(layerName, COLOURS[kind] ?? (layer === 'option' ? COLOURS.option! : GREY), 'CONTINUOUS');
    drawing.setActiveLayer(layerName);
    const corners = cornersOf(mesh);
    const placed = corners.map(frame.toMap);
    const hidden = hiddenEdges(mesh.triangles, corners);
    for (let t = 0; t < mesh.triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => placed[mesh.triangles[t + k]!]!) as [Point3, Point3, Point3];
      drawing.drawFace(...a, ...b, ...c, ...c);
      const flags = HIDDEN.reduce((all, flag, k) => all + (hidden.has(t + k) ? flag : 0), 0);
      if (flags > 0) hideEdges(drawing, flags);
    }
  }
  return new TextEncoder().encode(drawing.toDxfString());
}

/** How the package has what it draws write itself; its types leave that out. */
interface Written {
  tags: (manager: { push: (code: number, value: number) => void }) => void;
}

/** Has the face drawn last say which of its edges are not seen, which the package leaves out. */
function hideEdges({ activeLayer }: Drawing, flags: number): void {
  const face = activeLayer!.shapes.at(-1) as unknown as Written;
  const tags = face.tags.bind(face);
  face.tags = (manager) => {
    tags(manager);
    manager.push(70, flags);
  };
}

function cornersOf({ positions: p }: Mesh): Point3[] {
  return Array.from({ length: p.length / 3 }, (_, i) => [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!]);
}

/** Edges, by where they begin in the list of triangles, on whose other side the plane goes on. */
function hiddenEdges(triangles: Uint32Array, corners: readonly Point3[]): Set<number> {
  const normal = (edge: number): Point3 => {
    const first = edge - (edge % 3);
    const [a, b, c] = [0, 1, 2].map((k) => corners[triangles[first + k]!]!) as [Point3, Point3, Point3];
    return triangleNormal(a, b, c);
  };
  const open = new Map<number, number>();
  const hidden = new Set<number>();
  for (let edge = 0; edge < triangles.length; edge++) {
    const [a, b] = [triangles[edge]!, triangles[edge - (edge % 3) + ((edge + 1) % 3)]!];
    const other = open.get(edgeKey(b, a));
    if (other === undefined) open.set(edgeKey(a, b), edge);
    else if (dot(normal(edge), normal(other)) > 1 - 1e-9) hidden.add(edge).add(other);
  }
  return hidden;
}
