export { DEFAULT_CRITERIA } from './criteria';
export { defaultMass, emptyProject, todayOption } from './defaults';
export { DEFAULT_DRAWING } from './drawing';
export { DEFAULT_GLAZINGS } from './glazings';
export { projectJsonSchema } from './json-schema';
export {
  findBody,
  findOpenable,
  findOwner,
  meshesNamed,
  type OwnerRef,
  rulesFor,
  type Standable,
} from './lookup';
export {
  type FileMesh,
  MAX_NEIGHBOURS,
  type Project,
  projectFileSchema,
  projectSchema,
  TODAY,
} from './schema';
export {
  type BuildingNeighbour,
  type FenceNeighbour,
  type Footprint,
  type Furniture,
  type Mass,
  type MassShape,
  MAX_MASSES,
  type MeshNeighbour,
  type Model,
  type Neighbour,
  type Option,
  type Roof,
  type Storey,
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
  SECTORS,
} from './schema/opening-schema';
export { MAX_COORDINATE_M } from './schema/parts';
export {
  type Area,
  AREA_USES,
  type Ground,
  MAX_TERRAIN_POINTS,
  type Place,
  type Site,
  type Terrain,
} from './schema/site-schema';
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
export { STUDY_KIND_KEYS } from './schema/study-kind';
export { type StoredWeather, WEATHER_KEYS } from './schema/weather-schema';
export type { Camera, CameraOf, Drawing, MomentSet, Viewpoint } from './schema/view-schema';
export { SEASON_MARKS, type SeasonMark } from './season-marks';
export {
  requireOption,
  standingBodies,
  standingMasses,
  standingModels,
  standingNeighbours,
} from './standing';
export { CURRENT_VERSION, migrate, withLists } from './versions';
