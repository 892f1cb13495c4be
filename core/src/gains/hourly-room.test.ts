import fc from 'fast-check';
import { hourlyRoom, type SetPoints, type ZoneModel, type ZoneYear } from './hourly-room';

const ROOM: ZoneModel = { floorAreaM2: 20, mass: 'medium', hWindows: 8, hOpaque: 12, hVentilation: 10 };
const FREE: SetPoints = { heatC: null, coolC: null, heatW: 0, coolW: 0 };
const KEPT: SetPoints = { heatC: 20, coolC: 26, heatW: 1e5, coolW: 1e5 };
const A_T = 4.5 * 20;

function year(
  of: (h: number) => { outdoor?: number; solar?: number; internal?: number },
  hours = 8760,
): ZoneYear {
  const all = Array.from({ length: hours }, (_, h) => of(h));
  return {
    outdoorC: Float64Array.from(all, ({ outdoor = 0 }) => outdoor),
    solarW: Float64Array.from(all, ({ solar = 0 }) => solar),
    internalW: Float64Array.from(all, ({ internal = 0 }) => internal),
  };
}

test('an hour worked by hand', () => {
  // A_m = 50, H_ms = 455, H_em = 1/(1/12 − 1/455), H_is = 310.5, C_m = 3.3 MJ/K.
  const hMs = 9.1 * 50;
  const hEm = 1 / (1 / 12 - 1 / hMs);
  const hIs = 3.45 * A_T;
  const h1 = 1 / (1 / 10 + 1 / hIs);
  const h2 = h1 + 8;
  const h3 = 1 / (1 / h2 + 1 / hMs);
  const c = (165_000 * 20) / 3600;
  const [outdoor, solar, internal] = [5, 400, 100];
  const phiIa = 50;
  const phiM = (50 / A_T) * 450;
  const phiSt = (1 - 50 / A_T - 8 / (9.1 * A_T)) * 450;
  const total = phiM + hEm * 5 + (h3 * (phiSt + 8 * 5 + h1 * (phiIa / 10 + 5))) / h2;
  // All hours alike: the mass has come to where it no longer moves, θ = Φ_mtot / (H_3 + H_em).
  const mass = total / (h3 + hEm);
  const surface = (hMs * mass + phiSt + 8 * 5 + h1 * (5 + phiIa / 10)) / (hMs + 8 + h1);
  const air = (hIs * surface + 10 * 5 + phiIa) / (hIs + 10);
  const found = hourlyRoom(
    ROOM,
    year(() => ({ outdoor, solar, internal })),
    FREE,
  );
  expect(found.massC[8759]).toBeCloseTo(mass, 9);
  expect(found.airC[8759]).toBeCloseTo(air, 9);
  // And one hour away from there: with one hour of more sun, the mass goes by the Crank–Nicolson step.
  const bent = hourlyRoom(
    ROOM,
    year((h) => ({ outdoor, solar: h === 8000 ? 1400 : solar, internal })),
    FREE,
  );
  const more = (50 / A_T) * 1000 + (h3 * (1 - 50 / A_T - 8 / (9.1 * A_T)) * 1000) / h2;
  const after = (mass * (c - (h3 + hEm) / 2) + total + more) / (c + (h3 + hEm) / 2);
  expect(bent.massC[8000]).toBeCloseTo((mass + after) / 2, 6);
});

test('steady state: what is put in is what goes out by windows, walls and air', () => {
  const outdoor = -10;
  const found = hourlyRoom(
    ROOM,
    year(() => ({ outdoor })),
    KEPT,
  );
  expect(found.airC[8759]).toBeCloseTo(20, 6);
  const out =
    8 * (found.surfaceC[8759]! - outdoor) +
    (1 / (1 / 12 - 1 / 455)) * (found.massC[8759]! - outdoor) +
    10 * (found.airC[8759]! - outdoor);
  expect(found.heatingW[8759]).toBeCloseTo(out, 4);
  // No less than the conductances give with all of the room at 20 °C would be less; all of it is a little colder.
  expect(found.heatingW[8759]!).toBeLessThan(30 * 30);
  expect(found.heatingW[8759]!).toBeGreaterThan(30 * 25);
});

test('over a year the balance closes, whatever the weather', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1000 }), fc.boolean(), (seed, kept) => {
      const at = (h: number) => ({
        outdoor: 10 + 12 * Math.sin((h / 8760) * 2 * Math.PI - 1.6) + 5 * Math.sin((h * seed) / 7.3),
        solar: Math.max(0, 900 * Math.sin((h / 24) * 2 * Math.PI - 1.5)),
        internal: h % 24 > 8 && h % 24 < 18 ? 150 : 20,
      });
      const asked = year(at);
      const found = hourlyRoom(ROOM, asked, kept ? KEPT : FREE);
      const hEm = 1 / (1 / 12 - 1 / 455);
      let [gained, lost] = [0, 0];
      for (let h = 0; h < 8760; h++) {
        const { outdoor, solar, internal } = at(h);
        gained += solar * (1 - 8 / (9.1 * A_T)) + internal * (1 - (0.5 * 8) / (9.1 * A_T));
        gained += found.heatingW[h]! - found.coolingW[h]!;
        lost +=
          8 * (found.surfaceC[h]! - outdoor) +
          hEm * (found.massC[h]! - outdoor) +
          10 * (found.airC[h]! - outdoor);
      }
      // What the mass holds more at the end than at the begin is next to nothing beside a year.
      const scale = Math.abs(gained) + Math.abs(lost);
      expect(Math.abs(gained - lost) / scale).toBeLessThan(0.001);
    }),
    { numRuns: 8 },
  );
});

