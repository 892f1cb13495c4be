import { methodOf } from '../../method';
import { studyKind, weightsBefore } from './kind';
import { openSums, scaled } from './open-sums';
import { type SkySamples, skySamples } from './sky-samples';

/** Light of the whole overcast sky over its light on the open level: (4π/3) / (7π/9), in units of the zenith. */
const WHOLE = 12 / 7;

/** Vertical sky component. */
export const skyComponent = studyKind<SkySamples>({
  kind: 'vsc',
  method: methodOf(),
  name: 'Vertical sky component',
  purpose: 'How much of the overcast sky’s light reaches a wall, against what an open level place gets.',
  hasWindow: false,
  hasStep: false,
  needsWeather: false,
  directionsAre: 'parts of the sky',
  ramp: 'sky',
  most: 40,
  atLeast: 27,
  measures: [
    {
      key: 'vsc',
      label: 'Vertical sky component',
      unit: '%',
      heading: 'vsc (%)',
      digits: 1,
      definition:
        'Light of the CIE overcast sky, L(γ)/Lz = (1 + 2 sin γ)/3 (Moon & Spencer 1942), that falls straight from the sky on the surface, as a share of that on an open level place. An open wall has 39.6 %. On a surface that is not upright it is the sky component of that surface.',
    },
  ],
  directions: skySamples,
  notes: () => [],
  weights(sky, at, sensor, into) {
    weightsBefore(sky, at, sensor, into, (_, cosine) => (100 * WHOLE * cosine) / sky.count);
    return 0;
  },
  weigh(open, sky, at) {
    const [sum] = openSums(
      open,
      sky.count,
      at,
      [{ from: 0, to: sky.count }],
      (sensor, [into]) => void this.weights!(sky, at, sensor, into!),
    );
    return { vsc: scaled(sum!, 1) };
  },
});
