import { RAD, SunTrack, sunVector } from '@dial-shade/core';

/** Sun directions spread over the hours of a year at 51.5° N, in the order of time; 3 numbers each. */
export function sunDirections(count: number): Float64Array {
  const track = new SunTrack({ latitudeDeg: 51.5, longitudeDeg: 0, elevationM: 20 });
  const all: number[][] = [];
  for (let at = Date.UTC(2026, 0, 1); at < Date.UTC(2027, 0, 1); at += 30 * 60_000) {
    const sun = track.at(at);
    if (sun.altitudeDeg > 0) all.push(sunVector(sun.altitudeDeg, sun.azimuthDeg, 0));
  }
  return pick(all, count);
}

/** Centres of the 577 sky patches: eight bands of altitude of 12°, each patch split 2 × 2, and the zenith. */
export function skyDirections(): Float64Array {
  const bands = [30, 30, 24, 24, 18, 12, 6];
  const all: number[][] = [];
  bands.forEach((patches, band) => {
    for (const half of [0.25, 0.75]) {
      const altitude = (band + half) * 12;
      for (let i = 0; i < patches * 2; i++) all.push(sunVector(altitude, ((i + 0.5) * 180) / patches, 0));
    }
  });
  all.push([0, 0, Math.sin(90 * RAD)]);
  return pick(all, all.length);
}

function pick(all: number[][], count: number): Float64Array {
  const out = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) out.set(all[Math.floor((i * all.length) / count)]!, i * 3);
  return Float64Array.from(Float32Array.from(out));
}
