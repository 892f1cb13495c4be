export { type ComparedOption, comparisonCsv, comparisonJson } from './comparison-files';
export {
  type ComparedMeasure,
  comparedMeasures,
  envelopeValues,
  firstMeasures,
  massingValues,
  type MeasureValues,
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
} from './massing-sweep';
export { betterOf, tradeOffFront, type Mark } from './trade-off';
