import { parseProject } from '../src/document';
import { emptyProject, type Project } from '../src/project';
import { type ImportChoices, importModel } from '../src/files/bring/import-model';
import type { ZoneAt } from '../src/files/bring/take-site';
import type { ModelFile } from '../src/files/model-file';
import { readModelFile } from '../src/files/read/read-model';

const noIfc = () => Promise.reject(new Error('asked for IFC'));
export const read = (
  text: string | Uint8Array,
  name: string,
  options?: Parameters<typeof readModelFile>[4],
) =>
  readModelFile(
    typeof text === 'string' ? new TextEncoder().encode(text) : text,
    name,
    noIfc,
    undefined,
    options,
  );
export const CHOICES: ImportChoices = {
  ...{ unit: 'm', up: 'z', becomes: {}, optionId: 'a', heights: null, heightM: 6, takeSite: false },
  ...{ name: 'Model', centre: false },
};
export const bring = (
  model: ModelFile,
  more: Partial<ImportChoices> = {},
  into: Project = emptyProject('E', 2026),
  zoneAt?: ZoneAt,
) => {
  const choices = { ...CHOICES, unit: model.unit ?? 'm', ...more };
  const { project, meshes, notes } = importModel(into, model, choices, zoneAt);
  parseProject(project);
  return { project, meshes: [...meshes.values()], notes };
};
/** A box of some size at a place as an OBJ file. */
export const boxObj = (x: number, y: number, z: number, [w, d, h]: [number, number, number] = [20, 12, 60]) =>
  [
    ...[0, 1].flatMap((k) =>
      [
        [x, y],
        [x + w, y],
        [x + w, y + d],
        [x, y + d],
      ].map(([px, py]) => `v ${px} ${py} ${z + k * h}`),
    ),
    ...['1 4 3 2', '5 6 7 8', '1 2 6 5', '2 3 7 6', '3 4 8 7', '4 1 5 8'].map((face) => `f ${face}`),
  ].join('\n');
export const lowest = ({ positions }: { positions: Float64Array }) =>
  [0, 1, 2].map((k) => positions.filter((_, i) => i % 3 === k).reduce((a, b) => Math.min(a, b)));
