import Drawing from 'dxf-writer';
import { csvText, escapeXml, momentName, roundLength } from '../civil';
import { bounds, type Point2, type Polygon } from '../geometry';
import type { Project } from '../project';
import { builtOver, shadeCounts, type ShadeRow, type ShadowStudy } from '../shade';
import { localFrame } from '../site';

/** Files that a shadow study goes out as. */
export interface ShadowFiles {
  'areas.csv': string;
  'shadows.geojson': string;
  'shadows.svg': string;
  'shadows.dxf': string;
}

export interface ShadowFileOptions {
  /** GeoJSON in project metres rather than longitude and latitude. */
  metres?: boolean;
  /** Of the SVG: metres on site for each metre on paper. */
  scale?: number;
}

/** Moments of which is counted how many shade each spot, at most: the work grows with their square. */
const MAX_COUNTED = 60;

/** A shadow study as files; see docs/command-line.md for what they hold. */
export function shadowFiles(
  project: Project,
  study: ShadowStudy,
  { metres = false, scale = 500 }: ShadowFileOptions = {},
): ShadowFiles {
  const names = study.moments.map((atMs) => momentName(atMs, project.site.place.zone));
  return {
    'areas.csv': areasCsv(study, names),
    'shadows.geojson': geoJson(project, study, names, metres),
    'shadows.svg': svg(project, study, names, scale),
    'shadows.dxf': dxf(project, study, names),
  };
}

const ownerId = ({ scene }: ShadowStudy, { owner }: ShadeRow) =>
  owner === null ? '' : scene.owners[owner]!.id;

function areasCsv(study: ShadowStudy, names: readonly string[]): string {
  const m2 = (value: number | null) => (value === null ? '' : value.toFixed(4));
  return csvText([
    ['moment', 'target', 'owner', 'total_m2', 'shaded_m2', 'newly_m2'],
    ...study.rows.map((row) => [
      names[row.moment]!,
      row.receiver.id,
      ownerId(study, row),
      m2(row.totalM2),
      m2(row.shadedM2),
      m2(row.newlyM2),
    ]),
  ]);
}

/** How many moments shade each spot, as regions under so many and no more; empty of one moment, and of very many. */
function counts(study: ShadowStudy): { receiver: ShadeRow['receiver']; bands: Polygon[][] }[] {
  if (study.moments.length < 2 || study.moments.length > MAX_COUNTED || study.on === 'facades') return [];
  return study.receivers.map((receiver) => ({
    receiver,
    bands: shadeCounts(
      study.rows.filter((row) => row.receiver === receiver && row.owner === null).map(({ shaded }) => shaded),
    ),
  }));
}

function geoJson(project: Project, study: ShadowStudy, names: readonly string[], metres: boolean): string {
  const frame = localFrame(project.site);
  const round = (value: number, digits: number) => Number(value.toFixed(digits));
  const place = ([x, y]: Point2): [number, number] => {
    if (metres) return [round(x, 4), round(y, 4)];
    const [longitude, latitude] = frame.toGeographic([x, y]);
    return [round(longitude, 9), round(latitude, 9)];
  };
  const ring = (points: readonly Point2[]) => [...points, points[0]!].map(place);
  const geometry = (polygons: readonly Polygon[]) => ({
    type: 'MultiPolygon',
    coordinates: polygons.map(({ outer, holes }) => [ring(outer), ...holes.map(ring)]),
  });
  const feature = (properties: object, polygons: readonly Polygon[]) => ({
    type: 'Feature',
    properties,
    geometry: geometry(polygons),
  });
  const features = study.rows.flatMap((row) => {
    const about = { moment: names[row.moment], target: row.receiver.id, owner: ownerId(study, row) || null };
    return [
      ...(row.shaded.length
        ? [feature({ kind: 'shaded', ...about, area_m2: round(row.shadedM2!, 4) }, row.shaded)]
        : []),
      ...(row.newly.length
        ? [feature({ kind: 'newly', ...about, area_m2: round(row.newlyM2!, 4) }, row.newly)]
        : []),
      ...row.passing.map(({ owner, transmittance, areaM2, regions }) =>
        feature(
          {
            kind: 'passing',
            moment: about.moment,
            target: about.target,
            owner: study.scene.owners[owner]!.id,
            transmittance,
            area_m2: round(areaM2, 4),
          },
          regions,
        ),
      ),
    ];
  });
  for (const { receiver, bands } of counts(study))
    bands.forEach((band, k) =>
      features.push(
        feature({ kind: 'count', target: receiver.id, at_least: k + 1, of: study.moments.length }, band),
      ),
    );
  return `${JSON.stringify({ type: 'FeatureCollection', features })}\n`;
}

