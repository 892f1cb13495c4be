import {
  type MaskStore,
  type MassingCandidate,
  type MassingNumber,
  MassingSweep,
  type MeshStore,
  type Project,
  TODAY,
} from '@dial-shade/core';
import { refusing } from './refusing';

/** The sweep that was asked about last: its parts come one after another. */
let latest: { project: Project; meshes: MeshStore; about: string; sweep: MassingSweep } | null = null;

/** What is asked about massings that are tried, of the document at hand. */
export function massingWork(held: () => { project: Project; meshes: MeshStore; masks: MaskStore }) {
  return {
    /** Tries some massings of an option, a row of values each. */
    massingPart: (
      optionId: string,
      numbers: readonly MassingNumber[],
      studies: readonly string[],
      rows: readonly (readonly number[])[],
    ) =>
      refusing((): MassingCandidate[] => {
        const { project, meshes, masks } = held();
        const about = JSON.stringify([optionId, studies]);
        if (latest?.project !== project || latest.meshes !== meshes || latest.about !== about) {
          const sweep = new MassingSweep(project, optionId, meshes, studies, masks, TODAY);
          latest = { project, meshes, about, sweep };
        }
        const { sweep } = latest;
        return rows.map((row) => sweep.read(numbers, row));
      }),
  };
}
