import Drawing from 'dxf-writer';
import { clockAt, csvText, formatClock } from '../civil';
import { weldMesh, writeGlb, writeStl } from '../files';
import type { MeshStore, Point2 } from '../geometry';
import type { Envelope, Project } from '../project';
import { localFrame } from '../site';
import type { Breaches } from './breaches';
import { type EnvelopeField, EnvelopeSolver, placeOf } from './envelope-field';
import { contourLines, envelopeLattice } from './envelope-lattice';
import { envelopeBody, envelopeShell } from './envelope-shell';

/** `x,y,height_m,decided_by,at`, a line for each point that may be built on; no height where nothing limits it. */
export function envelopeCsv(field: EnvelopeField, zone: string): string {
  const rows: (string | number)[][] = [['x', 'y', 'height_m', 'decided_by', 'at']];
  field.levelM.forEach((level, i) => {
    if (Number.isNaN(level)) return;
    const [x, y] = placeOf(field, i);
    const by = field.decidedBy[i]!;
    rows.push([
      Number(x.toFixed(4)),
      Number(y.toFixed(4)),
      level === Infinity ? '' : Number(level.toFixed(4)),
      by < 0 ? '' : field.reasons[by]!,
      momentText(field.atMs[i]!, zone),
    ]);
  });
  return csvText(rows);
}

function momentText(atMs: number, zone: string): string {
  if (Number.isNaN(atMs)) return '';
  const { date, minutes } = clockAt(atMs, zone);
  return `${date}T${formatClock(minutes)}`;
}

/**
 * The surface of a field as Wavefront OBJ, metres, z up: two triangles between the middles of each four cells that are
 * limited, so that it lies within what may be built on; an `o` with the envelope's name.
 */
export function envelopeObj(field: EnvelopeField, name: string): string {
  const { columns, rows, levelM } = field;
  const numbers = new Map<number, number>();
  const lines: string[] = [`o ${name.replaceAll(/\s+/g, '_')}`];
  const isLimited = (i: number) => Number.isFinite(levelM[i]!);
  levelM.forEach((level, i) => {
    if (!Number.isFinite(level)) return;
    numbers.set(i, numbers.size + 1);
    const [x, y] = placeOf(field, i);
    lines.push(`v ${x.toFixed(4)} ${y.toFixed(4)} ${level.toFixed(4)}`);
  });
  for (let row = 0; row + 1 < rows; row++)
    for (let column = 0; column + 1 < columns; column++) {
      const i = row * columns + column;
      const quad = [i, i + 1, i + columns + 1, i + columns];
      if (!quad.every(isLimited)) continue;
      const [a, b, c, d] = quad.map((one) => numbers.get(one)!);
      lines.push(`f ${a} ${b} ${c}`, `f ${a} ${c} ${d}`);
    }
  return `${lines.join('\n')}\n`;
}

/** Further files that an envelope goes out as. */
export const ENVELOPE_FORMATS = ['glb', 'stl', 'dxf', 'geojson'] as const;
export type EnvelopeFormat = (typeof ENVELOPE_FORMATS)[number];

/** Contours of the files run at every so many metres. */
const CONTOURS_M = 1;

/**
 * An envelope as a file: GLB (metres, y up) and STL hold the space under it as one closed body; DXF its surface as 3D faces on
 * layer SURFACE, its contours as 3D polylines on CONTOURS and the outline on OUTLINE; GeoJSON its contours as lines in
 * longitude and latitude with `level_m` (datum) and `over_ground_m`, and the outline. Its nodes stand `stepM` apart.
 */
export async function envelopeFile(
  project: Project,
  envelope: Envelope,
  meshes: MeshStore,
  format: EnvelopeFormat,
  stepM = envelope.spacingM / 2,
): Promise<Uint8Array> {
  const solver = new EnvelopeSolver(project, envelope, meshes);
  const lattice = envelopeLattice(solver, envelope, stepM);
  if (format === 'geojson') {
    const { toGeographic } = localFrame(project.site);
    const round = (value: number, digits: number) => Number(value.toFixed(digits));
    const place = (p: Point2) => toGeographic(p).map((v) => round(v, 9));
    const lines = contourLines(lattice, CONTOURS_M).map(({ levelM, points }) => ({
      type: 'Feature',
      properties: {
        kind: 'contour',
        level_m: round(levelM, 4),
        over_ground_m: round(levelM - solver.groundAt(points[0]!), 4),
      },
      geometry: { type: 'LineString', coordinates: points.map(place) },
    }));
    const outlines = lattice.open.map(({ outer, holes }) => ({
      type: 'Feature',
      properties: { kind: 'outline', name: envelope.name },
      geometry: {
        type: 'Polygon',
        coordinates: [outer, ...holes].map((ring) => [...ring, ring[0]!].map(place)),
      },
    }));
    return new TextEncoder().encode(
      `${JSON.stringify({ type: 'FeatureCollection', features: [...outlines, ...lines] })}\n`,
    );
  }
  const shell = envelopeShell(solver, lattice);
  if (format === 'dxf') {
    const drawing = new Drawing();
    drawing.setUnits('Meters');
    drawing.addLayer('OUTLINE', Drawing.ACI.WHITE, 'CONTINUOUS');
    drawing.addLayer('CONTOURS', Drawing.ACI.BLUE, 'CONTINUOUS');
    drawing.addLayer('SURFACE', Drawing.ACI.YELLOW, 'CONTINUOUS');
    const at = (p: Point2, z: number): [number, number, number] => [p[0], p[1], z];
    drawing.setActiveLayer('OUTLINE');
    for (const { outer, holes } of lattice.open)
      for (const ring of [outer, ...holes])
        drawing.drawPolyline3d([...ring, ring[0]!].map((p) => at(p, solver.groundAt(p))));
    drawing.setActiveLayer('CONTOURS');
    for (const { levelM, points } of contourLines(lattice, CONTOURS_M))
      drawing.drawPolyline3d(points.map((p) => at(p, levelM)));
    drawing.setActiveLayer('SURFACE');
    const { positions: p, triangles } = shell.top;
    for (let i = 0; i < triangles.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => triangles[i + k]! * 3) as [number, number, number];
      drawing.drawFace(
        ...([a, b, c, c].flatMap((v) => [p[v]!, p[v + 1]!, p[v + 2]!]) as Parameters<
          typeof drawing.drawFace
        >),
      );
    }
    return new TextEncoder().encode(drawing.toDxfString());
  }
  const mesh = weldMesh(envelopeBody(solver, shell), 1e-6);
  return format === 'stl' ? writeStl(mesh, envelope.name) : await writeGlb([{ name: envelope.name, mesh }]);
}

/** `reason,volume_m3,furthest_m,x,y,level_m,at`: what of an option stands over an envelope, a line for each reason. */
export function breachesCsv({ by }: Breaches, zone: string): string {
  const tidy = (value: number) => Number(value.toFixed(4));
  return csvText([
    ['reason', 'volume_m3', 'furthest_m', 'x', 'y', 'level_m', 'at'],
    ...by.map(({ name, volumeM3, worst }) => [
      name,
      tidy(volumeM3),
      tidy(worst.overM),
      ...worst.at.map(tidy),
      tidy(worst.levelM),
      momentText(worst.atMs, zone),
    ]),
  ]);
}
