import type { TargetGlass } from '../flat-target';

/**
 * How the g-value of a pane falls with the angle of incidence, as a share of that at normal incidence:
 * 1 − a z^α − b z^β − c z^γ, z = θ/90°, a = 8, b = 0.25/q, c = 1 − a − b, α = 5.2 + 0.7 q, β = 2,
 * γ = (5.26 + 0.06 p) + (0.73 + 0.04 p) q, for p panes of category q (4: uncoated). Karlsson & Roos, Solar Energy 68 (2000) 321.
 * @param cosine of the angle of incidence
 */
export function angularG(cosine: number, { panes: p, categoryQ: q }: TargetGlass): number {
  const z = Math.acos(Math.min(1, Math.max(0, cosine))) / (Math.PI / 2);
  const b = 0.25 / q;
  const share =
    1 - 8 * z ** (5.2 + 0.7 * q) - b * z ** 2 - (1 - 8 - b) * z ** (5.26 + 0.06 * p + (0.73 + 0.04 * p) * q);
  return Math.max(0, Math.min(1, share));
}

/** The same for light that comes evenly from the half-space before the pane: 2 ∫ g(θ) sin θ cos θ dθ. */
export function hemisphericalG(glass: TargetGlass): number {
  const STEPS = 720;
  let sum = 0;
  // Midpoints of equal steps of sin²θ carry the same share of the light.
  for (let i = 0; i < STEPS; i++) sum += angularG(Math.sqrt(1 - (i + 0.5) / STEPS), glass);
  return sum / STEPS;
}
