export { type ComparedOption, comparisonCsv, comparisonJson } from './comparison-files';
export {
  type ComparedMeasure,
  comparedMeasures,
  firstMeasures,
  massingValues,
  type MeasureValues,
  studyValues,
} from './measures';
export { betterOf, tradeOffFront, type Mark } from './trade-off';
