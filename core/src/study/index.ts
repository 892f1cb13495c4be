export { bodyOfPart } from './ruled-targets';
export { MAX_AT_ONCE_RAYS, MAX_LIVE_RAYS, runAtOnce } from './at-once';
export { type MomentReading, momentsCsv, readMomentsTable, type ReadPoint } from './moment-table';
export { type PvGlance, pvGlance } from './pv-glance';
export {
  type GlassPlan,
  type GlassState,
  glassState,
  type Reaches,
  skyOf,
  type SolarHours,
  solarHours,
  sunsOf,
} from './solar-hours';
export { paneCells, type PaneRays } from './pane-cells';
export { lightByMonth, ReflectedLight } from './reflected-light';
export type { LightDirections } from './light-directions';
export { type SkyWeights, skyWeights } from './sky-weights';
export { IN_SUN, ownersOf, type PointSky, pointSky, type PointYear, pointYear } from './point-year';
export {
  resultFromBytes,
  resultToBytes,
  shownMeasure,
  shownValues,
  studyResult,
  type StudyResult,
} from './result-bytes';
export {
  areaMeasure,
  comparedCsv,
  type ComparedPlace,
  comparedSensorsCsv,
  compareResults,
  type Comparison,
  criteriaFor,
  hadBefore,
  ruleFor,
} from './compare';
export { type FlatTarget, flatTargets, leftInside, meansAnything, partsOfTarget } from './flat-target';
export {
  type GlassPoints,
  glassPoints,
  partsError,
  POINT_PARTS,
  pointsFor,
  type PointsWanted,
} from './glass-points';
export { cellAt, cellBox, cellShape, cellSize, FREE, gridOf, layGrid, type SensorGrid } from './sensor-grid';
export { signature, type Signature, signatureChanges } from './signature';
export {
  mainValues,
  readingOrder,
  sensorsCsv,
  shareAtLeast,
  summarize,
  trim,
  summaryRows,
  worstPlaces,
} from './summary';
export { summaryJson } from './summary-json';
export {
  batches,
  blankValues,
  isFound,
  placeValues,
  planStudy,
  requireStudy,
  runStudy,
  type StudyPlan,
  valuesSoFar,
} from './run-study';
export { openTogether } from './open-together';
export { movedByOf } from './moving-tracer';
export { movedShares } from './moved-shares';
export { maskKeys, type MaskKeys, StudyTracer } from './study-tracer';
export {
  angularG,
  BitSumsOfSets,
  interleaved,
  type Directions,
  offOpenGround,
  openGroundThrough,
  hourStamp,
  type Measure,
  measuresIn,
  type OpenDirections,
  openRow,
  type RadiationSamples,
  radiationSamples,
  readMeasure,
  sameFacing,
  STUDY_KINDS,
  sunRanges,
  type StudyKind,
  type StudyValues,
  windowsOf,
} from './kinds';
export { targetAreaM2, targetSurface } from './target-surface';
export type { Landing, LandingCount, RayStretch } from './landings';
export { type RoomRays, roomRays } from './room-rays';
export { MAX_BOUNCES, type RaysAsked, type ReflectingWall } from './rays-asked';
export type { Reflecting, Strip } from './ray-shapes';
export { type SurfaceYear, surfaceYear } from './surface-year';
export { slicesCsv, takersByPlaceCsv, takersCsv } from './takes-csv';
export { MAX_TOLD_RAYS, type Slice, type Taker, type WhoTakes, whoTakes } from './who-takes';
export type { MassingMap } from './massing-map';
