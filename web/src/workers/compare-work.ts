import {
  inVariant,
  roomValues,
  type RoomAssumptions,
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
    /** Massing of what is compared, what of it stands over envelopes, and a year of its rooms where that is asked for. */
    comparedValues: (
      variant: string,
      envelopes: readonly string[],
      assumed: RoomAssumptions | null,
    ): MeasureValues | { refused: string } =>
      refusing((): MeasureValues => {
        const { project: document, meshes } = held();
        const { project, optionId } = inVariant(document, variant);
        const values = massingValues(project, optionId, meshes);
        for (const id of envelopes)
          Object.assign(values, envelopeValues(project, optionId, requireEnvelope(project, id), meshes));
        if (assumed) Object.assign(values, roomValues(project, optionId, meshes, assumed));
        return values;
      }),
  };
}
