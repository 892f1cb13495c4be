import { geoEquirectangular, geoGraticule10, geoPath, pointer } from 'd3';
import { type MouseEvent, useMemo } from 'react';
import { feature } from 'topojson-client';
import type { Topology } from 'topojson-specification';
import land from 'world-atlas/land-110m.json';

const WIDTH = 268;
const HEIGHT = 134;

/** The world, offline; a click sets the place. */
export function WorldMap({
  latitudeDeg,
  longitudeDeg,
  onPick,
}: {
  latitudeDeg: number;
  longitudeDeg: number;
  onPick: (lat: number, lon: number) => void;
}) {
  const { shape, grid, project, invert } = useMemo(() => {
    const projection = geoEquirectangular().fitSize([WIDTH, HEIGHT], { type: 'Sphere' });
    const path = geoPath(projection);
    const world = land as unknown as Topology;
    return {
      shape: path(feature(world, world.objects.land!)) ?? '',
      grid: path(geoGraticule10()) ?? '',
      project: (lon: number, lat: number) => projection([lon, lat])!,
      invert: (p: [number, number]) => projection.invert!(p)!,
    };
  }, []);
  const [x, y] = project(longitudeDeg, latitudeDeg);
  const pick = (event: MouseEvent<SVGSVGElement>) => {
    const [lon, lat] = invert(pointer(event.nativeEvent, event.currentTarget));
    onPick(Number(lat.toFixed(2)), Number(lon.toFixed(2)));
  };
  return (
    <svg
      className="map"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      onClick={pick}
      role="img"
      aria-label={`World map; the place is at ${latitudeDeg}, ${longitudeDeg}. Click to set it.`}
    >
      <path className="grid" d={grid} />
      <path className="land" d={shape} />
      <line x1={x} x2={x} y1={0} y2={HEIGHT} stroke="var(--sun)" strokeWidth={0.7} />
      <line x1={0} x2={WIDTH} y1={y} y2={y} stroke="var(--sun)" strokeWidth={0.7} />
      <circle cx={x} cy={y} r={4} fill="var(--sun)" stroke="var(--ink)" />
    </svg>
  );
}
