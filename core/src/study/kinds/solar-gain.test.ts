import { opening, rect, block, onOpenGround } from '../../../testing/blocks';
import { RAD } from '../../civil';
import { add, addMass } from '../../document';
import { emptyProject, type Glazing, type Project, type Study, type Target } from '../../project';
import { hourSky, skyVault } from '../../sky';
import { climateAt, makeUpYear, sunOfHours } from '../../weather';
import { planStudy, runStudy } from '../run-study';
import { summarize } from '../summary';
import { angularG, hemisphericalG } from './angular-g';

const NONE = new Map();
const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const GLASS = { gValue: 0.6, frameShare: 0.25, panes: 2, categoryQ: 4 };

describe('g-value by angle', () => {
  test.each([1, 2, 3])(
    '%d panes: whole at normal incidence, nothing at grazing, falling all the way',
    (panes) => {
      for (const categoryQ of [1, 2.5, 4, 8]) {
        const glass = { ...GLASS, panes, categoryQ };
        expect(angularG(1, glass)).toBe(1);
        expect(angularG(0, glass)).toBeCloseTo(0, 12);
        const by = [0, 20, 40, 60, 70, 80].map((deg) => angularG(Math.cos(deg * RAD), glass));
        by.slice(1).forEach((value, i) => expect(value).toBeLessThan(by[i]!));
      }
    },
  );

  test('as the formula says, worked out by hand for two uncoated panes at 60°', () => {
    // z = 2/3, b = 0.0625, c = −7.0625, α = 8, β = 2, γ = 5.38 + 0.81 × 4 = 8.62.
    const z = 2 / 3;
    const byHand = 1 - 8 * z ** 8 - 0.0625 * z ** 2 + 7.0625 * z ** 8.62;
    expect(angularG(0.5, GLASS)).toBeCloseTo(byHand, 12);
    expect(byHand).toBeGreaterThan(0.8);
  });

  test('of the half-space it is 2 ∫ g sin θ cos θ dθ', () => {
    let sum = 0;
    for (let i = 0; i < 9000; i++) {
      const angle = ((i + 0.5) / 9000) * (Math.PI / 2);
      sum += 2 * angularG(Math.cos(angle), GLASS) * Math.sin(angle) * Math.cos(angle) * (Math.PI / 2 / 9000);
    }
    expect(hemisphericalG(GLASS)).toBeCloseTo(sum, 4);
  });
});

const TARGET: Target = {
  id: 'w',
  name: 'Windows',
  kind: 'openings',
  among: 'option',
  scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
  withinM: null,
  facing: false,
  at: 'centre',
  spacingM: 0.5,
  offsetM: 0.01,
};

function house(target: Target, kind: Study['kind'] = 'solar-gain', revealM = 0): Project {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Etc/GMT-1' };
  made.glazings = [{ id: 'double', name: 'G', visibleTransmittance: 0.7, ...GLASS } as Glazing];
  const study: Study = {
    id: 's',
    name: 'Study',
    kind,
    targets: [target.id],
    window: { from: '2026-05-01', to: '2026-06-03', startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 15,
    criterion: { atLeast: 3, share: 0.5, source: '' },
    scale: null,
  };
  const mass = { ...block('m', 0, 0, 10, 8), openings: [opening('o', rect(4, 1, 2, 1), { revealM })] };
  return addMass('a', mass)(add('studies', study)(add('targets', target)(made)));
}

const run = (p: Project) => {
  const plan = planStudy(p, 'a', p.studies[0]!, NONE, WEATHER);
  const values = runStudy(p, plan, NONE);
  return Object.fromEntries(Object.entries(values).map(([key, all]) => [key, all[0]!]));
};

test('a window to the south in the open gets what plain loops over hours and patches give', () => {
  const at = run(onOpenGround(house(TARGET)));
  const vault = skyVault(4);
  const g = 0.6 * 0.75;
  let [beam, sky, ground] = [0, 0, 0];
  const hoursOf = new Array<number>(24).fill(0);
  for (const hour of sunOfHours(WEATHER, PLACE, 1, 2026).hours) {
    const [month, day] = [WEATHER.month[hour.record]!, WEATHER.day[hour.record]!];
    if (month !== 5 && !(month === 6 && day <= 3)) continue;
    let one = (0.2 * hour.globalHorizontal * g * hemisphericalG(GLASS)) / 2;
    ground += one;
    const cosine = hour.sun ? -Math.cos(hour.sun.altitudeDeg * RAD) * Math.cos(hour.sun.azimuthDeg * RAD) : 0;
    if (cosine > 0) {
      const part = hour.beamNormal * cosine * g * angularG(cosine, GLASS);
      beam += part;
      one += part;
    }
    const patches = hourSky(vault, hour, new Float64Array(vault.count));
    for (let p = 0; p < vault.count; p++) {
      const to = -Math.cos(vault.altitudeDeg[p]! * RAD) * Math.cos(vault.azimuthDeg[p]! * RAD);
      if (to <= 1e-9) continue;
      sky += patches[p]! * to * g * angularG(to, GLASS);
      one += patches[p]! * to * g * angularG(to, GLASS);
    }
    hoursOf[WEATHER.hour[hour.record]! - 1]! += one;
  }
  expect(at.beam).toBeCloseTo(beam / 1000, 3);
  expect(Math.abs(at.sky! / (sky / 1000) - 1)).toBeLessThan(0.003);
  expect(at.ground).toBeCloseTo(ground / 1000, 3);
  expect(at.gain).toBeCloseTo(at.beam! + at.sky! + at.ground!, 3);
  expect(at.m05! + at.m06!).toBeCloseTo(at.gain!, 3);
  hoursOf.forEach((value, h) => {
    const hour = at[`h${String(h).padStart(2, '0')}`]!;
    expect(Math.abs(hour - value / 1000)).toBeLessThanOrEqual(0.004 * (value / 1000) + 1e-4);
  });
});

test('the summary tells kWh of each window, by month and by hour of the day', () => {
  const p = house(TARGET);
  const plan = planStudy(p, 'a', p.studies[0]!, NONE, WEATHER);
  const values = runStudy(p, plan, NONE);
  const { energy, targets } = summarize(plan, values);
  // A pane of 2 by 1 m.
  expect(energy!.kWh).toBeCloseTo(values.gain![0]! * 2, 4);
  const sum = (all: number[]) => all.reduce((a, b) => a + b, 0);
  expect(sum(energy!.months)).toBeCloseTo(energy!.kWh, 3);
  expect(sum(energy!.hours)).toBeCloseTo(energy!.kWh, 3);
  expect(energy!.months).toHaveLength(12);
  expect(energy!.hours).toHaveLength(24);
  expect(targets[0]!.energy).toEqual(energy);
});

test('less comes in than falls on it times g, and a reveal takes from it', () => {
  const gain = run(house(TARGET)).gain!;
  const falls = run(house(TARGET, 'insolation')).insolation!;
  expect(gain).toBeLessThan(falls * 0.6 * 0.75);
  expect(gain).toBeGreaterThan(falls * 0.6 * 0.75 * 0.7);
  expect(run(house(TARGET, 'solar-gain', 0.4)).gain).toBeLessThan(gain * 0.95);
});

test('what has no glass is refused', () => {
  const lawn: Target = {
    id: 'w',
    name: 'Lawn',
    kind: 'ground',
    outline: [
      [20, 0],
      [24, 0],
      [24, 4],
    ],
    spacingM: 1,
    offsetM: 0.1,
  };
  expect(() => run(house(lawn))).toThrow('“Lawn” has no glass');
});
