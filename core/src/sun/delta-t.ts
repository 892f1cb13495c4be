/**
 * ΔT = TT − UT in seconds for a decimal year.
 * Source: Espenak & Meeus, Five Millennium Canon of Solar Eclipses (NASA/TP-2006-214141), polynomial expressions,
 * for 1700 to 2150 piecewise; outside, the long-term parabola.
 */
export function deltaT(year: number): number {
  if (year < 1700 || year >= 2150) {
    const u = (year - 1820) / 100;
    return -20 + 32 * u * u;
  }
  if (year < 1800) return poly(year - 1700, [8.83, 0.1603, -0.0059285, 0.00013336, -1 / 1174000]);
  if (year < 1860)
    return poly(
      year - 1800,
      [13.72, -0.332447, 0.0068612, 0.0041116, -0.00037436, 0.0000121272, -0.0000001699, 0.000000000875],
    );
  if (year < 1900) return poly(year - 1860, [7.62, 0.5737, -0.251754, 0.01680668, -0.0004473624, 1 / 233174]);
  if (year < 1920) return poly(year - 1900, [-2.79, 1.494119, -0.0598939, 0.0061966, -0.000197]);
  if (year < 1941) return poly(year - 1920, [21.2, 0.84493, -0.0761, 0.0020936]);
  if (year < 1961) return poly(year - 1950, [29.07, 0.407, -1 / 233, 1 / 2547]);
  if (year < 1986) return poly(year - 1975, [45.45, 1.067, -1 / 260, -1 / 718]);
  if (year < 2005)
    return poly(year - 2000, [63.86, 0.3345, -0.060374, 0.0017275, 0.000651814, 0.00002373599]);
  if (year < 2050) return poly(year - 2000, [62.92, 0.32217, 0.005589]);
  const u = (year - 1820) / 100;
  return -20 + 32 * u * u - 0.5628 * (2150 - year);
}

/** Value of Σ cᵢ·xⁱ. */
export function poly(x: number, coefficients: readonly number[]): number {
  let sum = 0;
  for (let i = coefficients.length - 1; i >= 0; i--) sum = sum * x + coefficients[i]!;
  return sum;
}
