import {
  type Project,
  resultGeoJson,
  resultGlb,
  resultSvg,
  type Scale,
  sensorsCsv,
  type StudyResult,
  summaryJson,
} from '@dial-shade/core';
import { savePng } from '../app/save-chart';
import { saveCsv, saveFile } from '../app/save-file';

export type ResultFormat = 'CSV' | 'GeoJSON' | 'GLB' | 'SVG' | 'PNG' | 'JSON';

/** Lets the browser save a result as it is looked at. */
export async function saveResult(
  format: ResultFormat,
  project: Project,
  result: StudyResult,
  scale: Scale,
): Promise<void> {
  const { summary, grid, values } = result;
  const name = `${summary.study}_${summary.option}`.replaceAll(/[^\p{L}\p{N}_-]+/gu, '-');
  if (format === 'CSV') saveCsv(sensorsCsv(summary.kind, grid, values), `${name}.csv`);
  else if (format === 'GeoJSON')
    saveFile(resultGeoJson(project, result), `${name}.geojson`, 'application/geo+json');
  else if (format === 'GLB') {
    const bytes = await resultGlb(result, project.site.ground, scale);
    saveFile(bytes.slice().buffer, `${name}.glb`, 'model/gltf-binary');
  } else if (format === 'JSON')
    saveFile(`${JSON.stringify(summaryJson(summary), null, 1)}\n`, `${name}.json`, 'application/json');
  else {
    const text = resultSvg(project, result, scale);
    if (format === 'SVG') saveFile(text, `${name}.svg`, 'image/svg+xml');
    else
      await savePng(
        new DOMParser().parseFromString(text, 'image/svg+xml').documentElement as unknown as SVGSVGElement,
        name,
        2400,
      );
  }
}
