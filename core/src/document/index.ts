export { describePath, editProblems, parseProject, parseProjectFile, problems } from './check';
export {
  add,
  addMass,
  change,
  changeOwner,
  copyOwners,
  editNorth,
  editOpenings,
  editPlace,
  editProject,
  editRules,
  editSite,
  freshId,
  moveOwner,
  moveOwners,
  placeModel,
  remove,
  removeOwners,
  renameMeshes,
  requireRing,
  reshapeBody,
} from './edits';
export { type Conflict, mergeDocuments, sameJson } from './merge';
export { duplicateOption, nextHue, nextLetter, shiftOption } from './option-edits';
