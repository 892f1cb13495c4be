import type { Point2, Point3, Ring } from '../geometry';
import type { Project } from '../project';
import { localFrame } from '../site';
import { hourStamp, measuresIn, type StudyResult } from '../study';
import { resultCells } from './result-cells';

/**
 * The cells of a result as GeoJSON: a MultiPolygon a cell in longitude, latitude and height (or, with `metres`, in the
 * project frame), with `target` (id), `name`, `area_m2` and each measure under its heading; null where there is no value.
 */
export function resultGeoJson(project: Project, result: StudyResult, metres = false): string {
  const frame = localFrame(project.site);
  const { grid, values, summary } = result;
  const measures = measuresIn(summary.kind, values);
  const round = (value: number, digits: number) => Number(value.toFixed(digits));
  const place = ([x, y, z]: Point3): [number, number, number] => {
    if (metres) return [round(x, 4), round(y, 4), round(z, 4)];
    const [longitude, latitude] = frame.toGeographic([x, y]);
    return [round(longitude, 9), round(latitude, 9), round(z, 4)];
  };
  const features = resultCells(result, project.site.ground).map(({ sensor, target, flat, at }) => {
    const ring = (points: Ring) => [...points, points[0]!].map((p: Point2) => place(at(p)));
    const figures = measures.map(({ key, heading, reads }) => {
      const value = values[key]![sensor]!;
      if (Number.isNaN(value)) return [heading, null];
      return [heading, reads === 'date-hour' ? hourStamp(value) : round(value, 4)];
    });
    return {
      type: 'Feature',
      properties: {
        target: target.id,
        name: target.name,
        area_m2: round(grid.areas[sensor]!, 6),
        ...Object.fromEntries(figures),
      },
      geometry: {
        type: 'MultiPolygon',
        coordinates: flat.map(({ outer, holes }) => [ring(outer), ...holes.map(ring)]),
      },
    };
  });
  return `${JSON.stringify({ type: 'FeatureCollection', features })}\n`;
}
