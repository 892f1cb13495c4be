export { type Difference, differenceInWords } from './bring/again/read-again';
export { rememberedBecomes, sourceOf } from './bring/again/source-of';
export { toBase64 } from './base64';
export { JOIN_M } from './read/dxf/read-dxf';
export { writeGlb } from './read/glb';
export { heightProperties, type HeightsBy, STOREY_M } from './heights/outline-heights';
export { type IfcReader, readIfc } from './read/ifc';
export { heightsInWords, type ImportChoices, importModel } from './bring/import-model';
export type { ImportOutcome } from './bring/importing';
export { likelyUnitOf } from './likely-unit';
export {
  meshesFromBytes,
  meshFromBytes,
  meshFromFile,
  meshHash,
  meshToBytes,
  meshToFile,
} from './mesh-bytes';
export { faultSentences, meshFaults, weldMesh } from './mesh-gather';
export { counted, MAX_MODEL_BYTES, type ModelFile, type ModelFormat } from './model-file';
export { type ModelRow, likelyFor, modelRows, outlineRow, type OutlinesBy } from './model-rows';
export { extentOf, metresOf, COMMON_UNITS, MODEL_UNITS, type ModelUnit, type UpAxis } from './model-units';
export { extentOfAll, placing, type PlaceChoices } from './bring/placing';
export { pictureFacts, type PictureFacts, picturesFromFile, underlayFacts } from './picture-bytes';
export { readObj } from './read/obj';
export { readingSeconds, tooSlow } from './read/reading-time';
export { modelFormat, readModelFile } from './read/read-model';
export { readStl, writeStl } from './read/stl';
export { optionParts } from './out/out-parts';
export { OUT_FORMATS, type OutFormat, writeOption } from './out/write-option';
export { type ShadowFileOptions, type ShadowFiles, shadowFiles } from './shadow-files';
