export { DEFAULT_CRITERIA } from './criteria';
export { defaultMass, emptyProject, todayOption } from './defaults';
export { DEFAULT_DRAWING } from './drawing';
export { DEFAULT_GLAZINGS } from './glazings';
export { DEFAULT_REFLECTANCES } from './reflectances';
export { projectJsonSchema } from './json-schema';
export {
  findBody,
  findOpenable,
  findOwner,
  meshesNamed,
  type OwnerRef,
  picturesNamed,
  rulesFor,
  type Standable,
} from './lookup';
export {
  AREA_USES,
  type Becomes,
  BECOMES,
  MAX_COORDINATE_M,
  MAX_MASSES,
  MAX_NEIGHBOURS,
  MAX_PICTURE_SIDE,
  MAX_TERRAIN_POINTS,
  MAX_UNDERLAY_BYTES,
  MAX_UNDERLAYS,
  SECTORS,
  STUDY_KIND_KEYS,
  TODAY,
  WEATHER_KEYS,
} from './constants';
export { type FileMesh, type Project, projectFileSchema, projectSchema } from './schema';
export {
  type BuildingNeighbour,
  type FenceNeighbour,
  type Footprint,
  type Furniture,
  type Mass,
  type MassShape,
  type MeshNeighbour,
  type Model,
  type Neighbour,
  type Option,
  type Roof,
  type Storey,
  type Thing,
  thingSchema,
  type TreeNeighbour,
  type WallNeighbour,
} from './schema/form-schema';
export type { Envelope } from './schema/envelope-schema';
export type { Device, DeviceMake, LoweredWhen, Scheme } from './schema/device-schema';
export { makeProblem } from './schema/device-schema';
export {
  type Glazing,
  type Opening,
  type OpeningHost,
  type OpeningOutline,
  type OpeningRule,
  type RuleMake,
  type Sector,
} from './schema/opening-schema';
export type { Source, SourcePart } from './schema/source-schema';
export type { Underlay } from './schema/underlay-schema';
export type { Area, Ground, Place, Site, Terrain } from './schema/site-schema';
export type { CriteriaSet, CriterionRule } from './schema/criteria-schema';
export type { HourSet } from './schema/hour-set-schema';
export type {
  DrawnTarget,
  PlaneTarget,
  Probe,
  RuledTarget,
  Study,
  Target,
  WindowOfTime,
} from './schema/study-schema';
export type { StoredWeather } from './schema/weather-schema';
export type { Camera, CameraOf, Drawing, MomentSet, Viewpoint } from './schema/view-schema';
export { SEASON_MARKS, type SeasonMark } from './season-marks';
export {
  requireOption,
  standingBodies,
  standingMasses,
  standingModels,
  standingNeighbours,
} from './standing';
export { CURRENT_VERSION, migrate } from './versions';