/** Indigo for shade, marigold for what is newly shaded, as on the board. */
const SHADE = '#39406f';
const NEWLY = '#e8a11c';
const INK = '#3a362e';
/** Room round the drawing for title, scale bar and north, millimetres. */
const MARGIN_MM = 18;

interface Laid {
  /** A row's regions moved to where they are drawn. */
  row: ShadeRow;
  shift: Point2;
}

/** Where rows are drawn: in plan where they lie; facades one beside the other. */
function lay(study: ShadowStudy): Laid[] {
  if (study.on !== 'facades') return study.rows.map((row) => ({ row, shift: [0, 0] }));
  let x = 0;
  const shifts = new Map(
    study.receivers.map((receiver) => {
      const box = bounds(receiver.parts.flatMap(({ regions }) => regions.flatMap(({ outer }) => outer)));
      const shift: Point2 = [x - box.minX, 0];
      x += box.maxX - box.minX + 2;
      return [receiver, shift] as const;
    }),
  );
  return study.rows.map((row) => ({ row, shift: shifts.get(row.receiver)! }));
}

const shifted = (polygons: readonly Polygon[], [dx, dy]: Point2): Polygon[] => {
  const ring = (points: readonly Point2[]) => points.map(([x, y]): Point2 => [x + dx, y + dy]);
  return polygons.map(({ outer, holes }) => ({ outer: ring(outer), holes: holes.map(ring) }));
};

/** What stands round the shade in plan. */
function surroundings(project: Project, study: ShadowStudy): { boundary: Polygon[]; footprints: Polygon[] } {
  if (study.on === 'facades') return { boundary: [], footprints: [] };
  const { boundary } = project.site;
  return {
    boundary: boundary ? [{ outer: boundary, holes: [] }] : [],
    footprints: builtOver(project, study.option),
  };
}

/** Outlines of what receives, moved to where it is drawn. */
function receiverOutlines(study: ShadowStudy): Polygon[] {
  const seen = new Set<ShadeRow['receiver']>();
  return lay(study).flatMap(({ row: { receiver }, shift }) => {
    if (seen.has(receiver)) return [];
    seen.add(receiver);
    return shifted(
      receiver.parts.flatMap(({ regions }) => [...regions]),
      shift,
    );
  });
}

function svg(project: Project, study: ShadowStudy, names: readonly string[], scale: number): string {
  const { boundary, footprints } = surroundings(project, study);
  const outlines = receiverOutlines(study);
  const all = [...outlines, ...boundary, ...(study.on === 'areas' ? footprints : [])].flatMap(({ outer }) => [
    ...outer,
  ]);
  const box = bounds(all.length ? all : [[0, 0]]);
  const mm = 1000 / scale;
  const width = (box.maxX - box.minX) * mm + 2 * MARGIN_MM;
  const height = (box.maxY - box.minY) * mm + 2 * MARGIN_MM;
  const x = (value: number) => ((value - box.minX) * mm + MARGIN_MM).toFixed(3);
  const y = (value: number) => ((box.maxY - value) * mm + MARGIN_MM).toFixed(3);
  const path = (polygons: readonly Polygon[]) =>
    polygons
      .flatMap(({ outer, holes }) => [outer, ...holes])
      .map((ring) => `M${ring.map((p) => `${x(p[0])} ${y(p[1])}`).join('L')}Z`)
      .join('');
  const layer = (id: string, content: string) => `<g id="${escapeXml(id)}">${content}</g>`;
  const drawn = (polygons: readonly Polygon[], style: string) =>
    polygons.length ? `<path d="${path(polygons)}" fill-rule="evenodd" ${style}/>` : '';
  const rows = lay(study).map(({ row, shift }) =>
    layer(
      ['shade', names[row.moment], row.receiver.id, ownerId(study, row)].filter(Boolean).join('_'),
      drawn(
        shifted(row.shaded, shift),
        `fill="${SHADE}" fill-opacity="0.25" stroke="${SHADE}" stroke-width="0.18"`,
      ) +
        drawn(
          shifted(row.newly, shift),
          `fill="${NEWLY}" fill-opacity="0.5" stroke="${NEWLY}" stroke-width="0.18"`,
        ) +
        row.passing
          .map(({ transmittance, regions }) =>
            drawn(
              shifted(regions, shift),
              `class="passing" fill="${SHADE}" fill-opacity="${(0.25 * (1 - transmittance)).toFixed(3)}" stroke="none"`,
            ),
          )
          .join(''),
    ),
  );
  const barM = roundLength((width / mm) * 0.2);
  const barY = (height - 7).toFixed(3);
  const barX1 = (MARGIN_MM + barM * mm).toFixed(3);
  const title = `${project.name}, ${study.option}: shade ${names.length === 1 ? names[0] : `at ${names.length} moments`}, clock on site, 1:${scale}`;
  const turn = project.site.north.trueNorthDeg;
  const north =
    study.on === 'facades'
      ? ''
      : layer(
          'north',
          `<g transform="translate(${(width - 12).toFixed(3)} 10) rotate(${turn.toFixed(3)})"><path d="M0 -6L2.2 5L0 3L-2.2 5Z" fill="${INK}"/></g>` +
            `<text x="${(width - 12).toFixed(3)}" y="20" font-size="3" text-anchor="middle" fill="${INK}">N</text>`,
        );
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width.toFixed(3)}mm" height="${height.toFixed(3)}mm" viewBox="0 0 ${width.toFixed(3)} ${height.toFixed(3)}" font-family="sans-serif">\n` +
    [
      layer('receivers', drawn(outlines, 'fill="none" stroke="#8a8577" stroke-width="0.13"')),
      layer('footprints', drawn(footprints, `fill="#d9d2c2" stroke="${INK}" stroke-width="0.25"`)),
      layer(
        'boundary',
        drawn(boundary, `fill="none" stroke="${SHADE}" stroke-width="0.25" stroke-dasharray="2 1"`),
      ),
      ...rows,
      layer(
        'scale',
        `<path d="M${MARGIN_MM} ${barY}H${barX1}" stroke="${INK}" stroke-width="0.6"/>` +
          `<text x="${barX1}" y="${(height - 8.5).toFixed(3)}" font-size="3" text-anchor="end" fill="${INK}">${barM} m</text>`,
      ),
      north,
      layer('title', `<text x="${MARGIN_MM}" y="9" font-size="3.6" fill="${INK}">${escapeXml(title)}</text>`),
    ]
      .filter(Boolean)
      .join('\n') +
    '\n</svg>\n'
  );
}

