export { budgetProblem, isKeepable, MAX_OBJECTS } from './budget';
export { type Changes, documentChanges, withChanges } from './changes';
export { describePath, editProblems, parseProject, parseProjectFile, problems } from './check';
export {
  add,
  addMass,
  change,
  changeOwner,
  copyOwners,
  type Edit,
  editNorth,
  editOpenings,
  editPlace,
  editProject,
  editRules,
  editSite,
  moveOwner,
  moveOwners,
  placeModel,
  remove,
  removeBodyCorner,
  removeOwners,
  renameMeshes,
  requireRing,
  reshapeBody,
  splitBodyEdge,
} from './edits';
export { freeId, newId } from './ids';
export { mergeProjects } from './merge-projects';
export { type Conflict, sameJson, withTheirs } from './merge';
export { addScheme, changeDevice, changeScheme, copyScheme, removeScheme, standScheme } from './scheme-edits';
export { duplicateOption, nextHue, nextLetter, shiftOption } from './option-edits';
