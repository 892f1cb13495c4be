import { NONE, house } from '../core/testing/shaded-house';
import { glazedPlaces } from '../core/src/devices';
import { deviceSolid } from '../core/src/scene';
import { climateAt, makeUpYear } from '../core/src/weather';
import { GlassReader } from '../core/src/shading/glass-reading';
import { GlassYear } from '../core/src/shading/glass-year';
const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const SETS: any = [
  { id: 'warm', name: 'Warm', use: 'unwanted', source: { by: 'temperature', above: true, atC: 20 } },
  { id: 'cold', name: 'Cold', use: 'wanted', source: { by: 'temperature', above: false, atC: 12 } },
];
const louvre = (s: number): any => ({
  kind: 'louvres',
  lie: 'level',
  slatM: 0.15,
  spacingM: s,
  tiltDeg: 20,
  thicknessM: 0.01,
  offM: 0.1,
  aroundM: 0,
});
const makes: any[] = [
  louvre(0.15),
  louvre(0.2),
  louvre(0.27),
  louvre(0.35),
  { kind: 'fins', depthM: 0.5, at: 'both', gapM: 0.02, aboveM: 0, belowM: 0, thicknessM: 0.04, turnDeg: 0 },
  { kind: 'shelf', heightM: 0.7, outM: 0.6, inM: 0.3, thicknessM: 0.05 },
  { kind: 'eggcrate', depthM: 0.3, columnM: 0.4, rowM: 0.4, thicknessM: 0.03 },
];
const mk = (reveal: number, n: number, parts: number) => {
  const base = house(null, reveal);
  const m: any = base.options[1]!.masses[0];
  m.openings[0].outline = { ...m.openings[0].outline, u: 3, v: 0.8, widthM: 3, heightM: 1.5 };
  const project = { ...base, hourSets: SETS };
  const places = glazedPlaces(project, 'a', NONE).flatMap((b) => b.places);
  const t = performance.now();
  const year = new GlassYear({ project, optionId: 'a', meshes: NONE, weather: WEATHER }, places, {
    together: n,
    least: n,
    most: n,
    parts,
  });
  const reader = new GlassReader(year, project, WEATHER);
  const t2 = performance.now();
  const out = makes.map((make) => reader.read(year.past([deviceSolid({ make }, places)])));
  const t3 = performance.now();
  return { out: [reader.read(year.bare), ...out], ms: [t2 - t, (t3 - t2) / makes.length] };
};
for (const reveal of [0, 0.12]) {
  const ref = mk(reveal, 8192, 4096);
  const yr = (r: any) => {
    const i = r.months.inside.shaded;
    return i.beam.map((b: number, m: number) => b + i.sky[m] + i.ground[m]);
  };
  for (const [n, parts] of [
    [32, 1024],
    [64, 1024],
    [128, 4096],
    [256, 4096],
    [512, 4096],
  ] as const) {
    const got = mk(reveal, n, parts);
    const rows = got.out.map((g: any, i) => {
      const r: any = ref.out[i];
      const sh = (x: any, k: number) => (100 * x.sets[k].shaded) / x.sets[k].whole;
      const a = yr(g),
        b = yr(r);
      const A = a.reduce((s: number, x: number) => s + x, 0),
        B = b.reduce((s: number, x: number) => s + x, 0);
      const e = (k: number) => (100 * g.sets[k].error) / g.sets[k].whole;
      return `${(sh(g, 0) - sh(r, 0)).toFixed(2)}±${e(0).toFixed(2)} ${(sh(g, 1) - sh(r, 1)).toFixed(2)}±${e(1).toFixed(2)} Y${(100 * (A / B - 1)).toFixed(2)}±${((100 * g.months.inside.shaded.yearError) / B).toFixed(2)} M${Math.max(...a.map((x: number, m: number) => Math.abs(100 * (x / b[m]! - 1)))).toFixed(1)} S${(g.skyPercent.shaded - r.skyPercent.shaded).toFixed(2)}±${g.skyPercent.error.toFixed(2)}`;
    });
    console.log(reveal, n, parts, got.ms.map((x) => x.toFixed(0)).join('/'));
    console.log('   ' + rows.join('\n   '));
  }
}
