export { adjoiningMass, adjoiningModel, type PartyPart, SpatialIndex } from './adjoining-body';
export { detachRule } from './detach-rule';
export { facadeAreas } from './facades';
export { openingViolation } from './fit';
export { fitOpenings, type FittedBody, type FittedOpening, openableBody } from './fitted';
export { openingsIn, type OpeningsOf } from './in-option';
export { faceOfOwner } from './owner-face';
export { partyParts } from './party';
export { inScope, panelAt, panelKey } from './rule';
