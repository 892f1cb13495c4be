import { sweepMakes, type SweepKind, toBase64 } from '@dial-shade/core';
import { sweepSignature } from '../state/kept-sweeps';
import type { Sweep } from './sweep-store';

/** A sweep as it is kept: its devices as the ranges that they were made of, what was found as numbers in base64. */
interface KeptSweep extends Pick<Sweep, 'optionId' | 'opening' | 'device' | 'numbers' | 'sets' | 'facts'> {
  kinds: readonly SweepKind[];
  signature: string;
  /** Three floats a device: kept out, let in, sky; NaN where it has not come to it, or goes by no wanted hours. */
  found: string;
}

/** What the last sweep of a device is kept under. */
export const keyOfSweep = (optionId: string, device: string) => `devices:${optionId}:${device}`;

/** A sweep as it is kept. */
export function sweepToKeep(sweep: Sweep, kinds: readonly SweepKind[]): KeptSweep {
  const { optionId, opening, device, numbers, sets, facts, parts, found } = sweep;
  const values = Float32Array.from(
    found.flatMap((one) => (one ? [one.keptOut, one.letIn ?? NaN, one.sky] : [NaN, NaN, NaN])),
  );
  return {
    ...{ optionId, opening, device, numbers, sets, facts, kinds },
    signature: sweepSignature(parts),
    found: toBase64(new Uint8Array(values.buffer)),
  };
}

/** What was kept as a sweep; null where it cannot be read. */
export function sweepFromKept(kept: Record<string, unknown>, parts: readonly unknown[]): Sweep | null {
  try {
    const { optionId, opening, device, numbers, sets, facts, kinds, signature, ...rest } =
      kept as unknown as KeptSweep;
    const { makes, leftOut } = sweepMakes(kinds);
    const bytes = Uint8Array.from(atob(rest.found), (letter) => letter.charCodeAt(0));
    const values = new Float32Array(bytes.buffer);
    if (values.length !== makes.length * 3) return null;
    const found = makes.map((_, i) => {
      const [keptOut, letIn, sky] = values.subarray(i * 3, i * 3 + 3) as unknown as [number, number, number];
      return Number.isNaN(keptOut) ? undefined : { keptOut, letIn: Number.isNaN(letIn) ? null : letIn, sky };
    });
    // What is kept under another signature is out of date: nothing is what it was run from.
    const from = signature === sweepSignature(parts) ? parts : parts.map(() => Symbol('changed'));
    return { ...{ optionId, opening, device, numbers, sets, facts, makes, leftOut, found }, parts: from };
  } catch {
    return null;
  }
}
