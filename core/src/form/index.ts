export {
  type Face,
  faceAzimuthDeg,
  hostKey,
  onFace,
  openableFaces,
  roofFaces,
  storeyWallName,
  topPlate,
  wallFaces,
  wallName,
} from './faces';
export { massFigures, type MassFigures } from './figures';
export { flatPart, flatParts } from './flat-parts';
export { massLevels, type MassLevels, standsOnGround, storeyFloorM } from './levels';
export { meshFace, meshFaceAt, modelVertices, type PlacedModel, uprightFaces } from './mesh-faces';
export { roomsFromOutlines } from './outline-rooms';
export { fitOutline, moveOutline, outlineArea, outlineBox, outlinePolygon } from './outline';
export { defaultSpacing, flipTarget, movePlane, targetOfFace } from './plane-target';
export {
  edgeIndex,
  edgeNumbers,
  footprintProblem,
  freshEdgeNumber,
  normalFootprint,
  type Plate,
  storeyPlate,
  storeyProblem,
  tiers,
} from './plates';
export {
  footprintFromEdge,
  moveCorner,
  offsetRing,
  pushBottom,
  pushTop,
  pushWall,
  removeCorner,
  setBack,
  splitEdge,
  splitStoreys,
  uniteMasses,
} from './reshape';
export { roofProblem, type RoofShape, roofShape } from './roof-shape';
export { innerPoint, type RoomShape, roomsOf } from './rooms';
export {
  firstCorner,
  followedBy,
  isMirror,
  mirrorIn,
  type Motion,
  movePoint,
  moveShape,
  plainRing,
  shiftBy,
  turnAbout,
} from './transform';
