import { cosineTo, openShare, studyKind, weightsBefore } from './kind';
import { type SkySamples, skySamples } from './sky-samples';

/** Sky view factor. */
export const skyView = studyKind<SkySamples>({
  kind: 'sky-view',
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
  weigh(open, sky, { normals }) {
    const view = new Float32Array(open.sensors);
    for (let s = 0; s < open.sensors; s++) {
      let sum = 0;
      for (let d = 0; d < sky.count; d++) {
        const share = openShare(open, sky.count, s, d);
        // The directions lie as dense as the overcast sky is bright; dividing by it makes them even.
        if (share > 0) sum += (share * cosineTo(normals, open.from + s, sky.vectors, d)) / sky.luminance[d]!;
      }
      view[s] = (100 * (4 / 3) * sum) / sky.count;
    }
    return { view };
  },
});
