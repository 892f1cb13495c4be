export { budgetProblem, isKeepable, MAX_OBJECTS } from './budget';
export { JsonScan, type ScanProblem } from './json-scan';
export { type Changes, documentChanges, withChanges } from './changes';
export {
  changedProject,
  describePath,
  editProblems,
  parseProject,
  parseProjectFile,
  problems,
} from './check';
export {
  addMass,
  changeOwner,
  copyOwners,
  editOpenings,
  editRules,
  moveOwner,
  moveOwners,
  placeModel,
  removeBodyCorner,
  removeOwners,
  renameWalls,
  renameMeshes,
  requireRing,
  reshapeBody,
  splitBodyEdge,
} from './edits';
export { newUnderlay } from './new-underlay';
export { freeAmong, freeId, newId, usedIds } from './ids';
export { add, change, type Edit, editNorth, editPlace, editProject, editSite, remove } from './list-edits';
export { mergeProjects } from './merge-projects';
export { type Conflict, sameJson, withTheirs } from './merge';
export { addScheme, changeDevice, changeScheme, copyScheme, removeScheme, standScheme } from './scheme-edits';
export { duplicateOption, nextHue, nextLetter, shiftOption } from './option-edits';
