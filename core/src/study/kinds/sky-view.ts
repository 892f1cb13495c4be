import { methodOf } from '../../method';
import { studyKind, weightsBefore } from './kind';
import { openSums, scaled } from './open-sums';
import { type SkySamples, skySamples } from './sky-samples';

/** Sky view factor. */
export const skyView = studyKind<SkySamples>({
  kind: 'sky-view',
  method: methodOf(),
  name: 'Sky view factor',
  purpose: 'How much of what a surface looks at is open sky.',
  hasWindow: false,
  hasStep: false,
  needsWeather: false,
  directionsAre: 'parts of the sky',
  ramp: 'sky',
  most: 100,
  atLeast: 50,
  measures: [
    {
      key: 'view',
      label: 'Sky view factor',
      unit: '%',
      heading: 'sky view factor (%)',
      digits: 1,
      definition:
        'Share of the hemisphere about the normal of the surface, weighted with the cosine to it, that is open sky: 100 % on open level ground, 50 % on an open wall.',
    },
  ],
  directions: skySamples,
  notes: () => [],
  weights(sky, at, sensor, into) {
    weightsBefore(
      sky,
      at,
      sensor,
      into,
      (d, cosine) => (100 * (4 / 3) * cosine) / sky.luminance[d]! / sky.count,
    );
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
    return { view: scaled(sum!, 1) };
  },
});
