export { writeGlb } from './glb';
export { likelyHeightProperty } from './geojson';
export { readHeights } from './heights-file';
export { type IfcReader, readIfc } from './ifc';
export { type ImportChoices, importModel, type ImportOutcome } from './import-model';
export {
  meshesFromBytes,
  meshFromBytes,
  meshFromFile,
  meshHash,
  meshToBytes,
  meshToFile,
} from './mesh-bytes';
export { faultSentences, meshFaults, weldMesh } from './mesh-gather';
export { MAX_MODEL_BYTES, type ModelFile, type ModelFormat } from './model-file';
export { BECOMES, type Becomes, type ModelRow, likelyFor, modelRows } from './model-rows';
export { extentOf, likelyUnit, MODEL_UNITS, type ModelUnit, type UpAxis } from './model-units';
export { readObj } from './obj';
export { modelFormat, readModelFile } from './read-model';
export { writeStl } from './stl';
export { optionParts, OUT_FORMATS, type OutFormat, writeOption } from './write-model';
export { type ShadowFileOptions, type ShadowFiles, shadowFiles } from './shadow-files';
