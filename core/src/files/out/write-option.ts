import { InputError } from '../../errors';
import type { Mesh, MeshStore } from '../../geometry';
import type { Project } from '../../project';
import { refuseTooLarge } from '../../scene';
import { writeGlb } from '../read/glb';
import { cleanName } from '../model-file';
import { writeStl } from '../read/stl';
import { THING_KEY } from '../bring/things';
import { writeCityJson } from './city-out';
import { writeDxf } from './dxf-out';
import { writeIfc } from './ifc-out';
import { type OutPart, optionParts } from './out-parts';
import { writeOutlines } from './outlines-out';

/** Formats in which an option can be sent out. */
export const OUT_FORMATS = ['obj', 'stl', 'glb', 'geojson', 'cityjson', 'dxf', 'ifc'] as const;
export type OutFormat = (typeof OUT_FORMATS)[number];

/**
 * An option as a file of an open format. OBJ and STL are in metres with z up, in the project frame; GLB in metres with y up;
 * CityJSON and DXF in metres with z up in the coordinates of the survey, where the project has one; IFC4 in the project
 * frame with what leads from it to the map; GeoJSON holds outlines in longitude and latitude.
 * Throws InputError `empty-option` when nothing stands in it, `too-many-openings` or `too-many-triangles` when too much does.
 */
export async function writeOption(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  format: OutFormat,
): Promise<Uint8Array> {
  refuseTooLarge(project, optionId, meshes);
  if (format === 'geojson') {
    const bytes = writeOutlines(project, optionId, meshes);
    if (!bytes) throw nothing();
    return bytes;
  }
  const parts = optionParts(project, optionId, meshes);
  if (parts.length === 0) throw nothing();
  switch (format) {
    case 'obj':
      return writeObj(parts);
    case 'stl':
      return writeStl(joined(parts), cleanName(project.name, 'project'));
    case 'glb':
      return writeGlb(
        parts.map((part) => (part.thing ? { ...part, extras: { [THING_KEY]: part.thing } } : part)),
      );
    case 'cityjson':
      return writeCityJson(parts, project);
    case 'dxf':
      return writeDxf(parts, project.site);
    case 'ifc':
      return writeIfc(parts, project, optionId);
  }
}

function nothing(): InputError {
  return new InputError('empty-option', 'Nothing stands in this option; there is nothing to send out.');
}

function joined(parts: readonly OutPart[]): Mesh {
  const positions = new Float64Array(parts.reduce((sum, { mesh }) => sum + mesh.positions.length, 0));
  const triangles = new Uint32Array(parts.reduce((sum, { mesh }) => sum + mesh.triangles.length, 0));
  let vertex = 0;
  let index = 0;
  for (const { mesh } of parts) {
    positions.set(mesh.positions, vertex * 3);
    for (const i of mesh.triangles) triangles[index++] = i + vertex;
    vertex += mesh.positions.length / 3;
  }
  return { positions, triangles };
}

/** Named meshes as an OBJ text file: metres, z up, one `o` line a part; coordinates as JavaScript writes doubles. */
export function writeObj(parts: readonly Pick<OutPart, 'name' | 'mesh'>[]): Uint8Array {
  const lines = ['# Dial Shade: metres, z up'];
  let first = 1;
  for (const { name, mesh } of parts) {
    lines.push(`o ${name.replace(/#/g, '')}`);
    const { positions: p, triangles } = mesh;
    for (let i = 0; i < p.length; i += 3) lines.push(`v ${p[i]} ${p[i + 1]} ${p[i + 2]}`);
    for (let i = 0; i < triangles.length; i += 3)
      lines.push(`f ${triangles[i]! + first} ${triangles[i + 1]! + first} ${triangles[i + 2]! + first}`);
    first += p.length / 3;
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
