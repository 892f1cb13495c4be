import { wallFaces } from '../form';
import type { Ground, MassShape, OpeningRule, RuleMake } from '../project';
import { inScope } from './rule';

/** Openings that rules may make in one option. */
export const MAX_RULED = 60_000;

/** How many openings a rule makes on a plain stretch of wall, at most. */
function perWall(make: RuleMake, lengthM: number, heightM: number): number {
  switch (make.by) {
    case 'ratio':
      return make.bayM > 0 ? Math.max(1, Math.round(lengthM / make.bayM)) : 1;
    case 'size':
      return Math.max(0, Math.floor(lengthM / Math.max(make.spacingM, make.widthM, 0.05)) + 1);
    case 'door':
      return 1;
    case 'panels':
      return Math.floor(lengthM / make.panelWidthM) * Math.floor(heightM / make.panelHeightM);
  }
}

const counted = new WeakMap<
  MassShape,
  { ground: Ground; rules: readonly OpeningRule[]; trueNorthDeg: number; count: number }
>();

/** How many openings rules make in a body, at most: counted from lengths alone, nothing is fitted. */
export function ruledOpenings(
  body: MassShape,
  rules: readonly OpeningRule[],
  ground: Ground,
  trueNorthDeg: number,
): number {
  if (rules.length === 0) return 0;
  const known = counted.get(body);
  if (
    known?.ground === ground &&
    known.trueNorthDeg === trueNorthDeg &&
    known.rules.length === rules.length &&
    known.rules.every((rule, i) => rule === rules[i])
  )
    return known.count;
  let count = 0;
  for (const face of wallFaces(body, ground))
    for (const rule of rules)
      if (inScope(rule, body.id, face, trueNorthDeg)) count += perWall(rule.make, face.lengthM, face.heightM);
  counted.set(body, { ground, rules, trueNorthDeg, count });
  return count;
}
