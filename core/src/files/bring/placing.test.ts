import { boxObj, bring, lowest, read } from '../../../testing/model-files';
import { signedArea } from '../../geometry';
import { emptyProject, type Project } from '../../project';
import { localFrame, mapSystem } from '../../site';
import { likelyUnit } from '../likely-unit';

describe('where a file stands', () => {
  test('the first file of a survey sets its origin, later ones stay in relation, another survey is refused', async () => {
    const first = bring(await read(boxObj(691_234, 5_334_567, 515), 'a.obj'));
    const { survey } = first.project.site;
    expect(survey).toEqual({ x: 691_244, y: 5_334_573, z: 515, system: null });
    expect(lowest(first.meshes[0]!)).toEqual([-10, -6, 0]);
    expect(first.notes.join(' ')).toContain('in the coordinates of a survey');
    const second = bring(await read(boxObj(691_294, 5_334_567, 517), 'b.obj'), {}, first.project);
    expect(lowest(second.meshes[0]!)).toEqual([50, -6, 2]);
    expect(second.project.site.survey).toEqual(survey);
    // Outlines go along, here in millimetres.
    const drawn = await read(
      `0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\nA\n70\n1\n${[
        [691_244_000, 5_334_573_000],
        [691_264_000, 5_334_573_000],
        [691_264_000, 5_334_583_000],
      ]
        .map(([x, y]) => `10\n${x}\n20\n${y}\n`)
        .join('')}0\nENDSEC\n0\nEOF\n`,
      'c.dxf',
    );
    const third = bring(drawn, { unit: 'mm' }, second.project);
    const body = third.project.neighbours.at(-1)!;
    expect(body.kind === 'building' && body.footprint.outer[0]).toEqual([0, 0]);
    const far = await read(boxObj(2_600_000, 1_200_000, 400), 'd.obj');
    expect(() => bring(far, {}, third.project)).toThrow('it is of another survey');
    expect(() => bring(far, { centre: true }, third.project)).not.toThrow();
  });

  test('a drawing near the origin stays where it was drawn, in any unit', async () => {
    const drawn = await read(
      `0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\nA\n70\n1\n${[
        [5000, 2000],
        [25_000, 2000],
        [25_000, 14_000],
      ]
        .map(([x, y]) => `10\n${x}\n20\n${y}\n`)
        .join('')}0\nENDSEC\n0\nEOF\n`,
      'near.dxf',
    );
    const { project, notes } = bring(drawn, { unit: 'mm' });
    const body = project.neighbours[0]!;
    expect(body.kind === 'building' && body.footprint.outer[0]).toEqual([5, 2]);
    expect(project.site.survey).toBeNull();
    expect(notes.join(' ')).not.toContain('survey');
  });

  test('a point of the file at the origin; a point on a point and a turn; what lies near stays', async () => {
    const model = await read(boxObj(691_234, 5_334_567, 515), 'a.obj');
    const at = bring(model, { origin: [691_200, 5_334_500, 500] });
    expect(lowest(at.meshes[0]!)).toEqual([34, 67, 15]);
    expect(at.project.site.survey).toMatchObject({ x: 691_200, y: 5_334_500, z: 500 });
    const pinned = bring(model, { pinned: { file: [691_234, 5_334_567], board: [5, 7], turnDeg: 90 } });
    expect(lowest(pinned.meshes[0]!).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([-7, 7, 515]);
    const near = bring(await read(boxObj(3000, -2000, 0), 'a.obj'));
    expect(lowest(near.meshes[0]!)).toEqual([3000, -2000, 0]);
    expect(near.project.site.survey).toBeNull();
    // High up, wherever it is: further files are told from the same level, and its middle alone comes down too.
    const high = bring(await read(boxObj(30, -20, 515), 'a.obj'));
    const higher = bring(await read(boxObj(60, -20, 517), 'b.obj'), {}, high.project);
    expect([high, higher].map(({ meshes }) => lowest(meshes[0]!))).toEqual([
      [30, -20, 0],
      [60, -20, 2],
    ]);
    const relative = bring(await read(boxObj(90, -20, 1), 'c.obj'), {}, higher.project);
    expect(lowest(relative.meshes[0]!)).toEqual([90, -20, 1]);
    expect(relative.project.site.survey).toMatchObject({ z: 515 });
    expect(lowest(bring(model, { centre: true }).meshes[0]!)).toEqual([-10, -6, 0]);
  });

  test('a map system places by itself: in a bare project it gives the place, in another it keeps to it', async () => {
    const city = (system: string) =>
      JSON.stringify({
        ...{
          type: 'CityJSON',
          version: '2.0',
          transform: { scale: [1, 1, 1], translate: [155_000, 463_000, 0] },
        },
        metadata: { referenceSystem: system },
        vertices: [
          [0, 0, 0],
          [10, 0, 0],
          [10, 8, 0],
          [0, 8, 0],
        ],
        CityObjects: {
          b: {
            type: 'Building',
            geometry: [{ type: 'MultiSurface', lod: '1', boundaries: [[[0, 1, 2, 3]]] }],
          },
        },
      });
    const model = await read(city('https://www.opengis.net/def/crs/EPSG/0/7415'), 'a.city.json');
    const bare = bring(model);
    const { place } = bare.project.site;
    expect([place.latitudeDeg, place.longitudeDeg]).toEqual([
      expect.closeTo(52.1552, 3),
      expect.closeTo(5.3873, 3),
    ]);
    // With a map of zones it has its time zone too; where that knows none, this is said.
    const empty = emptyProject('E', 2026);
    const zoned = bring(model, {}, empty, (lat, lon) =>
      lat > 52 && lon > 5 ? 'Europe/Amsterdam' : 'Etc/UTC',
    );
    expect(zoned.project.site.place.zone).toBe('Europe/Amsterdam');
    expect(zoned.notes).toContain('The time zone there is Europe/Amsterdam.');
    const off = bring(model, {}, empty, () => {
      throw new RangeError('off the map');
    });
    expect(off.project.site.place.zone).toBe(empty.site.place.zone);
    expect(off.notes.join(' ')).toContain('There is no time zone on the map there');
    // Now that it has a place, the same file and one in longitude and latitude meet.
    const confirmed = {
      ...bare.project,
      site: { ...bare.project.site, place: { ...place, confirmed: true } },
    };
    const [lon, lat] = mapSystem('EPSG:28992')!.toGeographic([155_000, 463_000]);
    const d = 1e-4;
    const geo = await read(
      JSON.stringify({
        type: 'Polygon',
        coordinates: [
          [
            [lon, lat],
            [lon + d, lat],
            [lon + d, lat + d],
            [lon, lat],
          ],
        ],
      }),
      'a.geojson',
    );
    const both = bring(geo, {}, confirmed);
    const body = both.project.neighbours.at(-1)!;
    const corner = body.kind === 'building' ? body.footprint.outer[0]! : [NaN, NaN];
    const low = lowest(bring(model, {}, confirmed).meshes[0]!);
    expect(Math.hypot(corner[0]! - low[0]!, corner[1]! - low[1]!)).toBeLessThan(0.2);
    // A drawing in millimetres that names no system stands in the survey's.
    const drawn = await read(
      `0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\nA\n70\n1\n${[
        [155_000_000, 463_000_000],
        [155_020_000, 463_000_000],
        [155_020_000, 463_010_000],
      ]
        .map(([x, y]) => `10\n${x}\n20\n${y}\n`)
        .join('')}0\nENDSEC\n0\nEOF\n`,
      'c.dxf',
    );
    const third = bring(drawn, { unit: 'mm' }, bring(model, {}, confirmed).project).project.neighbours.at(
      -1,
    )!;
    const foot = third.kind === 'building' ? third.footprint.outer[0]! : [NaN, NaN];
    expect(Math.hypot(foot[0]! - low[0]!, foot[1]! - low[1]!)).toBeLessThan(0.2);
    // Elsewhere, and of a system that is not known, it goes by its coordinates.
    const abroad = {
      ...confirmed,
      site: {
        ...confirmed.site,
        survey: null,
        place: { ...place, latitudeDeg: 10, longitudeDeg: 40, confirmed: true },
      },
    };
    expect(bring(model, {}, abroad).notes.join(' ')).toContain('km from the project’s place');
    expect(bring(await read(city('urn:local:grid'), 'a.city.json')).notes.join(' ')).toContain(
      'is not known here',
    );
  });

  test('GeoJSON with a crs, in feet by it, and without one in a plan', async () => {
    const polygon = (x: number, y: number, s = 20) => ({
      type: 'Polygon',
      coordinates: [
        [
          [x, y],
          [x + s, y],
          [x + s, y + s],
          [x, y + s],
          [x, y],
        ],
      ],
    });
    const file = (crs: string | null, geometry: object, properties = {}) =>
      JSON.stringify({
        type: 'FeatureCollection',
        ...(crs && { crs: { type: 'name', properties: { name: crs } } }),
        features: [{ type: 'Feature', properties, geometry }],
      });
    const utm = bring(
      await read(file('urn:ogc:def:crs:EPSG::25832', polygon(691_234, 5_334_567)), 'a.geojson'),
    );
    const of = ({ project }: { project: Project }) => {
      const body = project.neighbours[0]!;
      return body.kind === 'building' ? body : null;
    };
    expect(Math.abs(signedArea(of(utm)!.footprint.outer))).toBeCloseTo(400 * 1.0008, -0.5);
    expect(utm.project.site.place.latitudeDeg).toBeCloseTo(48.135, 2);
    const feet = await read(file('EPSG:2263', polygon(984_250, 200_000, 100), { height: 60 }), 'a.geojson');
    expect(feet.unit).toBe('us-ft');
    expect(of(bring(feet))!.storeys.reduce((sum, { heightM }) => sum + heightM, 0)).toBeCloseTo(
      60 * 0.3048006,
      3,
    );
    const plan = await read(file(null, polygon(691_234, 5_334_567)), 'a.geojson');
    expect(plan.notes.join(' ')).toContain('names no map system');
    expect(bring(plan).project.site.survey).toMatchObject({ x: 691_244, y: 5_334_577 });
  });

  test('the frame of a place is what GeoJSON goes by', async () => {
    const project = emptyProject('E', 2026);
    project.site.place = { ...project.site.place, latitudeDeg: 50, longitudeDeg: 10, confirmed: true };
    const [lon, lat] = localFrame(project.site).toGeographic([1500, 1200]);
    const model = await read(
      JSON.stringify({
        type: 'Polygon',
        coordinates: [
          [
            [lon, lat],
            [lon + 1e-3, lat],
            [lon, lat + 1e-3],
            [lon, lat],
          ],
        ],
      }),
      'a.geojson',
    );
    const body = bring(model, {}, project).project.neighbours[0]!;
    expect(body.kind === 'building' && body.footprint.outer[0]).toEqual([1500, 1200]);
  });
});

describe('how big it is', () => {
  const meshOf = async (size: [number, number, number]) => (await read(boxObj(0, 0, 0, size), 'a.obj')).mesh!;
  test.each([
    [[20, 12, 60], 'm'],
    [[20, 12, 3], 'm'],
    [[300, 200, 350], 'm'],
    [[20_000, 12_000, 9000], 'mm'],
    [[2000, 1200, 900], 'cm'],
    [[40_000, 40_000, 0], 'mm'],
    [[20_000, 15_000, 12], 'm'],
  ] as const)('%p is in %s', async (size, unit) => {
    expect(likelyUnit(await meshOf([...size]), 'z')).toBe(unit);
  });

  test('corners that no surface uses do not count', async () => {
    const mesh = (await read(`${boxObj(0, 0, 0, [20, 12, 9])}\nv 0 0 90000\n`, 'a.obj')).mesh!;
    expect(likelyUnit(mesh, 'z')).toBe('m');
  });
});
