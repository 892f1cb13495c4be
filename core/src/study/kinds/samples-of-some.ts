import { skySpiral } from '../../sky';
import { type HourlyRadiation, ofSkies, type RadiationSamples, readSky } from './radiation-samples';

/**
 * Samples of some of their hours alone.
 * @param isKept by sun, for the hours whose middle sun it is too; of hours without a sun for null
 * @param parts directions of the sky
 */
export function samplesOfSome(
  samples: RadiationSamples,
  isKept: (sun: number | null) => boolean,
  parts: number,
): RadiationSamples {
  const { suns, vectors, date, moments, energy, month, hour, skies, skyHours, hourly } = samples;
  const kept = Array.from({ length: suns }, (_, d) => d).filter(isKept);
  const placeOf = new Int32Array(suns).fill(-1);
  kept.forEach((d, i) => (placeOf[d] = i));
  const count = kept.length + parts;
  const towards = new Float64Array(count * 3);
  kept.forEach((d, i) => towards.set(vectors.subarray(d * 3, d * 3 + 3), i * 3));
  towards.set(skySpiral(parts).vectors, kept.length * 3);
  const dates = new Uint16Array(count).fill(date[suns] ?? 0);
  kept.forEach((d, i) => (dates[i] = date[d]!));
  const ofSuns = (values: Float32Array) =>
    Float32Array.from({ length: count }, (_, i) => (i < kept.length ? values[kept[i]!]! : NaN));
  const isHourKept = (k: number) => isKept(skyHours.sun[k]! < 0 ? null : skyHours.sun[k]!);
  const hours = Array.from({ length: skies.count }, (_, k) => k).filter(isHourKept);
  const skyAt = new Int32Array(skies.count).fill(-1);
  hours.forEach((k, i) => (skyAt[k] = i));
  const some = ofSkies(
    {
      count: hours.length,
      sun: Float64Array.from(hours.flatMap((k) => [...skies.sun.subarray(k * 3, k * 3 + 3)])),
      five: Float64Array.from(hours.flatMap((k) => [...skies.five.subarray(k * 5, k * 5 + 5)])),
      diffuse: Float64Array.from(hours, (k) => skies.diffuse[k]!),
    },
    {
      sun: Int32Array.from(hours, (k) => (skyHours.sun[k]! < 0 ? -1 : placeOf[skyHours.sun[k]!]!)),
      month: Uint8Array.from(hours, (k) => skyHours.month[k]!),
      hour: Uint8Array.from(hours, (k) => skyHours.hour[k]!),
      share: Float64Array.from(hours, (k) => skyHours.share[k]!),
      reflected: Float64Array.from(hours, (k) => skyHours.reflected[k]!),
    },
  );
  return {
    ...samples,
    ...some,
    skyByMonth: readSky(some.nodesByMonth, parts),
    skyByHour: readSky(some.nodesByHour, parts),
    count,
    vectors: towards,
    date: dates,
    ...(moments && { moments: { minutes: ofSuns(moments.minutes), beamWm2: ofSuns(moments.beamWm2) } }),
    suns: kept.length,
    parts,
    energy: Float64Array.from(kept, (d) => energy[d]!),
    month: Uint8Array.from(kept, (d) => month[d]!),
    hour: Uint8Array.from(kept, (d) => hour[d]!),
    hourly: hourly && someHours(hourly, placeOf, skyAt),
  };
}

/** The hours whose skies are kept, with those of their suns that are. */
function someHours(hourly: HourlyRadiation, placeOf: Int32Array, skyAt: Int32Array): HourlyRadiation {
  const { stamp, sunOf, sunEnds, beam, reflected } = hourly;
  const kept = Array.from({ length: hourly.count }, (_, k) => k).filter((k) => skyAt[hourly.skyAt[k]!]! >= 0);
  const suns = kept.map((k) =>
    Array.from(sunOf.subarray(k > 0 ? sunEnds[k - 1]! : 0, sunEnds[k]!), (d) => placeOf[d]!).filter(
      (d) => d >= 0,
    ),
  );
  let end = 0;
  return {
    count: kept.length,
    stamp: Uint32Array.from(kept, (k) => stamp[k]!),
    sunOf: Uint32Array.from(suns.flat()),
    sunEnds: Uint32Array.from(suns, (own) => (end += own.length)),
    beam: Float64Array.from(kept, (k) => beam[k]!),
    skyAt: Uint32Array.from(kept, (k) => skyAt[hourly.skyAt[k]!]!),
    reflected: Float64Array.from(kept, (k) => reflected[k]!),
  };
}
