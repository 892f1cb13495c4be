import {
  envelopeBreaches,
  type MeasureValues,
  massingValues,
  type MeshStore,
  type Project,
  requireEnvelope,
} from '@dial-shade/core';
import { refusing } from './refusing';

/** What options are compared by that no study is needed for, of the document at hand. */
export function compareWork(held: () => { project: Project; meshes: MeshStore }) {
  return {
    /** Massing of an option, and what of it stands over envelopes. */
    comparedValues: (optionId: string, envelopes: readonly string[]): MeasureValues | { refused: string } =>
      refusing((): MeasureValues => {
        const { project, meshes } = held();
        const values = massingValues(project, optionId, meshes);
        for (const id of envelopes) {
          const { overM3, outsideM3 } = envelopeBreaches(
            project,
            optionId,
            requireEnvelope(project, id),
            meshes,
          );
          const value = overM3 + outsideM3;
          values[`envelope/${id}/over`] = { value, passes: value === 0 };
        }
        return values;
      }),
  };
}
