import { house, NONE, OVERHANG, WINDOW } from '../../testing/shaded-house';
import { RAD } from '../civil';
import { glazedPlaces } from '../devices';
import { deviceSolid } from '../scene';
import { GlassYear, IN_MOTION } from './glass-year';
import { MASK_ALTITUDES, MASK_AZIMUTHS, shadingMask } from './shading-mask';

test('a long overhang: the share in shade at every place of the sky is (D tan VSA − y)/H', () => {
  const project = house(null);
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const year = new GlassYear({ project, optionId: 'a', meshes: NONE }, places, {
    ...IN_MOTION,
    least: 512,
    most: 512,
  });
  const long = { ...OVERHANG, sideM: 20 };
  const { devices, others } = shadingMask(year, [deviceSolid({ make: long }, places)], 0);
  let told = 0;
  for (let a = 0; a < MASK_AZIMUTHS; a++)
    for (let h = 0; h < MASK_ALTITUDES; h++) {
      const i = a * MASK_ALTITUDES + h;
      const hsa = ((a + 0.5) * 360) / MASK_AZIMUTHS - 180;
      const altitude = ((h + 0.5) * 90) / MASK_ALTITUDES;
      const facing = Math.cos(hsa * RAD) * Math.cos(altitude * RAD);
      if (facing < Math.cos(88 * RAD) - 1e-9) {
        expect(devices[i]).toBeNaN();
        continue;
      }
      expect(others[i]).toBeCloseTo(0, 6);
      // Farther aside than this the overhang ends.
      if (Math.abs(hsa) > 80) continue;
      const vsa = Math.tan(altitude * RAD) / Math.cos(hsa * RAD);
      const expected = Math.max(0, Math.min(1, (long.depthM * vsa - long.aboveM) / WINDOW.height));
      expect(Math.abs(devices[i]! - expected)).toBeLessThan(0.06);
      told++;
    }
  expect(told).toBeGreaterThan(1000);
});
