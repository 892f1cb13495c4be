import { kelpLane } from '@dial-shade/samples';
import { type Point2, signedArea } from '../../geometry';
import { TODAY } from '../../project';
import { assembleScene } from '../../scene';
import { localFrame } from '../../site';
import { writeOption } from './write-option';

const project = kelpLane();
const NONE = new Map();
const text = async (format: 'geojson' | 'cityjson') =>
  JSON.parse(new TextDecoder().decode(await writeOption(project, TODAY, NONE, format)));

test('GeoJSON: all that stands goes out by its outline, with what it is', async () => {
  const { features } = (await text('geojson')) as {
    features: {
      properties: { name: string; kind: string; height: number };
      geometry: { type: string; coordinates: never };
    }[];
  };
  const standing = assembleScene(project, TODAY, NONE).owners.filter(({ layer }) => layer !== 'ground');
  expect(features.map(({ properties }) => properties.name).sort()).toEqual(
    standing.map(({ name }) => name).sort(),
  );
  const kinds = new Set(features.map(({ properties }) => properties.kind));
  expect(kinds).toEqual(new Set(['building', ...project.neighbours.map(({ kind }) => kind)]));
  const frame = localFrame(project.site);
  const areaOf = (name: string) => {
    const { geometry } = features.find(({ properties }) => properties.name === name)!;
    const polygons = (geometry.type === 'Polygon' ? [geometry.coordinates] : geometry.coordinates) as [
      number,
      number,
    ][][][];
    return polygons.reduce(
      (sum, rings) =>
        sum +
        rings.reduce(
          (all, ring, i) =>
            all + (i === 0 ? 1 : -1) * Math.abs(signedArea(ring.map((p): Point2 => frame.toProject(p)))),
          0,
        ),
      0,
    );
  };
  for (const one of project.neighbours)
    if (one.kind === 'wall') {
      const length = one.path.reduce(
        (sum, p, i) =>
          i === 0 ? 0 : sum + Math.hypot(p[0] - one.path[i - 1]![0], p[1] - one.path[i - 1]![1]),
        0,
      );
      // A wall that turns overlaps itself at its corners.
      expect(areaOf(one.name) / (length * one.thicknessM)).toBeCloseTo(1, 1);
    } else if (one.kind === 'tree') {
      const disc = Math.PI * (one.crownM / 2) ** 2;
      expect(areaOf(one.name) / disc).toBeGreaterThan(0.85);
      expect(areaOf(one.name) / disc).toBeLessThanOrEqual(1.001);
    }
});

test('CityJSON: trees and walls are what they are; plants have no roofs', async () => {
  const { CityObjects } = (await text('cityjson')) as {
    CityObjects: Record<string, { type: string; geometry: { semantics?: object }[] }>;
  };
  for (const one of project.neighbours) {
    const { type, geometry } = CityObjects[one.name]!;
    expect(type).toBe(
      one.kind === 'tree'
        ? 'SolitaryVegetationObject'
        : one.kind === 'wall' || one.kind === 'fence'
          ? 'OtherConstruction'
          : 'Building',
    );
    expect(geometry[0]!.semantics !== undefined).toBe(one.kind !== 'tree');
  }
});
