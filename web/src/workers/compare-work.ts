import {
  envelopeValues,
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
        for (const id of envelopes)
          Object.assign(values, envelopeValues(project, optionId, requireEnvelope(project, id), meshes));
        return values;
      }),
  };
}