test('left alone it cools with its own time constant', () => {
  const asked = year((h) => ({ outdoor: h < 400 ? 30 : 0 }), 8760);
  const found = hourlyRoom(ROOM, asked, FREE);
  const [hMs, hIs] = [455, 3.45 * A_T];
  const hEm = 1 / (1 / 12 - 1 / hMs);
  const h3 = 1 / (1 / (1 / (1 / 10 + 1 / hIs) + 8) + 1 / hMs);
  const c = (165_000 * 20) / 3600;
  // A mass with conductance H_3 + H_em to outside: exp(−t (H_3 + H_em)/C).
  const decay = Math.exp((-10 * (h3 + hEm)) / c);
  expect(found.massC[460]! / found.massC[450]!).toBeCloseTo(decay, 4);
});

test('power that is limited is not exceeded; deeper shade never cools more; what cannot be is refused', () => {
  const hot = (solar: number) => year((h) => ({ outdoor: 24, solar: h % 24 > 9 && h % 24 < 17 ? solar : 0 }));
  const weak = hourlyRoom(ROOM, hot(2000), { ...KEPT, coolW: 300 });
  expect(Math.max(...weak.coolingW)).toBeCloseTo(300, 9);
  expect(Math.max(...weak.airC)).toBeGreaterThan(26);
  const sum = (values: Float64Array) => values.reduce((all, one) => all + one, 0);
  const cooled = [2000, 1200, 500, 0].map((solar) => sum(hourlyRoom(ROOM, hot(solar), KEPT).coolingW));
  for (let i = 1; i < cooled.length; i++) expect(cooled[i]!).toBeLessThanOrEqual(cooled[i - 1]!);
  expect(() => hourlyRoom({ ...ROOM, hOpaque: 500 }, hot(0), FREE)).toThrow('lower the U-values');
  expect(() => hourlyRoom({ ...ROOM, hVentilation: 0 }, hot(0), FREE)).toThrow('air that is changed');
});

test('between the set-points nothing is put in; one that is not there is not held', () => {
  // Outside temperatures that take the room through both set-points and between them.
  const weather = year((h) => ({ outdoor: 18 + 16 * Math.sin((2 * Math.PI * h) / 2000), solar: 300 }));
  const kept = hourlyRoom(ROOM, weather, KEPT);
  const hours = Array.from(kept.airC, (air, h) => ({
    air,
    heat: kept.heatingW[h]!,
    cool: kept.coolingW[h]!,
  }));
  expect(hours.filter(({ air }) => air < 20 - 1e-9 || air > 26 + 1e-9)).toEqual([]);
  const between = hours.filter(({ air }) => air > 20 + 1e-6 && air < 26 - 1e-6);
  expect(between.filter(({ heat, cool }) => heat !== 0 || cool !== 0)).toEqual([]);
  for (const some of [between, hours.filter(({ heat }) => heat > 0), hours.filter(({ cool }) => cool > 0)])
    expect(some.length).toBeGreaterThan(100);
  const onlyWarm = hourlyRoom(ROOM, weather, { ...KEPT, coolC: null });
  expect(onlyWarm.coolingW.every((watts) => watts === 0)).toBe(true);
  expect(Math.max(...onlyWarm.airC)).toBeGreaterThan(27);
  expect(Math.min(...onlyWarm.airC)).toBeCloseTo(20, 6);
  const onlyCool = hourlyRoom(ROOM, weather, { ...KEPT, heatC: null });
  expect(onlyCool.heatingW.every((watts) => watts === 0)).toBe(true);
  expect(Math.min(...onlyCool.airC)).toBeLessThan(19);
  expect(Math.max(...onlyCool.airC)).toBeCloseTo(26, 6);
});

test('a room begins its year as the last two weeks leave it, and nothing before them', () => {
  const heavy: ZoneModel = { ...ROOM, mass: 'very heavy' };
  const asOf = (from: number, to: number) =>
    hourlyRoom(
      heavy,
      year((h) => ({ outdoor: h >= from && h < to ? 40 : 5 })),
      FREE,
    ).airC.slice(0, 50);
  const plain = asOf(0, 0);
  expect(asOf(8000, 8760 - 336)).toEqual(plain);
  expect(asOf(8760 - 336, 8760)[0]).toBeGreaterThan(plain[0]! + 1);
});

test('a room that cannot be is refused; one without opaque losses has none', () => {
  const weather = year(() => ({ outdoor: 5 }), 400);
  const of = (change: Partial<ZoneModel>) => () => hourlyRoom({ ...ROOM, ...change }, weather, FREE);
  for (const change of [{ floorAreaM2: 0 }, { hVentilation: 0 }, { hWindows: -0.1 }, { hOpaque: -0.1 }])
    expect(of(change)).toThrow('A room needs a floor');
  expect(of({ hOpaque: 9.1 * 50 })).toThrow('more than the mass of the room can pass on');
  expect(of({ hWindows: 0 })().airC[399]).toBeCloseTo(5, 1);
  // Walls that lose nothing: what is put in leaves by windows and air alone.
  const closed = hourlyRoom(
    { ...ROOM, hOpaque: 0 },
    year(() => ({ outdoor: 0, internal: 180 })),
    FREE,
  );
  const last = 8759;
  const surface = (closed.airC[last]! * (3.45 * A_T + 10) - 90) / (3.45 * A_T);
  const out = 8 * surface + 10 * closed.airC[last]!;
  // Of what falls on surfaces a share H_w/(9.1 A_t) goes out by the windows at once, as the standard has it.
  expect(out).toBeCloseTo(180 - (90 * 8) / (9.1 * A_T), 3);
});
