export { type BreachCell, type Breaches, envelopeBreaches } from './breaches';
export { type CutManner, type CutToFit, cutToFit } from './cut-to-fit';
export {
  buildOutline,
  edgeSetbacks,
  ENVELOPE_METHOD,
  envelopeField,
  type EnvelopeField,
  envelopeFigures,
  type EnvelopeFigures,
  EnvelopeSolver,
  placeOf,
  requireEnvelope,
} from './envelope-field';
export {
  breachesCsv,
  ENVELOPE_FORMATS,
  envelopeCsv,
  envelopeFile,
  type EnvelopeFormat,
  envelopeObj,
} from './envelope-files';
export {
  type ContourLine,
  contourLines,
  type EnvelopeLattice,
  envelopeLattice,
  levelOn,
  nodePlace,
} from './envelope-lattice';
export { envelopeBody, type EnvelopeShell, envelopeShell } from './envelope-shell';
export { type Filled, fillEnvelope, type FillWish } from './fill';
export { type EnvelopeProof, proveEnvelope } from './proof';
export { fillSloped, type SlopedFill } from './sloped-fill';
