export { cutDown, type CutDown } from './cut-down';
export { type ComparedOption, comparisonCsv, comparisonJson } from './comparison-files';
export {
  type ComparedMeasure,
  comparedMeasures,
  envelopeValues,
  firstMeasures,
  massingValues,
  type MeasureValues,
  roomValues,
  studyValues,
} from './measures';
export {
  MassingSweep,
  massingGrid,
  massingOf,
  type MassingCandidate,
  type MassingNumber,
  type MassingRange,
  MAX_MASSINGS,
  withMasses,
} from './massing-sweep';
export { betterOf, tradeOffFront, type Mark } from './trade-off';
