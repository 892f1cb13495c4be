import { InputError, readIfc } from '@dial-shade/core';
import * as WebIfc from 'web-ifc';

/** Entry of the process that reads IFC: bytes in, a model or a refusal out. */
const api = new WebIfc.IfcAPI();
await api.Init();
api.SetLogLevel(WebIfc.LogLevel.LOG_LEVEL_OFF);

process.on('message', (bytes: Uint8Array) => {
  try {
    process.send!({ model: readIfc(bytes, { api, codes: WebIfc }) });
  } catch (error) {
    const unsound = 'The IFC file is not sound: it cannot be resolved; export it again.';
    process.send!({ refused: error instanceof InputError ? error.message : unsound });
  }
});
process.send!('ready');
