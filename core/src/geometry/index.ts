export { intersectPolygons, outlinesFrom, type Polygon, subtractPolygons, unitePolygons } from './clip';
export { CornerIndex, doubled } from './corner-index';
export { growPolygons, simplerRing } from './grow';
export { insetRing } from './inset';
export { type Mesh, type MeshStore, placedMesh } from './mesh';
export {
  anticlockwise,
  areaWithHoles,
  polygonsArea,
  bounds,
  longSide,
  centroid,
  clipBox,
  clipHalfPlane,
  contains,
  containsWithHoles,
  edgeOf,
  isConvex,
  type Point2,
  type Ring,
  ringProblem,
  meetingRings,
  ringsMeet,
  segmentDistance,
  signedArea,
} from './ring';
export { straightSkeleton } from './straight-skeleton';
export { type Part, subdivide } from './subdivide';
export { triangulate } from './triangulate';
export {
  areaInSpace,
  cross,
  dot,
  minus,
  opposite,
  plus,
  type Point3,
  polygonNormal,
  triangleNormal,
} from './vector';
