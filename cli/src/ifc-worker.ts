import { InputError, readIfc } from '@dial-shade/core';
import { parentPort } from 'node:worker_threads';
import * as WebIfc from 'web-ifc';

/** Entry of the thread that reads IFC: bytes in, a model or a refusal out. */
const api = new WebIfc.IfcAPI();
const started = api.Init().then(() => api.SetLogLevel(WebIfc.LogLevel.LOG_LEVEL_OFF));

parentPort!.on('message', (bytes: Uint8Array) => {
  void started.then(() => {
    try {
      parentPort!.postMessage({ model: readIfc(bytes, { api, codes: WebIfc }) });
    } catch (error) {
      const message =
        error instanceof InputError
          ? error.message
          : 'The IFC file is not sound: it cannot be resolved; export it again.';
      parentPort!.postMessage({ refused: message });
    }
  });
});