function dxf(project: Project, study: ShadowStudy, names: readonly string[]): string {
  const drawing = new Drawing();
  drawing.setUnits('Meters');
  const { boundary, footprints } = surroundings(project, study);
  const layers = new Set<string>();
  const put = (name: string, colour: number, polygons: readonly Polygon[]) => {
    if (polygons.length === 0) return;
    // Names of layers may hold no colon.
    const layer = name.replaceAll(/[^A-Za-z0-9_$-]/g, '-').slice(0, 200);
    if (!layers.has(layer)) {
      layers.add(layer);
      drawing.addLayer(layer, colour, 'CONTINUOUS');
    }
    drawing.setActiveLayer(layer);
    for (const { outer, holes } of polygons)
      for (const ring of [outer, ...holes])
        drawing.drawPolyline(
          ring.map(([px, py]) => [px, py]),
          true,
        );
  };
  put('RECEIVERS', Drawing.ACI.WHITE, receiverOutlines(study));
  put('FOOTPRINTS', Drawing.ACI.WHITE, footprints);
  put('BOUNDARY', Drawing.ACI.CYAN, boundary);
  for (const { row, shift } of lay(study)) {
    const name = [names[row.moment]!.replace(':', ''), ownerId(study, row)].filter(Boolean).join('_');
    put(`SHADED_${name}`, Drawing.ACI.BLUE, shifted(row.shaded, shift));
    put(`NEWLY_${name}`, Drawing.ACI.YELLOW, shifted(row.newly, shift));
    for (const { transmittance, regions } of row.passing)
      put(`PASSING_${Math.round(transmittance * 100)}_${name}`, Drawing.ACI.MAGENTA, shifted(regions, shift));
  }
  if (study.on !== 'facades') {
    const corners = [...receiverOutlines(study), ...boundary].flatMap(({ outer }) => [...outer]);
    const box = bounds(corners.length ? corners : [[0, 0]]);
    const b = (project.site.north.trueNorthDeg * Math.PI) / 180;
    const at: Point2 = [box.maxX + 6, box.maxY];
    const along = (length: number, turn: number): Point2 => [
      at[0] + length * Math.sin(b + turn),
      at[1] + length * Math.cos(b + turn),
    ];
    put('NORTH', Drawing.ACI.RED, [{ outer: [along(5, 0), along(3, 2.7), along(3, -2.7)], holes: [] }]);
    const barM = roundLength((box.maxX - box.minX) * 0.2);
    const [left, low] = [box.minX, box.minY - 4];
    put('SCALE', Drawing.ACI.RED, [
      {
        outer: [
          [left, low],
          [left + barM, low],
          [left + barM, low - 0.5],
          [left, low - 0.5],
        ],
        holes: [],
      },
    ]);
    drawing.setActiveLayer('SCALE');
    drawing.drawText(left, low - 2.5, 1.5, 0, `${barM} m`);
  }
  return drawing.toDxfString();
}
