export {
  buildOutline,
  envelopeField,
  type EnvelopeField,
  envelopeFigures,
  type EnvelopeFigures,
  EnvelopeSolver,
  placeOf,
  requireEnvelope,
} from './envelope-field';
export { envelopeCsv, envelopeObj } from './envelope-files';
