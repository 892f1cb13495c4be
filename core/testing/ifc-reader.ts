import * as WebIfc from 'web-ifc';
import type { IfcReader } from '../src/files';

/** The library that reads IFC, started in Node. */
export async function ifcReader(): Promise<IfcReader> {
  const api = new WebIfc.IfcAPI();
  await api.Init();
  api.SetLogLevel(WebIfc.LogLevel.LOG_LEVEL_OFF);
  return { api, codes: WebIfc };
}
