import { block, opening, rect } from '../../testing/blocks';
import { addMass } from '../document';
import { emptyProject } from '../project';
import { planStudy, runStudy, summarize } from '../study';
import { climateAt, makeUpYear } from '../weather';
import { openingsYear } from './openings-year';

const NONE = new Map();
const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);

test('the year of openings of one body and storey is what it is among all of them', () => {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Etc/GMT-1' };
  const window = (id: string, storey: number) =>
    opening(id, rect(2, 1, 2, 1.5), { host: { on: 'wall', ring: 0, edge: 0, storey } });
  const bodies = [block('near', 0, 0, 10, 8), block('far', 0, 20, 10, 8)].map((mass) => ({
    ...mass,
    openings: [window('low', 0), window('high', 1)],
  }));
  const project = bodies.reduce((sum, mass) => addMass('a', mass)(sum), made);
  const year = (owners: string[] | null, storeys: number[] | null) => {
    const { asked, study } = openingsYear(project, 'a', { owners, storeys }, {}, 0.5);
    const plan = planStudy(asked, 'a', study, NONE, WEATHER);
    const { targets } = summarize(plan, runStudy(asked, plan, NONE));
    return new Map(targets.map(({ id, energy }) => [id, energy!]));
  };
  const all = year(null, null);
  const some = year(['far'], [0]);
  expect([all.size, some.size]).toEqual([4, 1]);
  const [id, energy] = [...some][0]!;
  expect(energy).toEqual(all.get(id));
  // The body before it takes some of its sun.
  expect(energy.kWh).toBeLessThan(all.get(id.replace('far', 'near'))!.kWh);
});
