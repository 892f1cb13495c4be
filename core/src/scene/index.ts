export { deviceSolid } from './device-solid';
export { massSolid } from './mass-solid';
export { gridPanes } from './open-face';
export { type ModelProblem, modelProblems } from './model-problems';
export { MAX_OPTION_TRIANGLES, refuseTooLarge } from './option-size';
export { dayNumber, glassFactor, isInLeaf, passedShare, screenFactor } from './passing';
export type { Passing, Piece, SurfaceKind } from './piece';
export { assembleScene, isProposed, type Owner, type Scene } from './scene';
export { type CutPlane, levelPlane, type Section, sectionOf, uprightPlane } from './section';
